import type { ReactNode } from 'react';
import { say, t } from '../../texts';
import { StopMark } from './AimWords';
import { secondsLeft, share, swayFigures, swayState, traces, type SwayLook } from './sway';

const line = (points: { x: number; y: number }[]) => points.map((p) => `${(p.x * 400).toFixed(1)} ${(4 + p.y * 72).toFixed(1)}`).join(' ');

/** Where the picture lay, over time: across as a thick line, down as a thin one; between the dotted lines is allowed. */
function Trace({ look }: { look: SwayLook }) {
  const { half, across, down, allowed } = traces(look);
  const edge = (sign: 1 | -1) => 4 + (0.5 + sign * allowed) * 72;
  return (
    <figure>
      <svg
        viewBox="0 0 400 80"
        className="h-20 w-full"
        role="img"
        aria-label={t('sway.trace', look.points.length)}
        preserveAspectRatio="none"
      >
        <rect x="0" y={edge(-1)} width="400" height={edge(1) - edge(-1)} className="fill-band" opacity="0.7" />
        {([-1, 1] as const).map((sign) => (
          <path
            key={sign}
            d={`M0 ${edge(sign)}H400`}
            stroke="currentColor"
            strokeDasharray="2 4"
            strokeWidth="1"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <polyline
          points={line(across)}
          fill="none"
          stroke="currentColor"
          strokeWidth="2.5"
          vectorEffect="non-scaling-stroke"
          strokeLinejoin="round"
        />
        <polyline points={line(down)} fill="none" stroke="currentColor" strokeWidth="1" vectorEffect="non-scaling-stroke" />
      </svg>
      <figcaption className="text-label text-ink-2">{t('sway.trace-how', share(2 * half))}</figcaption>
    </figure>
  );
}

/** Whether a camera stands still: what to do, what its picture did meanwhile, and what that comes to. */
export function Swaying({
  look,
  isOld,
  isKeeping,
  onKeep,
  onAgain,
  onUnpushed,
  onClose,
  children,
}: {
  look: SwayLook;
  isOld: boolean;
  isKeeping: boolean;
  onKeep: () => void;
  onAgain: () => void;
  onUnpushed: () => void;
  onClose: () => void;
  children: ReactNode;
}) {
  const state = swayState(look);
  const left = secondsLeft(look);
  const isDone = look.phase === 'done';
  return (
    <section aria-label={t('sway.title')}>
      <div role="status" aria-live="polite" data-testid="sway-words">
        <p className="flex items-center gap-4 text-[3rem] leading-[1.1] font-bold max-[599px]:text-[2.4rem]">
          {t(`sway.word.${state}`)} {state === 'still' && <StopMark className="h-12 w-20" />}
        </p>
        <p className="mt-1 text-table">{look.why ? <b className="text-noted">{say(look.why)}</b> : t(`sway.how.${state}`)}</p>
      </div>
      {!isDone && (
        <p className="mt-1 text-label text-ink-2">
          {isOld ? (
            <b className="text-refused">{t('sway.no-picture')}</b>
          ) : (
            `${t('sway.pictures', look.points.length)}${left ? ` ${t('sway.left', left)}` : ''}`
          )}
        </p>
      )}
      {look.points.length > 1 && <Trace look={look} />}
      <ul className="mt-1">
        {swayFigures(look).map((f) => (
          <li key={f.text} className="border-b border-dotted border-hairline py-1 text-table">
            {f.text} <span className="text-ink-2">{f.most}</span>{' '}
            <b className={f.is === 'in' ? 'text-accepted' : f.is === 'out' ? 'text-refused' : 'text-noted'}>{t(`aim.off.${f.is}`)}</b>
          </li>
        ))}
      </ul>
      <div className="mt-3 grid grid-cols-2 gap-2">
        {isDone && look.measured && (
          <button className="forward col-span-2 disabled:opacity-40" disabled={isKeeping} onClick={onKeep}>
            {isKeeping ? t('aim.keeping') : t('sway.keep')}
          </button>
        )}
        {look.phase === 'push' && (
          <button className="plain" onClick={onUnpushed}>
            {t('sway.unpushed')}
          </button>
        )}
        {isDone && (
          <button className="plain" onClick={onAgain}>
            {t('sway.again')}
          </button>
        )}
        {children}
        <button className="plain" onClick={onClose}>
          {t('aim.touch-close')}
        </button>
      </div>
      <p className="mt-3 text-label text-ink-2">{t('sway.safe')}</p>
    </section>
  );
}
