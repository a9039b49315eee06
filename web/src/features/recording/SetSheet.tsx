import { useState } from 'react';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import type { RecorderPage } from './channels';

/** What one writing to the recorder would put right, looked at before it is done. */
export function SetSheet({ page, onGo, onClose }: { page: RecorderPage; onGo: (channels: number[]) => void; onClose: () => void }) {
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const chosen = page.proposed.filter((p) => !left.has(p.channel)).map((p) => p.channel);
  return (
    <Sheet title={count('rec.set', page.proposed.length)} hint={t('rec.set-hint')} onClose={onClose} wide>
      {page.moves.length > 0 && <p className="my-1 font-semibold">{count('rec.set.moves', page.moves.length)}.</p>}
      <ul className="max-h-[46dvh] overflow-y-auto border-y border-hairline">
        {page.proposed.map((p) => (
          <li key={p.channel} className="border-b border-dotted border-hairline">
            <label className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="h-5 w-5 shrink-0 accent-ink"
                checked={!left.has(p.channel)}
                onChange={(e) => {
                  const next = new Set(left);
                  if (e.target.checked) next.delete(p.channel);
                  else next.add(p.channel);
                  setLeft(next);
                }}
              />
              <b className="font-read w-10 text-right">{p.channel}</b>
              <span className="min-w-0">
                {[
                  p.from === null ? '' : t('rec.set.device', p.comes, p.from),
                  p.name === null ? '' : t('rec.set.name', p.name, p.nameNow || t('rec.nobody')),
                ]
                  .filter(Boolean)
                  .join('; ')}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <button className="forward mt-3 disabled:opacity-40" disabled={chosen.length === 0} onClick={() => onGo(chosen)}>
        {t('rec.set.go', page.label)}
      </button>
    </Sheet>
  );
}

/** One is said otherwise than several. */
const count = (key: string, n: number) => (n === 1 ? t(`${key}-1`) : t(key, n));
