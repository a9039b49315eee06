import type { PointerEvent } from 'react';
import { t } from '../../texts';
import { Frame, halo, line } from './Frame';
import { hatch, type NightLook } from './nightWords';
import type { Point, Seen } from './useAim';

/** The picture in the dark, where light lies over it, and where it is looked at closely; or the same by day. */
export function NightPicture({
  seen,
  look,
  byDay,
  isMapped,
  isOld,
  onTarget,
}: {
  seen: Seen | undefined;
  look: NightLook | undefined;
  byDay: string | undefined;
  isMapped: boolean;
  isOld: boolean;
  onTarget: (at: Point) => void;
}) {
  const touch = (event: PointerEvent<SVGSVGElement>) => {
    const frame = event.currentTarget.getBoundingClientRect();
    onTarget({ x: (event.clientX - frame.left) / frame.width, y: (event.clientY - frame.top) / frame.height });
  };
  return (
    <Frame seen={seen} instead={byDay} isOld={isOld} testId="night-picture">
      {(wide, high) =>
        seen?.url &&
        !byDay && (
          <svg
            className="absolute inset-0 h-full w-full cursor-crosshair"
            viewBox={`0 0 ${wide} ${high}`}
            role="img"
            aria-label={t('night.map')}
            onPointerUp={touch}
          >
            {isMapped && !isOld && look?.veil && <Hatched veil={look.veil} wide={wide} high={high} />}
            {look && (
              <>
                <rect {...look.target} {...halo} />
                <rect {...look.target} {...line} strokeWidth={3} />
              </>
            )}
          </svg>
        )
      }
    </Frame>
  );
}

/** Tiles hatched the denser the more light lies over them; dark and light lines side by side are seen on anything. */
function Hatched({ veil, wide, high }: { veil: NonNullable<NightLook['veil']>; wide: number; high: number }) {
  const [w, h] = [wide / veil.columns, high / veil.rows];
  return (
    <>
      <defs>
        {[1, 2, 3].map((dense) => {
          const gap = w / [2.5, 4.5, 8][dense - 1];
          return (
            <pattern key={dense} id={`veil-${dense}`} width={gap} height={gap} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width={w / 40} height={gap} fill="#1b1f1d" />
              <rect x={w / 40} width={w / 60} height={gap} fill="#fff" />
            </pattern>
          );
        })}
      </defs>
      {veil.tiles.map((tile, i) => {
        const dense = hatch(tile);
        const [x, y] = [(i % veil.columns) * w, Math.floor(i / veil.columns) * h];
        if (dense === null)
          return (
            <g key={i}>
              <circle cx={x + w / 2} cy={y + h / 2} r={w / 14} fill="#fff" />
              <circle cx={x + w / 2} cy={y + h / 2} r={w / 26} fill="#1b1f1d" />
            </g>
          );
        return dense > 0 && <rect key={i} x={x} y={y} width={w} height={h} fill={`url(#veil-${dense})`} />;
      })}
    </>
  );
}
