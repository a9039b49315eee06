import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useHand } from '../../session/posture';
import { t } from '../../texts';
import { Frame, halo, line } from './Frame';
import { percent, type SpotFocus } from './focusWords';
import type { Point, Seen } from './useAim';

/** The picture with the parts whose sharpness is told; touched, the target is there. */
export function FocusPicture({
  seen,
  spots,
  isOld,
  target,
  onTarget,
}: {
  seen: Seen | undefined;
  spots: SpotFocus[];
  isOld: boolean;
  target: Point;
  onTarget: (at: Point) => void;
}) {
  // By keys it moves at once; the server is asked once it rests.
  const [moving, setMoving] = useState<Point>();
  const later = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(later.current), []);
  const rest = (at: Point) => {
    setMoving(at);
    clearTimeout(later.current);
    later.current = setTimeout(() => {
      setMoving(undefined);
      onTarget(at);
    }, 500);
  };
  const touch = (event: PointerEvent<SVGSVGElement>) => {
    const frame = event.currentTarget.getBoundingClientRect();
    onTarget({ x: (event.clientX - frame.left) / frame.width, y: (event.clientY - frame.top) / frame.height });
  };
  const keys = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 0.1 : 0.02;
    const [dx, dy] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    const from = moving ?? target;
    rest({ x: Math.min(1, Math.max(0, from.x + (dx ?? 0))), y: Math.min(1, Math.max(0, from.y + (dy ?? 0))) });
  };
  return (
    <Frame seen={seen} isOld={isOld} testId="focus-picture">
      {(wide, high) =>
        seen?.url && (
          <svg
            className="absolute inset-0 h-full w-full cursor-crosshair"
            viewBox={`0 0 ${wide} ${high}`}
            role="group"
            aria-label={t('focus.spots')}
            onPointerUp={touch}
          >
            {!isOld &&
              spots
                .filter((s) => s.now.spot !== 'target')
                .map(({ now, ofBest, change }) => (
                  <g key={now.spot} opacity={now.detail === null ? 0.5 : 1}>
                    <rect {...now.region} {...halo} strokeWidth={3} />
                    <rect {...now.region} {...line} strokeWidth={1} strokeDasharray={now.detail === null ? '3 4' : undefined} />
                    {now.detail !== null && (
                      <Figure
                        x={now.region.x}
                        y={now.region.y}
                        wide={wide}
                        text={percent(change?.ratio ?? ofBest)}
                        soft={change?.change === 'softer'}
                      />
                    )}
                  </g>
                ))}
            <Target
              at={moving ?? target}
              spot={moving ? undefined : spots.find((s) => s.now.spot === 'target')}
              wide={wide}
              high={high}
              onKeys={keys}
            />
          </svg>
        )
      }
    </Frame>
  );
}

/** A share on the picture, readable on anything. */
function Figure({ x, y, wide, text, soft }: { x: number; y: number; wide: number; text: string; soft?: boolean }) {
  // In the hand the picture is small, and its figures are not.
  const size = wide / (useHand() ? 26 : 42);
  return (
    <>
      <rect
        x={x}
        y={y}
        width={size * 0.62 * (text.length + 1)}
        height={size * 1.35}
        fill={soft ? '#7a1f14' : '#1b1f1d'}
        fillOpacity={0.85}
      />
      <text x={x + size * 0.3} y={y + size} fontSize={size} fontWeight={700} fill="#fdfcf8" className="font-read">
        {text}
      </text>
    </>
  );
}

function Target({
  at,
  spot,
  wide,
  high,
  onKeys,
}: {
  at: Point;
  spot: SpotFocus | undefined;
  wide: number;
  high: number;
  onKeys: (event: KeyboardEvent) => void;
}) {
  const [w, h] = [wide * 0.16, high * 0.16];
  const { x, y, width, height } = spot?.now.region ?? {
    x: Math.min(wide - w, Math.max(0, at.x * wide - w / 2)),
    y: Math.min(high - h, Math.max(0, at.y * high - h / 2)),
    width: w,
    height: h,
  };
  const r = width / 6;
  return (
    <g
      tabIndex={0}
      role="slider"
      aria-label={t('focus.target-move')}
      aria-valuenow={Math.round(at.x * 100)}
      aria-valuetext={`${Math.round(at.x * 100)} %, ${Math.round(at.y * 100)} %`}
      onKeyDown={onKeys}
    >
      <rect x={x} y={y} width={width} height={height} {...halo} />
      <rect x={x} y={y} width={width} height={height} {...line} strokeWidth={3} />
      <path
        d={`M${x + width / 2 - r} ${y + height / 2}H${x + width / 2 + r}M${x + width / 2} ${y + height / 2 - r}V${y + height / 2 + r}`}
        {...line}
        strokeWidth={1.5}
      />
    </g>
  );
}
