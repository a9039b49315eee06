import type { Card, CardRow, LegSummary, State } from '../api/types';
import { isWaiting } from '../features/cards/wait';
import { t } from '../texts';
import { spareText } from './format';
import { Here } from './Marks';
import { colour, Leg } from './MiniPath';

/** The rows of a leg that are due or were taken, in their order: whole, short in colour, or a gap; what waits is a dot. */
export const ticksOf = (rows: readonly CardRow[]) =>
  rows
    .filter((row) => row.state !== 'notApplicable' && (row.required || row.attempts.length > 0))
    .map((row) => (row.state === 'notTaken' || row.state === 'stale' ? (isWaiting(row) ? 'waits' : 'open') : row.state));

function Ticks({ rows }: { rows: readonly CardRow[] }) {
  const ticks = ticksOf(rows);
  const step = Math.min(7, 96 / Math.max(1, ticks.length));
  const from = 50 - (ticks.length * step) / 2;
  return (
    <svg viewBox="0 0 100 8" className="h-2 w-full" aria-hidden>
      {ticks.map((tick, i) => {
        const x = from + (i + 0.5) * step;
        return tick === 'waits' ? (
          <circle key={i} cx={x} cy="4" r="1.3" fill="none" stroke="var(--color-open)" strokeWidth="0.9" />
        ) : tick === 'open' ? (
          <path key={i} d={`M${x} 2.6v2.8`} stroke="var(--color-open)" strokeWidth="1" />
        ) : (
          <path key={i} d={`M${x} 0.500v7`} stroke={colour[tick]} strokeWidth={tick === 'in' ? 1.4 : 2.4} />
        );
      })}
    </svg>
  );
}

function below(card: Card, leg: LegSummary): string {
  // Asked and exempted by name is not the same as asked by nobody.
  if (leg.state === 'notApplicable') return t(leg.isAsked ? 'state.notApplicable' : 'ui.not-asked');
  const tightest = card.rows.find((row) => row.id === leg.tightestRow);
  // Everything of it that is left cannot be done now.
  if (leg.state === 'notTaken' && leg.waiting > 0 && leg.taken + leg.waiting === leg.total) return t('leg.waits', leg.waiting);
  if (leg.state === 'notTaken') return leg.taken > 0 ? t('ui.n-of-m', leg.taken, leg.total) : t('state.notTaken');
  if (tightest) return spareText(tightest, tightest.spare);
  return leg.state === 'in' ? t('ui.n-of-m', leg.taken, leg.total) : t(`state.${leg.state}`);
}

/** The whole path, from the recorder to the scene. Each leg goes to its first unsettled Check. */
export function SignalPath({ card, current, onLeg }: { card: Card; current?: string; onLeg: (leg: string) => void }) {
  const ink: Record<State, string> = {
    in: 'text-ink-2',
    tooClose: 'text-noted font-bold',
    out: 'text-refused font-bold',
    notTaken: 'text-open',
    stale: 'text-open',
    notApplicable: 'text-ink-3',
    notJudged: 'text-open font-bold',
  };
  return (
    <div className="flex items-start" role="list" aria-label={t('ui.signal-path')}>
      <svg width="26" height="62" viewBox="0 0 26 62" className="shrink-0" aria-hidden>
        <rect x="1" y="29" width="21" height="20" fill="var(--color-ink)" />
        <path d="M6 35.5h11M6 42h7" stroke="var(--color-paper)" strokeWidth="2.4" />
        <rect x="20" y="36" width="6" height="6" fill="var(--color-ink)" />
      </svg>
      {card.legs.map((leg) => {
        const word = below(card, leg);
        return (
          <div key={leg.leg} role="listitem" className="min-w-0 flex-1">
            <button
              className="flex w-full flex-col items-center"
              onClick={() => onLeg(leg.leg)}
              aria-label={[t(`leg.${leg.leg}`), leg.state !== 'notApplicable' && t(`state.${leg.state}`), word].filter(Boolean).join(', ')}
            >
              <span
                className={`truncate text-label font-bold ${current === leg.leg ? 'text-accent-ink' : leg.state === 'notApplicable' ? 'text-ink-3 font-normal' : ''}`}
              >
                {t(`leg.${leg.leg}`)}
              </span>
              <span className="flex h-2.5 items-end">{current === leg.leg && <Here down size={10} />}</span>
              <svg viewBox="0 0 100 20" preserveAspectRatio="none" className="h-5 w-full overflow-visible" aria-hidden>
                <Leg leg={leg} x1={0} x2={100} y={10} half={3} />
                <line x1="100" x2="100" y1="2" y2="18" stroke="var(--color-ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
              </svg>
              <Ticks rows={card.rows.filter((row) => row.check.leg === leg.leg)} />
              <span className={`font-read h-4 max-w-full truncate text-tick ${ink[leg.state]}`}>{word}</span>
            </button>
          </div>
        );
      })}
      <svg width="34" height="62" viewBox="0 0 34 62" className="shrink-0" aria-hidden>
        <circle cx="3" cy="39" r="4" fill="var(--color-ink)" />
        <path d="M30 24L4 39l26 15" fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
        <path d="M30 24v30" stroke="var(--color-ink)" strokeWidth="1.4" strokeDasharray="2 2.6" />
      </svg>
    </div>
  );
}
