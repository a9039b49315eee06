import { useState } from 'react';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { clock } from '../../ui/format';
import type { Pass, Trial } from './driveWords';

const first = 12;

const colour: Partial<Record<Pass['outcome'], string>> = { missed: 'font-semibold text-refused', misread: 'font-semibold text-noted' };

/** Pass by pass, the last one first; what went wrong alone, where that is asked for. */
export function PassList({ trial, mayWork, onTakeBack }: { trial: Trial; mayWork: boolean; onTakeBack: (id: string) => void }) {
  const { job } = useJob();
  const [isAll, setAll] = useState(false);
  const [isWrong, setWrong] = useState(false);
  const zone = job?.timeZone ?? 'UTC';
  const some = trial.passes.filter((p) => !isWrong || p.outcome === 'missed' || p.outcome === 'misread').reverse();
  const shown = isAll ? some : some.slice(0, first);
  return (
    <section className="mt-4" aria-label={t('plates.page.passes')}>
      <div className="flex items-center gap-4 border-b border-ink text-label">
        <h2 className="font-bold">{t('plates.page.passes')}</h2>
        <label className="ml-auto flex min-h-11 items-center gap-2">
          <input type="checkbox" className="size-5" checked={isWrong} onChange={(e) => setWrong(e.target.checked)} />
          {t('plates.page.only-wrong')}
        </label>
      </div>
      <ul className="text-label">
        {shown.map((p) => (
          <li key={p.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-dotted border-hairline py-1">
            <span className="w-8 text-right font-read">{p.number}</span>
            <span className="font-read">{clock(p.at, zone)}</span>
            <b className="w-8">{p.vehicle}</b>
            <span className="text-ink-2">
              {[p.kmh && t('drive.of.speed', p.kmh), p.lane, trial.design?.bothWays && t(`drive.way.${p.way}`)].filter(Boolean).join(', ')}
            </span>
            <span className={colour[p.outcome] ?? ''}>{t(`plates.outcome.${p.outcome}`)}</span>
            {p.outcome === 'misread' && (
              <span className="font-read">{p.read ? t('plates.page.read-as', p.read) : t('plates.page.read-other')}</span>
            )}
            {p.offSeconds !== null && <span className="text-ink-3">{t('plates.page.off', p.offSeconds.toFixed(1))}</span>}
            {mayWork && (
              <button className="ml-auto min-h-8 underline max-sm:min-h-11" onClick={() => onTakeBack(p.id)}>
                {t('plates.page.not-driven')}
                <span className="sr-only"> {p.number}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {some.length === 0 && <p className="py-1 text-label text-ink-2">{t('plates.page.nothing-wrong')}</p>}
      {some.length > first && (
        <button className="min-h-11 text-label font-semibold underline" onClick={() => setAll(!isAll)}>
          {isAll ? t('plates.page.fewer') : t('plates.page.all', some.length)}
        </button>
      )}
    </section>
  );
}
