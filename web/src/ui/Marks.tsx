import type { State, Verdict } from '../api/types';
import { t } from '../texts';

export const verdictColour: Record<Verdict, string> = {
  accepted: 'text-accepted',
  acceptedWithNote: 'text-noted',
  refused: 'text-refused',
  open: 'text-open',
};
export const stateColour: Record<State, string> = {
  in: 'text-ink',
  tooClose: 'text-noted',
  out: 'text-refused',
  notTaken: 'text-open',
  stale: 'text-open',
  notApplicable: 'text-ink-3',
  notJudged: 'text-open',
};

/** Verdict by shape: disc with a tick, paper tag, parted square, ring. */
export function VerdictMark({ verdict, size = 16, label }: { verdict: Verdict; size?: number; label?: string }) {
  const shape = {
    accepted: (
      <>
        <circle cx="12" cy="12" r="11" fill="currentColor" />
        <path d="M7 12.4l3.4 3.4L17 8.6" fill="none" stroke="var(--color-paper)" strokeWidth="2.6" />
      </>
    ),
    acceptedWithNote: (
      <>
        <path d="M1 4h14l8 8-8 8H1z" fill="currentColor" />
        <path d="M4 9.5h7M4 14.5h7" stroke="var(--color-paper)" strokeWidth="2" />
        <circle cx="16" cy="12" r="2.1" fill="var(--color-paper)" />
      </>
    ),
    refused: (
      <>
        <path d="M2 2h17L2 19z" fill="currentColor" />
        <path d="M22 22H5L22 5z" fill="currentColor" />
      </>
    ),
    open: <circle cx="12" cy="12" r="9.2" fill="none" stroke="currentColor" strokeWidth="3.2" />,
  }[verdict];
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      className={`${verdictColour[verdict]} shrink-0`}
      role={label === '' ? undefined : 'img'}
      aria-hidden={label === '' || undefined}
      aria-label={label === '' ? undefined : (label ?? t(`verdict.${verdict}`))}
    >
      {shape}
    </svg>
  );
}

/** The tiny gauge that stands for a reading's state. */
export function StateMark({ state }: { state: State }) {
  const dashed = state === 'notTaken' || state === 'stale';
  return (
    <svg viewBox="0 0 24 14" width="24" height="14" className={`${stateColour[state]} shrink-0`} aria-hidden>
      {state === 'notApplicable' ? (
        <path d="M7 7h10" stroke="currentColor" strokeWidth="1.4" />
      ) : state === 'notJudged' ? (
        <>
          <path d="M3 7h17" stroke="currentColor" strokeWidth="1.6" />
          <circle cx="11.5" cy="7" r="3.6" fill="currentColor" />
        </>
      ) : state === 'out' ? (
        <>
          <path d="M3 2v10M14 2v10M3 7h11" stroke="currentColor" strokeWidth="1.8" fill="none" />
          <path d="M20 3l4 4-4 4-4-4z" fill="currentColor" />
        </>
      ) : (
        <>
          <path d="M3 2v10M20 2v10" stroke="currentColor" strokeWidth="1.8" />
          <path d="M3 7h17" stroke="currentColor" strokeWidth="1.6" strokeDasharray={dashed ? '2 2.4' : undefined} />
          {state === 'in' && <circle cx="11.5" cy="7" r="3.6" fill="currentColor" />}
          {state === 'tooClose' && <circle cx="17" cy="7" r="3.6" fill="currentColor" />}
        </>
      )}
    </svg>
  );
}

/** Further from what was expected than both uncertainties: the solid point read, the hollow one expected, apart. */
export const UnexpectedMark = () => (
  <svg viewBox="0 0 24 14" width="24" height="14" className="shrink-0 text-noted" aria-hidden>
    <path d="M7 7h10" stroke="currentColor" strokeWidth="1.6" strokeDasharray="1.6 2" />
    <circle cx="5" cy="7" r="3.4" fill="currentColor" />
    <circle cx="19" cy="7" r="3" fill="none" stroke="currentColor" strokeWidth="1.6" />
  </svg>
);

/** You are here. */
export const Here = ({ down, size = 12 }: { down?: boolean; size?: number }) => (
  <svg viewBox="0 0 12 12" width={size} height={size} className="shrink-0 text-accent" aria-hidden>
    <path d={down ? 'M0 1h12L6 11z' : 'M1 0v12L11 6z'} fill="currentColor" />
  </svg>
);

const signs: Record<string, React.ReactNode> = {
  ladder: <path d="M6 2v20M18 2v20M6 7h12M6 12h12M6 17h12" />,
  lift: <path d="M3 3h18v4H3zM5 7l14 12M19 7L5 19M3 21h18" />,
  blocked: <path d="M4 4h16v16H4zM4 20L20 4" />,
  aside: <path d="M6 4v16M6 5h11l-3 4 3 4H6" />,
  dark: <path d="M15 3a9.5 9.5 0 1 0 6 13A8 8 0 0 1 15 3z" />,
};

/** More of them, of what is fetched after the first page. */
export const addSigns = (more: Record<string, React.ReactNode>) => Object.assign(signs, more);

/** What a Stop waits for. With its word, or with the word as its name. */
export const Sign = ({ sign, word }: { sign: string; word?: boolean }) => (
  <span className="inline-flex items-center gap-1.5 text-ink-2">
    <svg
      viewBox="0 0 24 24"
      width="16"
      height="16"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      role={word ? undefined : 'img'}
      aria-label={word ? undefined : t(`sign.${sign}`)}
      aria-hidden={word}
    >
      {signs[sign]}
    </svg>
    {word && t(`sign.${sign}`)}
  </span>
);

export const Brand = () => (
  <svg viewBox="0 0 24 24" width="22" height="22" aria-hidden>
    <path d="M4 7h7v9h9" fill="none" stroke="currentColor" strokeWidth="2" />
    <path d="M2 5h4v4H2zM9 14h4v4H9zM18 14h4v4h-4z" fill="currentColor" />
  </svg>
);
