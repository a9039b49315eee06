import { t } from '../../texts';
import { marksOf, type Mark, type Trial } from './driveWords';

const top = 26;
const bottom = 96;
const height = 122;

/** Solid where a pass was read, pinched where it was read wrong, parted where it was missed, dashed where the reader may not write it. */
function Bond({ mark: { x, pass } }: { mark: Mark }) {
  const a = top + 7;
  const b = bottom - 7;
  const middle = (a + b) / 2;
  switch (pass?.outcome) {
    case 'read':
      return <line x1={x} x2={x} y1={a} y2={b} stroke="var(--color-ink)" strokeWidth={5} />;
    case 'misread':
      return (
        <path d={`M${x - 2.5} ${a} h5 L${x + 0.6} ${middle} L${x + 2.5} ${b} h-5 L${x - 0.6} ${middle} Z`} fill="var(--color-noted)" />
      );
    case 'missed':
      return (
        <>
          <line x1={x} x2={x} y1={a} y2={middle - 6} stroke="var(--color-refused)" strokeWidth={5} />
          <line x1={x + 3} x2={x + 3} y1={middle + 6} y2={b} stroke="var(--color-refused)" strokeWidth={5} />
        </>
      );
    case 'hidden':
      return <line x1={x} x2={x} y1={a} y2={b} stroke="var(--color-open)" strokeWidth={1.6} strokeDasharray="4 4" />;
    case 'unclear':
      return <line x1={x} x2={x} y1={a} y2={b} stroke="var(--color-noted)" strokeWidth={1.6} strokeDasharray="1 4" />;
    default:
      return null;
  }
}

/** What was driven above, what the list has of it below. */
export function DriveStrip({ trial }: { trial: Trial }) {
  const { marks, width } = marksOf(trial);
  const count = (what: string) => trial.passes.filter((p) => p.outcome === what).length;
  return (
    <figure className="mt-3 min-w-0">
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={t('plates.page.strip')}>
        <svg
          width={width + 8}
          height={height}
          role="img"
          aria-label={t('plates.page.strip-says', count('read'), count('misread'), count('missed'), count('hidden') + count('unclear'))}
        >
          <line x1={0} x2={width} y1={top} y2={top} stroke="var(--color-hairline)" />
          <line x1={0} x2={width} y1={bottom} y2={bottom} stroke="var(--color-hairline)" />
          {marks.map((mark) => (
            <g key={mark.x}>
              <title>{tip(mark)}</title>
              <rect x={mark.x - 13} width={26} y={0} height={height} fill="transparent" />
              <Bond mark={mark} />
              {mark.pass && (
                <>
                  <circle
                    cx={mark.x}
                    cy={top}
                    r={6}
                    fill={mark.pass.outcome === 'noList' ? 'var(--color-paper)' : 'var(--color-ink)'}
                    stroke="var(--color-ink)"
                    strokeWidth={1.6}
                  />
                  <text x={mark.x} y={14} textAnchor="middle" className="font-read" fontSize={12} fill="var(--color-ink)">
                    {mark.pass.vehicle.slice(0, 3)}
                  </text>
                  {mark.pass.isNight && (
                    <path d={`M${mark.x - 4} ${height - 10} a4 4 0 1 0 6 5 a5 5 0 0 1 -6 -5`} fill="var(--color-ink-3)" />
                  )}
                </>
              )}
              {mark.record && (
                <circle
                  cx={mark.x}
                  cy={bottom}
                  r={6}
                  fill={mark.pass ? (mark.pass.outcome === 'misread' ? 'var(--color-noted)' : 'var(--color-ink)') : 'var(--color-paper)'}
                  stroke={mark.pass && mark.pass.outcome === 'read' ? 'var(--color-ink)' : 'var(--color-noted)'}
                  strokeWidth={1.6}
                />
              )}
              {mark.record && !mark.pass && (
                <text x={mark.x} y={bottom - 12} textAnchor="middle" fontSize={12} fill="var(--color-noted)">
                  {mark.record.fate === 'double' ? '2×' : '?'}
                </text>
              )}
            </g>
          ))}
        </svg>
      </div>
      <figcaption className="text-label text-ink-2">{t('plates.page.legend')}</figcaption>
    </figure>
  );
}

function tip({ pass, record }: Mark): string {
  if (!pass) return t(record?.fate === 'double' ? 'plates.page.tip-double' : 'plates.page.tip-unticked', record?.text ?? '');
  const read = pass.read && pass.outcome === 'misread' ? t('plates.page.read-as', pass.read) : '';
  return [`${pass.number} ${pass.vehicle}`, t(`plates.outcome.${pass.outcome}`), read].filter(Boolean).join(', ');
}
