import type { ReactNode } from 'react';
import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';
import { StopMark } from './AimWords';
import { percent, spotWords, tracePoints, within, type FocusLook, type FocusState } from './focusWords';

const TRACED = 90;

/** How sharp the target was in the last pictures; its sharpest is the line on top. */
function Trace({ trace }: { trace: number[] }) {
  const points = tracePoints(trace, TRACED);
  const last = points.at(-1);
  const at = (p: { x: number; y: number }) => `${(4 + p.x * 392).toFixed(1)} ${(8 + p.y * 56).toFixed(1)}`;
  return (
    <svg viewBox="0 0 400 72" className="h-[72px] w-full" role="img" aria-label={t('focus.trace', trace.length)} preserveAspectRatio="none">
      <rect x="0" y="8" width="400" height="8.4" className="fill-band" opacity="0.7" />
      <path d="M0 8H400" stroke="currentColor" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
      <path d="M0 64H400" stroke="currentColor" strokeWidth="0.5" vectorEffect="non-scaling-stroke" opacity="0.4" />
      {points.length > 1 && (
        <polyline
          points={points.map(at).join(' ')}
          fill="none"
          stroke="currentColor"
          strokeWidth="2.5"
          vectorEffect="non-scaling-stroke"
          strokeLinejoin="round"
        />
      )}
      {last && (
        <path d={`M${at(last)}h0.01`} stroke="currentColor" strokeWidth="9" strokeLinecap="round" vectorEffect="non-scaling-stroke" />
      )}
    </svg>
  );
}

/** What whoever turns the ring has to do, how sharp it is, and how the parts of the picture stand. */
export function FocusWords({
  look,
  state,
  against,
  children,
}: {
  look: FocusLook;
  state: FocusState;
  against: components['schemas']['FocusAgainst'] | null;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-col gap-1">
      <div role="status" aria-live="polite" data-testid="focus-words">
        <p className="flex items-center gap-4 text-[3.4rem] leading-[1.1] font-bold max-[599px]:text-[2.6rem]">
          {t(`focus.way.${state}`)} {state === 'stop' && <StopMark className="h-12 w-20" />}
        </p>
        <p className="text-table">{look.why ? <b className="text-noted">{say(look.why)}</b> : t(`focus.how.${state}`)}</p>
      </div>
      {look.ofBest !== null && (
        <p className="flex flex-wrap items-baseline gap-x-2">
          <b className="font-read text-[2.4rem] leading-tight" data-testid="focus-share">
            {percent(look.ofBest)}
          </b>
          <span className="text-table">{t('focus.of-best')}</span>
          <span className="font-read text-label text-ink-2">
            {'\u00b1'} {within(look.uncertainty)}
          </span>
        </p>
      )}
      {look.trace.length > 1 && <Trace trace={look.trace} />}
      <p className="text-label text-ink-2">{t(look.isTopKnown ? 'focus.top-known' : 'focus.top-open')}</p>
      {look.spots.length > 0 && (
        <table className="mt-1 w-full text-table">
          <thead>
            <tr className="border-b border-hairline text-left text-label text-ink-2">
              <th className="font-normal">{t('focus.spots')}</th>
              <th className="font-normal">{t('focus.spot-now')}</th>
              {against && !against.why && <th className="font-normal">{t('focus.spot-then')}</th>}
            </tr>
          </thead>
          <tbody>
            {look.spots.map((spot) => {
              const words = spotWords(spot);
              return (
                <tr key={spot.now.spot} className="border-b border-dotted border-hairline">
                  <th className="py-0.5 text-left font-semibold">{words.name}</th>
                  <td className={spot.now.detail === null ? 'text-ink-2' : 'font-read font-bold'}>{words.now}</td>
                  {against && !against.why && <td className={words.isSoft ? 'font-semibold text-refused' : ''}>{words.then}</td>}
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {children}
      <p className="text-label text-ink-2">
        {look.edge ? t('focus.edge', look.edge.mtf50.toFixed(2), look.edge.uncertainty.toFixed(2)) : t('focus.no-edge')}
        {look.edge?.isOverNyquist && ` ${t('focus.edge-fine')}`}
      </p>
    </div>
  );
}
