import { say, t } from '../../texts';
import type { Figures } from './geometry';

/** What each purpose asks of the tilt, and whether one tilt does for all. */
export function TiltWindow({ tilt, figures, width }: { tilt: number; figures: Figures; width: number }) {
  if (figures.tilts.length === 0) return null;
  const ends = figures.tilts.flatMap((n) => [n.least, n.most]).filter((v): v is number => v !== null);
  const [from, to] = [Math.min(0, tilt, ...ends) - 4, Math.max(tilt, ...ends, 60) + 4];
  const isNarrow = width < 560;
  const wide = isNarrow ? width - 236 : Math.min(280, width * 0.34);
  const x = (deg: number) => ((deg - from) / (to - from)) * wide;
  const { tiltLeast: least, tiltMost: most } = figures;
  const none = least !== null && most !== null && least > most;
  return (
    <section aria-label={t('views.tilt-window')} className="mt-2 border-t border-hairline pt-1">
      <p className="flex flex-wrap gap-x-4 text-label">
        <b>{t('views.tilt-window')}</b>
        <span className={none ? 'font-semibold text-refused' : ''}>
          {none
            ? t('views.tilt-none')
            : least !== null && most !== null
              ? t('views.tilt-all', least.toFixed(1), most.toFixed(1))
              : least !== null
                ? t('views.tilt-from', least.toFixed(1))
                : most !== null
                  ? t('views.tilt-to', most.toFixed(1))
                  : ''}
        </span>
        {figures.axisMetres !== null && <span className="text-ink-3">{t('views.axis-meets', figures.axisMetres.toFixed(1))}</span>}
      </p>
      <ul>
        {figures.tilts.map((n, i) => (
          <li
            key={i}
            className="grid min-h-7 items-center gap-2 text-label"
            style={{ gridTemplateColumns: isNarrow ? `${wide}px 7rem 6.5rem` : `minmax(0,1fr) ${wide}px 7rem 6.5rem` }}
          >
            <span className={isNarrow ? 'col-span-3 font-semibold' : 'truncate'}>{say(n.what)}</span>
            <svg width={wide} height="18" aria-hidden>
              <line x1="0" x2={wide} y1="9" y2="9" stroke="var(--color-rule)" />
              <rect
                x={n.least === null ? 0 : x(n.least)}
                width={Math.max(0, (n.most === null ? wide : x(n.most)) - (n.least === null ? 0 : x(n.least)))}
                y="6"
                height="6"
                fill="var(--color-band)"
              />
              {[n.least, n.most].map(
                (end, k) =>
                  end !== null && <line key={k} x1={x(end)} x2={x(end)} y1="3" y2="15" stroke="var(--color-ink)" strokeWidth="2" />,
              )}
              <path
                d={`M${x(tilt)} 4L${x(tilt) + 5} 9L${x(tilt)} 14L${x(tilt) - 5} 9Z`}
                fill={n.holds ? 'var(--color-paper)' : 'var(--color-refused)'}
                stroke={n.holds ? 'var(--color-ink)' : 'var(--color-refused)'}
                strokeWidth="1.8"
              />
            </svg>
            <span className="font-read text-ink-2">
              {n.least !== null && n.most !== null
                ? t('views.between', n.least.toFixed(1), n.most.toFixed(1))
                : n.least !== null
                  ? t('views.at-least', n.least.toFixed(1))
                  : n.most !== null
                    ? t('views.at-most', n.most.toFixed(1))
                    : ''}
            </span>
            <span className={`font-read font-semibold ${n.holds ? '' : 'text-refused'}`}>
              {n.spare === null
                ? ''
                : n.spare >= 0
                  ? t('views.spare', `${n.spare.toFixed(1)}°`)
                  : t('views.over', `${(-n.spare).toFixed(1)}°`)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
