import type { LegSummary, State } from '../api/types';
import { t } from '../texts';

export const colour: Record<State, string> = {
  in: 'var(--color-ink)',
  tooClose: 'var(--color-noted)',
  out: 'var(--color-refused)',
  notTaken: 'var(--color-open)',
  stale: 'var(--color-open)',
  notApplicable: 'var(--color-hairline)',
  notJudged: 'var(--color-open)',
};

/** One leg between x1 and x2: whole, pinched, parted, dashed, or a hair. */
export function Leg({ leg, x1, x2, y, half }: { leg: LegSummary; x1: number; x2: number; y: number; half: number }) {
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
    waiting: 0,
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
