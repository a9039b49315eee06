import { say, t } from '../../texts';
import { axisFrom, countNow, onAxis, type Count, type Trial } from './driveWords';

/** From how little to how much the count leaves open, against what is asked. */
function RateBar({ count, required, from }: { count: Count; required: number; from: number }) {
  const axis = onAxis(count, required, from);
  const width = 180;
  if (!axis) return null;
  const isShown = count.more === 0;
  const colour = count.more === null ? 'var(--color-refused)' : isShown ? 'var(--color-ink)' : 'var(--color-noted)';
  return (
    <svg width={width} height={20} aria-hidden className="max-w-full">
      <rect
        x={axis.required * width}
        width={(1 - axis.required) * width}
        y={6}
        height={8}
        fill="var(--color-band, var(--color-hairline))"
      />
      <line x1={0} x2={width} y1={10} y2={10} stroke="var(--color-hairline)" />
      <line x1={axis.required * width} x2={axis.required * width} y1={2} y2={18} stroke="var(--color-ink)" strokeWidth={2} />
      <line x1={axis.low * width} x2={axis.high * width - 1} y1={10} y2={10} stroke={colour} strokeWidth={3} />
      <circle cx={Math.min(width - 5, axis.at * width)} cy={10} r={5} fill={colour} />
    </svg>
  );
}

/** How sure it is, in words. */
export const moreWords = (count: Count, required: number): string =>
  !count.rate
    ? t('plates.page.none-counts')
    : count.more === null
      ? t('plates.page.shown-not', required)
      : count.more === 0
        ? t('plates.page.shown', required)
        : t('plates.page.more', count.more, required);

/** What the drive says of the light that it is, in one line. */
export function DriveResult({ trial }: { trial: Trial }) {
  const count = countNow(trial);
  if (!count) return null;
  const light = say(count.of).toLowerCase();
  return (
    <p className="mt-3" data-testid="drive-result">
      <span className="block text-title leading-tight font-bold">
        {count.counted ? t('plates.page.result', count.right, count.counted, light) : t('plates.page.result-none', light)}
      </span>
      {count.rate && (
        <span className={`text-table font-semibold ${count.more === null ? 'text-refused' : count.more === 0 ? '' : 'text-noted'}`}>
          {t('plates.page.between', count.rate.lowPercent.toFixed(0), count.rate.highPercent.toFixed(0))}:{' '}
          {moreWords(count, trial.requiredPercent)}
        </span>
      )}
    </p>
  );
}

/** By day, by night, and each sort of pass: how many count, how many were read right, and how sure that is. */
export function DriveCounts({ trial }: { trial: Trial }) {
  const shown = trial.counts.filter((c, i) => i < 2 || c.counted > 0);
  const from = axisFrom(shown, trial.requiredPercent);
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="w-full text-table">
        <thead>
          <tr className="border-b border-ink text-left text-label">
            <th className="py-1 pr-3 font-semibold">{t('plates.page.of')}</th>
            <th className="pr-3 text-right font-semibold">{t('plates.page.right')}</th>
            <th className="pr-3 text-right font-semibold">{t('plates.page.wrong')}</th>
            <th className="pr-3 text-right font-semibold">{t('plates.page.missed')}</th>
            <th className="pr-3 text-right font-semibold">{t('plates.page.hidden')}</th>
            <th className="font-semibold">{t('plates.page.rate', trial.requiredPercent)}</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((c, i) => (
            <tr key={say(c.of)} className={`border-b border-dotted border-hairline align-top ${i < 2 ? '' : 'text-label'}`}>
              <th className={`py-1 pr-3 text-left ${i < 2 ? 'font-bold' : 'font-normal'}`}>{say(c.of)}</th>
              <td className="pr-3 text-right font-read whitespace-nowrap">
                {c.counted ? t('plates.page.of-all', c.right, c.counted) : ''}
              </td>
              <td className="pr-3 text-right font-read">{c.misread || ''}</td>
              <td className="pr-3 text-right font-read">{c.missed || ''}</td>
              <td className="pr-3 text-right font-read text-ink-2">{c.hidden || ''}</td>
              <td className="py-1">
                <RateBar count={c} required={trial.requiredPercent} from={from} />
                <span className="block text-label">
                  {c.rate && (
                    <b className="font-read">{t('plates.page.between', c.rate.lowPercent.toFixed(0), c.rate.highPercent.toFixed(0))} </b>
                  )}
                  {(i < 2 || c.rate) && moreWords(c, trial.requiredPercent)}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
