import { say, t } from '../../texts';
import { degrees, judged, lean, type Live, type Step } from './words';

/** An arrow the way the camera has to turn. */
function Arrow({ way, big }: { way: Step['way']; big?: boolean }) {
  const turns = { right: 0, down: 90, left: 180, up: 270, clockwise: 0, counterClockwise: 0 }[way];
  if (way === 'clockwise' || way === 'counterClockwise')
    return (
      <svg viewBox="0 0 40 40" className="h-9 w-9 shrink-0" aria-hidden>
        <g transform={way === 'clockwise' ? undefined : 'matrix(-1 0 0 1 40 0)'}>
          <path d="M8 26 A14 14 0 1 1 32 26" fill="none" stroke="currentColor" strokeWidth="4" />
          <path d="M25 24 L39 24 L32 36 Z" fill="currentColor" />
        </g>
      </svg>
    );
  const isFlat = way === 'left' || way === 'right';
  return big && isFlat ? (
    <svg viewBox="0 0 320 24" className="h-6 w-full" preserveAspectRatio="none" aria-hidden>
      <g transform={way === 'left' ? 'matrix(-1 0 0 1 320 0)' : undefined}>
        <rect x="0" y="9.5" width="298" height="5" fill="currentColor" />
        <path d="M296 1 L320 12 L296 23 Z" fill="currentColor" />
      </g>
    </svg>
  ) : (
    <svg viewBox="0 0 40 40" className={big ? 'h-14 w-14 shrink-0' : 'h-9 w-9 shrink-0'} aria-hidden>
      <g transform={`rotate(${turns} 20 20)`}>
        <rect x="3" y="17" width="22" height="6" fill="currentColor" />
        <path d="M22 7 L38 20 L22 33 Z" fill="currentColor" />
      </g>
    </svg>
  );
}

/** What it looks like when nothing has to be turned any more. */
export const StopMark = ({ className }: { className: string }) => (
  <svg viewBox="0 0 64 40" className={className} aria-hidden>
    <path d="M2 20 H16 M48 20 H62" stroke="currentColor" strokeWidth="3" />
    <circle cx="32" cy="20" r="14" fill="none" stroke="currentColor" strokeWidth="4" />
    <circle cx="32" cy="20" r="7" fill="currentColor" />
  </svg>
);

const stepWords = (s: Step) => `${degrees(s.degrees)}\u00b0 ${t(`aim.way.${s.way}`)}`;

/** What whoever turns has to do: one thing large, the others beneath. */
export function AimWords({ live, state }: { live: Live; state: 'none' | 'look' | 'turn' | 'stop' }) {
  const { look, tolerance } = live;
  if (!look) return null;
  const [first, ...others] = look.steps;
  const { measured } = look;
  const verdict = measured && judged(measured, tolerance.offDeg);
  return (
    <div className="flex flex-col gap-2">
      <div role="status" aria-live="polite" data-testid="aim-words">
        {state === 'stop' ? (
          <div>
            <p className="flex items-center gap-4 text-[4rem] leading-[1.1] font-bold max-[599px]:text-[3.4rem] [@media(max-height:479px)]:text-[3rem]">
              {t('aim.stop')} <StopMark className="h-14 w-24" />
            </p>
            <div className="mt-1 h-1 bg-ink" />
            <p className="mt-2 text-lead font-bold">{live.isLocked ? t('aim.stop-locked') : t('aim.stop-lock')}</p>
          </div>
        ) : state === 'turn' && first ? (
          <div>
            <div className="flex items-center gap-3">
              <p className="font-read text-[5.25rem] leading-[1.05] font-bold max-[599px]:text-[4rem] [@media(max-height:479px)]:text-[3.6rem]">
                {degrees(first.degrees)}
                {'\u00b0'}
                <span className="ml-3 font-text text-[2.6rem] max-[599px]:text-[2rem] [@media(max-height:479px)]:text-[1.9rem]">
                  {t(`aim.way.${first.way}`)}
                </span>
              </p>
              {first.way !== 'left' && first.way !== 'right' && <Arrow way={first.way} big />}
            </div>
            {(first.way === 'left' || first.way === 'right') && <Arrow way={first.way} big />}
            {others.map((s) => (
              <p key={s.way} className="mt-1 flex items-center gap-2 text-lead font-semibold">
                <Arrow way={s.way} /> {t('aim.then')}
                <span className="font-read text-title font-bold">
                  {degrees(s.degrees)}
                  {'\u00b0'}
                </span>
                {t(`aim.way.${s.way}`)}
              </p>
            ))}
          </div>
        ) : (
          <p className="text-[3rem] leading-[1.15] font-bold">{t('aim.again')}</p>
        )}
        {look.why && <p className="mt-2 text-table font-semibold text-noted">{say(look.why)}</p>}
      </div>
      {measured && verdict && state !== 'look' && (
        <div className="border-t border-hairline pt-2 text-table">
          <p className="flex flex-wrap items-baseline gap-x-2">
            {verdict.off}{' '}
            <b className={measured.off === 'in' ? 'text-accepted' : measured.off === 'out' ? 'text-refused' : 'text-noted'}>
              {[verdict.outcome, verdict.rest].filter(Boolean).join(', ')}
            </b>
          </p>
          <p className={measured.roll === 'out' ? 'font-semibold text-refused' : ''}>{lean(measured)}</p>
          <p className="text-ink-2">
            <span className="font-read font-bold text-ink">{Math.round(measured.overlap * 100)} %</span> {t('aim.sure')},{' '}
            {t('aim.good-to', measured.uncertaintyDeg.toFixed(2))}
          </p>
          {live.moved && (
            <p className="mt-1 font-semibold">
              {live.moved.steps.length === 0
                ? t('aim.moved-none')
                : `${t('aim.moved', live.moved.degrees.toFixed(1))} ${live.moved.steps.map(stepWords).join(', ')}`}
            </p>
          )}
          {live.harms?.map((harm) => (
            <p key={harm.said.code} className="mt-1 font-semibold text-noted">
              {say(harm.said)}
            </p>
          ))}
          {live.harms?.length === 0 && <p className="mt-1 text-label text-ink-2">{t('harm.none')}</p>}
          {live.lights?.map(
            (light) =>
              light.said && (
                <p key={light.name} className="mt-1 font-semibold text-noted">
                  {say(light.said)}
                </p>
              ),
          )}
          {live.lights && live.lights.length > 0 && live.lights.every((light) => !light.said) && (
            <p className="mt-1 text-label text-ink-2">{t('target-light.shown')}</p>
          )}
          <p className="mt-2 flex items-center gap-3 text-label text-ink-2">
            <StopMark className="h-6 w-10 border border-hairline" />
            {state === 'stop' ? t('aim.stop-stays', measured.staysWithinDeg.toFixed(1)) : t('aim.stop-how')}
          </p>
        </div>
      )}
    </div>
  );
}
