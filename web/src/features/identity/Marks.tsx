import type { Finding } from './board';

/** The agreed view, hollow, and what is seen, solid: joined, broken, turned, apart. */
export function FindingMark({ finding, className = 'h-4 w-9' }: { finding: Finding; className?: string }) {
  const ink = finding === 'same' ? 'text-ink' : finding === 'cannotTell' ? 'text-open' : 'text-refused';
  return (
    <svg viewBox="0 0 36 16" className={`${className} ${ink} shrink-0`} aria-hidden>
      <rect x="1.5" y="4.5" width="7" height="7" fill="none" stroke="var(--color-ink)" strokeWidth="1.5" />
      {finding === 'same' && <path d="M9 8 H26" stroke="currentColor" strokeWidth="2.5" />}
      {finding === 'cannotTell' && <path d="M10 8 H26" stroke="currentColor" strokeWidth="1.5" strokeDasharray="2 2.5" />}
      {(finding === 'swapped' || finding === 'twice') && (
        <path d="M10 8 L16 8 L19 4 L19 12 L22 8 L26 8" fill="none" stroke="currentColor" strokeWidth="1.8" />
      )}
      {(finding === 'upsideDown' || finding === 'mirrored') && <path d="M9 8 H24" stroke="currentColor" strokeWidth="2.5" />}
      {finding === 'upsideDown' ? (
        <path d="M25 4 H35 L30 13 Z" fill="currentColor" />
      ) : finding === 'mirrored' ? (
        <path d="M35 3 V13 L26 8 Z" fill="currentColor" />
      ) : finding === 'stranger' ? (
        <path d="M30 2.5 L35 8 L30 13.5 L25 8 Z" fill="currentColor" />
      ) : finding === 'cannotTell' ? (
        <rect x="26.5" y="4.5" width="7" height="7" fill="none" stroke="currentColor" strokeWidth="1.5" />
      ) : (
        <rect x="26" y="4" width="8" height="8" fill="currentColor" />
      )}
    </svg>
  );
}
