import type { CardRow, Spare, State } from '../api/types';
import { fixed } from './format';

interface Reading {
  value: number;
  state: State;
  half: number | null;
  spare: Spare | null;
}

const ink: Record<State, string> = {
  in: 'var(--color-ink)',
  tooClose: 'var(--color-noted)',
  out: 'var(--color-refused)',
  notTaken: 'var(--color-open)',
  stale: 'var(--color-open)',
  notApplicable: 'var(--color-open)',
  notJudged: 'var(--color-open)',
};

/**
 * Axis, allowed band between its limits, hollow diamond expected, solid mark read with its whisker, and a line from the reading to the
 * nearest limit. What matters fills the middle three quarters. Drawn only: the row says it all in text.
 */
export function LimitGauge({
  row,
  reading,
  width = 184,
  height = 43,
}: {
  row: CardRow;
  reading?: Reading;
  width?: number;
  height?: number;
}) {
  const w = row.window;
  if (!w || w.empty) return <svg width={width} height={height} aria-hidden />;
  const expected = row.expected?.value?.value;
  const marks = [w.min, w.max, reading?.value, expected].filter((v): v is number => v !== null && v !== undefined);
  const low = Math.min(...marks);
  const high = Math.max(...marks);
  const span = Math.max(high - low, Math.abs(high) * 0.02, 1e-6);
  const from = low - span * 0.14;
  const to = high + span * 0.14;
  const at = (v: number) => Math.min(width - 1, Math.max(1, ((v - from) / (to - from)) * width));
  const y = height * 0.46;
  const left = w.min === null ? 0 : at(w.min);
  const right = w.max === null ? width : at(w.max);
  const state = reading?.state ?? 'notTaken';
  const x = reading ? at(reading.value) : 0;
  const nearest = reading?.spare?.nearest === 'min' ? left : right;
  const whisker = reading?.half ? [at(reading.value - reading.half), at(reading.value + reading.half)] : undefined;
  const decimals = Math.min(row.check.decimals, 1);
  // Numbers of both limits must not run into each other.
  const close = w.min !== null && w.max !== null && right - left < 62;
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden className="overflow-visible">
      <line x1="0" x2={width} y1={y} y2={y} stroke="var(--color-rule)" strokeWidth="1" />
      <rect
        x={left}
        y={y - 3.5}
        width={Math.max(0, right - left)}
        height="7"
        fill="var(--color-band)"
        stroke="var(--color-ink-2)"
        strokeWidth="0.6"
      />
      {w.min !== null && <line x1={left} x2={left} y1={y - 9} y2={y + 9} stroke="var(--color-ink)" strokeWidth="2" />}
      {w.max !== null && <line x1={right} x2={right} y1={y - 9} y2={y + 9} stroke="var(--color-ink)" strokeWidth="2" />}
      <g className="font-read" fontSize="12" fill="var(--color-ink-2)">
        {w.min !== null && (
          <text x={close ? left - 3 : left} y={height - 1} textAnchor={close ? 'end' : 'middle'}>
            {fixed(w.min, decimals)}
          </text>
        )}
        {w.max !== null && (
          <text x={close ? right + 3 : right} y={height - 1} textAnchor={close ? 'start' : 'middle'}>
            {fixed(w.max, decimals)}
          </text>
        )}
      </g>
      {expected !== undefined && expected !== null && (
        <path d={`M${at(expected)} ${y - 14}l5 5-5 5-5-5z`} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth="1.5" />
      )}
      {reading && (
        <g style={{ transition: 'transform var(--transition-duration-settle) var(--ease-settle)' }}>
          {whisker && whisker[1] - whisker[0] > 8 && (
            <path
              d={`M${whisker[0]} ${y - 4}v8M${whisker[1]} ${y - 4}v8M${whisker[0]} ${y}H${whisker[1]}`}
              stroke={ink[state]}
              strokeWidth="1.5"
              fill="none"
            />
          )}
          {state === 'out' ? (
            <path d={`M${x} ${y - 6}l6 6-6 6-6-6z`} fill={ink[state]} />
          ) : (
            <circle cx={x} cy={y} r="4.4" fill={ink[state]} />
          )}
          {reading.spare && (
            <path
              d={`M${x} ${y + 8}v5M${nearest} ${y + 8}v5M${x} ${y + 10.5}H${nearest}`}
              stroke={ink[state]}
              strokeWidth="1"
              fill="none"
            />
          )}
        </g>
      )}
    </svg>
  );
}
