import { useState } from 'react';
import type { WrittenChannel } from '../../api/types';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import type { RecorderPage } from './channels';
import { begun, nothingOf, typed } from './typedList';

const fields = ['name', 'address', 'serial'] as const;

/** What a recorder's own page shows of its channels, typed by whoever stands before it: who is registered, and nothing of what runs. */
export default function TypeSheet({
  page,
  onGo,
  onClose,
}: {
  page: RecorderPage;
  onGo: (lines: WrittenChannel[]) => void;
  onClose: () => void;
}) {
  const [lines, setLines] = useState<WrittenChannel[]>(() => begun(page.channels));
  const put = (at: number, change: Partial<WrittenChannel>) => setLines(lines.map((l, i) => (i === at ? { ...l, ...change } : l)));
  const said = typed(lines);
  return (
    <Sheet title={t('rec.type', page.label)} hint={t('rec.type-hint')} onClose={onClose} wide>
      <div className="max-h-[52dvh] overflow-y-auto border-y border-hairline px-1 pb-1">
        <table className="w-full text-label">
          <thead className="sticky top-0 bg-paper text-left">
            <tr>
              <th className="w-12 py-1 pr-2 font-semibold">{t('rec.type.channel')}</th>
              {fields.map((f) => (
                <th key={f} className="py-1 pr-2 font-semibold">
                  {t(`rec.type.${f}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line, i) => (
              <tr key={line.channel}>
                <th scope="row" className="font-read pr-2 text-right font-bold">
                  {line.channel}
                </th>
                {fields.map((f) => (
                  <td key={f} className="py-0.5 pr-2">
                    <input
                      className="field font-read !min-h-11 w-full min-w-0"
                      value={line[f]}
                      maxLength={60}
                      aria-label={`${t(`rec.type.${f}`)}, ${line.channel}`}
                      onChange={(e) => put(i, { [f]: e.target.value })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <button
        type="button"
        className="min-h-11 text-label font-semibold underline"
        onClick={() => setLines([...lines, nothingOf(Math.max(0, ...lines.map((l) => l.channel)) + 1)])}
      >
        {t('rec.type.more')}
      </button>
      <button className="forward w-full disabled:opacity-40" disabled={said.length === 0} onClick={() => onGo(said)}>
        {t('rec.type.go', said.length)}
      </button>
    </Sheet>
  );
}
