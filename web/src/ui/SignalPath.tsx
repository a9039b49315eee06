import type { Card, LegSummary, State } from '../api/types';
import { t } from '../texts';
import { spareText } from './format';
import { Here } from './Marks';

const colour: Record<State, string> = {
  in: 'var(--color-ink)',
  tooClose: 'var(--color-noted)',
  out: 'var(--color-refused)',
  notTaken: 'var(--color-open)',
  stale: 'var(--color-open)',
  notApplicable: 'var(--color-hairline)',
  notJudged: 'var(--color-open)',
};

/** One leg between x1 and x2: whole, pinched, parted, dashed, or a hair. */
function Leg({ leg, x1, x2, y, half }: { leg: LegSummary; x1: number; x2: number; y: number; half: number }) {
  const mid = (x1 + x2) / 2;
  const fill = colour[leg.state];
  switch (leg.state) {
    case 'in':
      return <rect x={x1} y={y - half} width={x2 - x1} height={half * 2} fill={fill} />;
    case 'tooClose':
      return (
        <path
          d={`M${x1} ${y - half}Q${mid} ${y - half * 0.1} ${x2} ${y - half}V${y + half}Q${mid} ${y + half * 0.1} ${x1} ${y + half}z`}
          fill={fill}
        />
      );
    case 'out': {
      const gap = Math.min(8, (x2 - x1) / 6);
      const drop = half >= 2 ? 3 : 1.5;
      return (
        <g fill={fill}>
          <path d={`M${x1} ${y - half}H${mid - gap}l${gap * 0.5} ${half}l${-gap * 0.5} ${half}H${x1}z`} />
          <path
            className="motion-safe:animate-break"
            d={`M${mid + gap * 0.6} ${y - half + drop}L${x2} ${y - half}V${y + half}L${mid + gap * 0.6} ${y + half + drop}l${gap * 0.4} ${-half}z`}
          />
        </g>
      );
    }
    case 'notJudged':
      return <rect x={x1 + 2} y={y - half * 0.4} width={x2 - x1 - 4} height={half * 0.8} fill={fill} />;
    case 'notApplicable':
      return <line x1={x1} x2={x2} y1={y} y2={y} stroke={fill} strokeWidth="1" />;
    default: {
      const share = leg.total ? leg.taken / leg.total : 0;
      const to = x1 + (x2 - x1) * share;
      return (
        <>
          {share > 0 && <rect x={x1} y={y - half} width={to - x1} height={half * 2} fill="var(--color-ink)" />}
          <line x1={to} x2={x2} y1={y} y2={y} stroke={fill} strokeWidth="1.6" strokeDasharray="4 3.2" />
        </>
      );
    }
  }
}

function below(card: Card, leg: LegSummary): string {
  // Asked and exempted by name is not the same as asked by nobody.
  if (leg.state === 'notApplicable') return t(leg.isAsked ? 'state.notApplicable' : 'ui.not-asked');
  const tightest = card.rows.find((row) => row.id === leg.tightestRow);
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

/** The path without words, for lists and the phone. */
const legNames = ['recorder', 'port', 'run', 'power', 'link', 'address', 'picture', 'fixing'] as const;

/** States in the order of the legs, as the Walk has them, drawn as legs that are taken or not. */
export const legsOf = (states: State[]): LegSummary[] =>
  states.map((state, i) => ({
    leg: legNames[i],
    state,
    taken: state === 'notTaken' || state === 'notApplicable' ? 0 : 1,
    total: state === 'notApplicable' ? 0 : 1,
    tightestRow: null,
    isAsked: state !== 'notApplicable',
  }));

export function MiniPath({ legs, width, height = 12, here }: { legs: LegSummary[]; width: number; height?: number; here?: string }) {
  const shown = legs.filter((leg) => leg.state !== 'notApplicable');
  const list = shown.length > 0 ? shown : legs;
  const step = width / Math.max(1, list.length);
  const at = list.findIndex((leg) => leg.leg === here);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      className="max-w-full"
      role="img"
      aria-label={list.map((leg) => `${t(`leg.${leg.leg}`)} ${t(`state.${leg.state}`)}`).join(', ')}
    >
      {list.map((leg, i) => (
        <Leg
          key={leg.leg}
          leg={leg}
          x1={i * step}
          x2={(i + 1) * step}
          y={height / 2 + (height > 16 ? 3 : 0)}
          half={height > 16 ? 3.5 : 2}
        />
      ))}
      {at >= 0 && height > 16 && <path d={`M${(at + 0.5) * step - 5} 0h10l-5 7z`} fill="var(--color-accent)" />}
    </svg>
  );
}
