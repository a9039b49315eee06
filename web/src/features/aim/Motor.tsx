import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';
import { percent } from './focusWords';
import { curve, isSweeping, shareOf, STEPS, sweepWords, type MotorLive } from './motor';

const WIDE = 400;
const HIGH = 64;

/** How sharp it was at each place of its travel; a stroke stands where the motor is. */
function Curve({ motor }: { motor: MotorLive }) {
  const points = curve(motor.travel, motor.sweep);
  const at = (p: { x: number; y: number }) => `${(4 + p.x * (WIDE - 8)).toFixed(1)} ${(HIGH - 4 - p.y * (HIGH - 12)).toFixed(1)}`;
  const stands = motor.place === null ? null : 4 + shareOf(motor.travel, motor.place) * (WIDE - 8);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="h-16 w-full"
      role="img"
      aria-label={t('motor.curve', points.length)}
      preserveAspectRatio="none"
    >
      <path d={`M0 ${HIGH - 4}H${WIDE}`} stroke="currentColor" strokeWidth="0.5" vectorEffect="non-scaling-stroke" opacity="0.4" />
      {stands !== null && (
        <path
          d={`M${stands.toFixed(1)} 2V${HIGH}`}
          stroke="currentColor"
          strokeWidth="2"
          strokeDasharray="3 3"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {points.length > 1 && (
        <polyline points={points.map(at).join(' ')} fill="none" stroke="currentColor" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
      )}
      {points.map((p, i) => (
        <path key={i} d={`M${at(p)}h0.01`} stroke="currentColor" strokeWidth="6" strokeLinecap="round" vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}

/** The motor that focuses a head: stepped by hand, or driven to its sharpest by what its pictures say. */
export function Motor({
  motor,
  mayWork,
  onAsk,
}: {
  motor: MotorLive;
  mayWork: boolean;
  onAsk: (ask: components['schemas']['MotorAsk'], share?: number) => void;
}) {
  const sweeping = isSweeping(motor.sweep);
  const words = sweepWords(motor.sweep);
  const hasFailed = motor.sweep?.phase === 'failed';
  return (
    <section aria-label={t('motor.title')} className="mt-4 border-t border-hairline pt-2">
      <h2 className="flex items-baseline gap-3 text-label font-semibold">
        {t('motor.title')}
        <span className="ml-auto font-normal text-ink-2" data-testid="motor-place">
          {motor.place === null ? t('motor.at-unknown') : t('motor.at', percent(shareOf(motor.travel, motor.place)))}
        </span>
      </h2>
      {motor.sweep && <Curve motor={motor} />}
      <p role="status" data-testid="motor-words" className={`text-table ${hasFailed ? 'font-semibold text-noted' : ''}`}>
        {words}
      </p>
      {motor.trouble && <p className="text-table font-semibold text-refused">{say(motor.trouble)}</p>}
      <div className="mt-2 grid grid-cols-4 gap-2">
        {sweeping ? (
          <button className="plain col-span-4" disabled={!mayWork} onClick={() => onAsk('stop')}>
            {t('motor.stop')}
          </button>
        ) : (
          <>
            <button className="plain col-span-4" disabled={!mayWork} onClick={() => onAsk('sharpest')}>
              {t('motor.sharpest')}
            </button>
            {STEPS.map((by) => (
              <button
                key={by}
                className="plain justify-center !px-0 text-center font-read"
                disabled={!mayWork}
                aria-label={t(by < 0 ? 'motor.step-back' : 'motor.step-on', percent(Math.abs(by)))}
                onClick={() => onAsk('step', by)}
              >
                {by < 0 ? '\u2212' : '+'}
                {percent(Math.abs(by))}
              </button>
            ))}
          </>
        )}
      </div>
      {motor.voids && <p className="mt-1 text-label font-semibold text-noted">{t('motor.voids')}</p>}
      <p className="mt-1 text-label text-ink-2">{t('motor.how')}</p>
    </section>
  );
}
