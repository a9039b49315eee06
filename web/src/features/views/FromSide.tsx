import type { KeyboardEvent } from 'react';
import { t } from '../../texts';
import { farthest, fromSide, kept, tiltAt, type Design, type Figures } from './geometry';
import { useDrag } from '../../ui/useDrag';

/** The view from the side: height, tilt, both edges, and how high what must be shown stands in it. */
export function FromSide({
  design,
  figures,
  width,
  onChange,
}: {
  design: Design;
  figures: Figures;
  width: number;
  onChange: (d: Design) => void;
}) {
  const most = farthest(design, figures);
  const tallest = Math.max(design.heightMetres, ...design.targets.map((x) => x.heightMetres)) * 1.15;
  const height = 170;
  const s = fromSide(width, height, most, tallest, 58);
  const [cx, cy] = [s.x(0), s.y(design.heightMetres)];
  /** Where a line at an angle under level leaves the drawing, or meets the ground. */
  const end = (down: number) => {
    const slope = Math.tan((down * Math.PI) / 180);
    const meets = slope > 0 ? design.heightMetres / slope : Infinity;
    const x = Math.min(meets, most);
    return [s.x(x), s.y(design.heightMetres - slope * x)] as const;
  };
  const [ux, uy] = end(Math.min(89.9, figures.ground.upperEdgeDeg));
  const [lx, ly] = end(Math.min(89.9, figures.ground.lowerEdgeDeg));
  const [ax, ay] = end(Math.min(89.9, design.tiltDeg));
  const grip = [cx + (ax - cx) * 0.55, cy + (ay - cy) * 0.55];
  const setTilt = (tiltDeg: number) => onChange({ ...design, tiltDeg: Math.round(Math.min(90, Math.max(-90, tiltDeg)) * 10) / 10 });
  const tilt = useDrag((x, y) => setTilt(tiltAt(design.heightMetres, s.metres(x - cx), design.heightMetres - (y - cy) / s.rise)));
  const lift = useDrag((_, y) => onChange({ ...design, heightMetres: Math.max(0.5, kept((s.y(0) - y) / s.rise)) }));
  const keys = (set: (by: number) => void, step: number) => (event: KeyboardEvent) => {
    const by = ({ ArrowUp: -1, ArrowDown: 1, ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0) * (event.shiftKey ? 10 : 1) * step;
    if (!by) return;
    event.preventDefault();
    set(by);
  };
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} role="group" aria-label={t('views.side')} className="block">
      <path d={`M${cx} ${cy}L${ux} ${uy}${uy < s.y(0) - 0.5 ? `L${ux} ${s.y(0)}` : ''}L${lx} ${ly}Z`} fill="var(--color-paper-lo)" />
      <line x1={cx} y1={cy} x2={ux} y2={uy} stroke="var(--color-ink)" strokeWidth="1.8" />
      <line x1={cx} y1={cy} x2={lx} y2={ly} stroke="var(--color-ink)" strokeWidth="1.8" />
      <line x1={cx} y1={cy} x2={width - 8} y2={cy} stroke="var(--color-rule)" strokeDasharray="3 3" />
      <text x={width - 10} y={cy - 5} textAnchor="end" fontSize="12" fill="var(--color-ink-2)">
        {t('views.level-line')}
      </text>
      {s.rise > s.per * 1.05 && (
        <text x={width - 10} y={12} textAnchor="end" fontSize="12" fill="var(--color-ink-3)">
          {t('views.heights-drawn', (s.rise / s.per).toFixed(1))}
        </text>
      )}
      <line x1={cx - 30} x2={width - 4} y1={s.y(0)} y2={s.y(0)} stroke="var(--color-ink)" strokeWidth="2" />
      {design.targets.map((target, i) => (
        <g key={i}>
          <line
            x1={s.x(target.groundMetres)}
            x2={s.x(target.groundMetres)}
            y1={s.y(0)}
            y2={s.y(target.heightMetres)}
            stroke={figures.targets[i]?.isTopIn && figures.targets[i]?.isFootIn ? 'var(--color-ink)' : 'var(--color-refused)'}
            strokeWidth="5"
          />
          <text x={s.x(target.groundMetres)} y={height - 8} textAnchor="middle" fontSize="12" fill="var(--color-ink)">
            {target.name}
          </text>
        </g>
      ))}
      <line x1={cx - 16} x2={cx - 16} y1={s.y(0)} y2={cy} stroke="var(--color-ink)" />
      <text
        x={4}
        y={(s.y(0) + cy) / 2 + 4}
        fontSize="13"
        className="font-read"
        fontWeight="700"
        fill="var(--color-ink)"
        stroke="var(--color-paper)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {design.heightMetres} m
      </text>
      <g
        {...lift}
        tabIndex={0}
        role="slider"
        aria-label={t('view.field.heightMetres')}
        aria-valuenow={design.heightMetres}
        aria-orientation="vertical"
        onKeyDown={keys((by) => onChange({ ...design, heightMetres: Math.max(0.5, kept(design.heightMetres - by)) }), 0.1)}
      >
        <circle cx={cx} cy={cy} r="20" fill="transparent" />
        <circle cx={cx} cy={cy} r="6" fill="var(--color-ink)" />
      </g>
      <line x1={cx} y1={cy} x2={ax} y2={ay} stroke="var(--color-accent)" strokeWidth="2" />
      <g
        {...tilt}
        tabIndex={0}
        role="slider"
        aria-label={t('view.field.tiltDeg')}
        aria-valuenow={design.tiltDeg}
        onKeyDown={keys((by) => setTilt(design.tiltDeg + by), 0.1)}
      >
        <circle cx={grip[0]} cy={grip[1]} r="22" fill="transparent" />
        <circle cx={grip[0]} cy={grip[1]} r="6" fill="var(--color-paper)" stroke="var(--color-accent)" strokeWidth="3" />
        <text
          x={grip[0] + 12}
          y={grip[1] - 8}
          fontSize="13"
          fontWeight="700"
          fill="var(--color-accent-ink)"
          stroke="var(--color-paper)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {t('views.tilt-said', design.tiltDeg.toFixed(1))}
        </text>
      </g>
    </svg>
  );
}
