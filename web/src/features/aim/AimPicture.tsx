import { useState, type KeyboardEvent } from 'react';
import { t } from '../../texts';
import { HoldButton } from '../../ui/HoldButton';
import { useDrag } from '../../ui/useDrag';
import { Frame, halo, line } from './Frame';
import { isLight, type Touch } from './Touching';
import type { Seen } from './useAim';
import { lean } from './words';

type Point = Touch['from'];

/** The picture, with where the agreed view's middle lies in it, where it looks itself, and the horizon; or with two grips to measure
 * between. Held, it shows the agreed one. */
export function AimPicture({
  seen,
  agreed,
  isOld,
  touch,
  hasOne,
  onTouch,
}: {
  seen: Seen | undefined;
  agreed: string | undefined;
  isOld: boolean;
  touch: Touch | undefined;
  /** One point is touched, and not what lies between two. */
  hasOne: boolean;
  onTouch: (from: Point, to: Point) => void;
}) {
  const [isHeld, setHeld] = useState(false);
  const live = seen?.live;
  const measured = live?.look?.measured;
  const wide = live?.wide ?? 16;
  const high = live?.high ?? 9;
  const [left, right] = measured?.horizon ?? [];
  const r = high / 14;
  const clear = (share: number) => Math.min(1.2, Math.max(-0.2, share));
  const ring = measured?.agreed && { x: clear(measured.agreed.x) * wide, y: clear(measured.agreed.y) * high };
  const isDrawn = !isHeld && !isOld && !touch;
  return (
    <Frame seen={seen} instead={isHeld ? agreed : undefined} isOld={isOld} testId="aim-picture">
      {() => (
        <>
          {isDrawn && ring && (
            <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 ${wide} ${high}`} aria-hidden>
              {left && right && (
                <>
                  <line x1={0} y1={left.y * high} x2={wide} y2={right.y * high} {...halo} />
                  <line x1={0} y1={left.y * high} x2={wide} y2={right.y * high} {...line} />
                  <line
                    x1={0}
                    x2={wide}
                    y1={((left.y + right.y) / 2) * high}
                    y2={((left.y + right.y) / 2) * high}
                    {...line}
                    strokeDasharray="8 7"
                  />
                </>
              )}
              {live?.harms?.flatMap((harm) =>
                harm.tiles.map((tile) => {
                  const stroke = `M${tile.x * wide} ${(tile.y + 1 / 9) * high}l${wide / 16} ${-high / 9}`;
                  return (
                    <g key={`${harm.kind} ${tile.x} ${tile.y}`}>
                      <path d={stroke} {...halo} strokeWidth={4} />
                      <path d={stroke} {...line} strokeDasharray={harm.kind === 'glare' ? '2 5' : undefined} />
                    </g>
                  );
                }),
              )}
              <line x1={wide / 2} y1={high / 2} x2={ring.x} y2={ring.y} {...halo} />
              <line x1={wide / 2} y1={high / 2} x2={ring.x} y2={ring.y} {...line} />
              <circle cx={ring.x} cy={ring.y} r={r} {...halo} strokeWidth={7} />
              <circle cx={ring.x} cy={ring.y} r={r} {...line} strokeWidth={4} />
              <circle
                cx={wide / 2}
                cy={high / 2}
                r={r / 2.6}
                fill="#fff"
                stroke="#000"
                strokeWidth={1.5}
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          )}
          {touch && seen?.url && !isHeld && <Grips touch={touch} hasOne={hasOne} wide={wide} high={high} onTouch={onTouch} />}
          {isDrawn && measured && (
            <figcaption className="absolute top-2 left-2 bg-[#1b1f1dd9] px-2 py-0.5 text-label font-semibold text-[#fdfcf8]">
              {lean(measured)}
            </figcaption>
          )}
          {agreed && seen?.url && !touch && (
            <HoldButton onHold={setHeld}>{(held) => t(held ? 'aim.compare' : 'aim.compare-how')}</HoldButton>
          )}
        </>
      )}
    </Frame>
  );
}

/** Two grips on the picture, moved by hand or by keys, and the line between them. */
function Grips({
  touch: { from, to, thing },
  hasOne,
  wide,
  high,
  onTouch,
}: {
  touch: Touch;
  hasOne: boolean;
  wide: number;
  high: number;
  onTouch: (from: Point, to: Point) => void;
}) {
  const at = (p: Point) => ({ x: p.x * wide, y: p.y * high });
  const [a, b] = [at(from), at(to)];
  return (
    <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 ${wide} ${high}`} role="group" aria-label={t('aim.touch')}>
      {isLight({ thing }) ? (
        [halo, line].map((look, i) => (
          <rect
            key={i}
            x={Math.min(a.x, b.x)}
            y={Math.min(a.y, b.y)}
            width={Math.abs(a.x - b.x)}
            height={Math.abs(a.y - b.y)}
            {...look}
            fill="none"
          />
        ))
      ) : thing === 'target' ? null : (
        <>
          <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} {...halo} />
          <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} {...line} />
        </>
      )}
      <Grip name={t('aim.touch-from')} at={from} wide={wide} high={high} onMove={(p) => onTouch(p, to)} />
      {!hasOne && <Grip name={t('aim.touch-to')} at={to} wide={wide} high={high} onMove={(p) => onTouch(from, p)} />}
    </svg>
  );
}

/** A point of a picture that is set by hand, or by the arrow keys; with Shift ten times as far. */
export function Grip({
  name,
  at,
  wide,
  high,
  onMove,
  onHold,
}: {
  name: string;
  at: Point;
  wide: number;
  high: number;
  onMove: (p: Point) => void;
  onHold?: () => void;
}) {
  const move = (x: number, y: number) => onMove({ x: Math.min(1, Math.max(0, x / wide)), y: Math.min(1, Math.max(0, y / high)) });
  const drag = useDrag(move);
  const [x, y] = [at.x * wide, at.y * high];
  const keys = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 10 : 1;
    const [dx, dy] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    move(x + (dx ?? 0), y + (dy ?? 0));
  };
  const r = high / 12;
  return (
    <g
      {...drag}
      tabIndex={0}
      role="slider"
      aria-label={name}
      aria-valuenow={Math.round(at.x * 100)}
      aria-valuetext={`${Math.round(x)}, ${Math.round(y)}`}
      onKeyDown={keys}
      onFocus={onHold}
    >
      <circle cx={x} cy={y} r={r} fill="#000" fillOpacity={0.001} />
      <circle cx={x} cy={y} r={r / 2} {...halo} strokeWidth={5} />
      <circle cx={x} cy={y} r={r / 2} {...line} />
      <path d={`M${x - r / 5} ${y}H${x + r / 5}M${x} ${y - r / 5}V${y + r / 5}`} {...line} strokeWidth={1.5} />
    </g>
  );
}
