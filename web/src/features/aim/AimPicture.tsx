import { useState } from 'react';
import { t } from '../../texts';
import type { Seen } from './useAim';
import { lean } from './words';

/** The picture, with where the agreed view's middle lies in it, where it looks itself, and the horizon. Held, it shows the agreed one. */
export function AimPicture({ seen, agreed, isOld }: { seen: Seen | undefined; agreed: string | undefined; isOld: boolean }) {
  const [isHeld, setHeld] = useState(false);
  const live = seen?.live;
  const look = live?.look;
  const wide = live?.wide ?? 16;
  const high = live?.high ?? 9;
  const ring = look?.agreed;
  const [left, right] = look?.horizon ?? [];
  const line = { stroke: '#fff', strokeWidth: 3, vectorEffect: 'non-scaling-stroke' as const };
  const halo = { ...line, stroke: '#000', strokeOpacity: 0.55, strokeWidth: 6 };
  const r = high / 14;
  const at = { x: Math.min(1.2, Math.max(-0.2, ring?.x ?? 0)) * wide, y: Math.min(1.2, Math.max(-0.2, ring?.y ?? 0)) * high };
  const drawn = look && ring && !isHeld && !isOld;
  return (
    <figure className="relative m-0 bg-paper-lo" style={{ aspectRatio: `${wide} / ${high}` }}>
      {isHeld && agreed ? (
        <img src={agreed} alt={t('aim.compare')} className="absolute inset-0 h-full w-full object-fill" />
      ) : seen?.url ? (
        <img
          src={seen.url}
          alt={t('aim.loupe')}
          className={`absolute inset-0 h-full w-full object-fill ${isOld ? 'opacity-60' : ''}`}
          data-testid="aim-picture"
          data-number={live?.number}
        />
      ) : (
        <p className="absolute inset-0 grid place-items-center p-4 text-center text-ink-2">{t('aim.no-picture')}</p>
      )}
      {drawn && (
        <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 ${wide} ${high}`} aria-hidden>
          {left && right && (
            <>
              <line x1={0} y1={left.y * high} x2={wide} y2={right.y * high} {...halo} />
              <line x1={0} y1={left.y * high} x2={wide} y2={right.y * high} {...line} strokeWidth={2} />
              <line
                x1={0}
                x2={wide}
                y1={((left.y + right.y) / 2) * high}
                y2={((left.y + right.y) / 2) * high}
                {...line}
                strokeWidth={2}
                strokeDasharray="8 7"
              />
            </>
          )}
          <line x1={wide / 2} y1={high / 2} x2={at.x} y2={at.y} {...halo} />
          <line x1={wide / 2} y1={high / 2} x2={at.x} y2={at.y} {...line} strokeWidth={2} />
          <circle cx={at.x} cy={at.y} r={r} fill="none" {...halo} strokeWidth={7} />
          <circle cx={at.x} cy={at.y} r={r} fill="none" {...line} strokeWidth={4} />
          <circle cx={wide / 2} cy={high / 2} r={r / 2.6} fill="#fff" stroke="#000" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
        </svg>
      )}
      {look?.offDeg !== null && look && !isHeld && !isOld && (
        <figcaption className="absolute top-2 left-2 bg-[#1b1f1dd9] px-2 py-0.5 text-label font-semibold text-[#fdfcf8]">
          {lean(look)}
        </figcaption>
      )}
      {agreed && seen?.url && (
        <button
          className="absolute right-2 bottom-2 min-h-11 bg-[#1b1f1dd9] px-3 text-label font-semibold text-[#fdfcf8] select-none"
          title={t('aim.compare-how')}
          onPointerDown={() => setHeld(true)}
          onPointerUp={() => setHeld(false)}
          onPointerLeave={() => setHeld(false)}
          onKeyDown={(e) => (e.key === ' ' || e.key === 'Enter') && setHeld(true)}
          onKeyUp={() => setHeld(false)}
          onBlur={() => setHeld(false)}
          onContextMenu={(e) => e.preventDefault()}
        >
          {isHeld ? t('aim.compare') : t('aim.compare-how')}
        </button>
      )}
    </figure>
  );
}
