import { useId, type KeyboardEvent } from 'react';
import type { components } from '../../api/generated/schema';
import { t } from '../../texts';
import { farthest, fromAbove, moved, spacing, ticks, type Design, type Figures, type Scale } from './geometry';
import { useDrag } from '../../ui/useDrag';

interface Props {
  code: string;
  design: Design;
  figures: Figures;
  width: number;
  onChange: (design: Design) => void;
  /** The zone that plates are read in, corner by corner. */
  zone?: components['schemas']['GroundPlace'][];
}

/** The view from above: what of the ground is in the picture, with how much detail, and what must be shown. */
export function FromAbove({ code, design, figures, width, onChange, zone }: Props) {
  const id = useId();
  // What lies far behind where plates are read leaves that no room.
  const read = Math.max(0, ...(zone ?? []).map((p) => p.alongMetres));
  const most = zone ? Math.max(read * 1.1, Math.min(farthest(design, figures), Math.max(20, read * 2.5))) : farthest(design, figures);
  const widest = Math.max(2, ...figures.bands.map((b) => (b.fromMetres < most ? cut(b, most).toHalf : 0)));
  const height = width < 480 ? 260 : 300;
  const s = fromAbove(width, height, most, 58);
  const shown = figures.bands.filter((b) => b.fromMetres < most).map((b) => cut(b, most));
  const squeeze = Math.min(1, (height / 2 - 34) / (widest * s.per));
  const y = (metres: number) => height / 2 + metres * s.per * squeeze;
  const camera = s.x(0);
  const [nearest] = shown;
  const last = shown.at(-1);
  const reach = figures.infraredMetres;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} role="group" aria-label={t('views.plan')} className="block">
      <defs>
        {shown.map((b, i) => (
          <pattern key={i} id={`${id}-${i}`} width="10" height={spacing(b.perMetre)} patternUnits="userSpaceOnUse">
            <line
              x1="0"
              x2="10"
              y1="0.5"
              y2="0.5"
              stroke="var(--color-ink)"
              strokeWidth="0.9"
              strokeDasharray={b.perMetre >= 250 ? undefined : b.perMetre >= 125 ? '6 2' : b.perMetre >= 60 ? '3 3' : '1 4'}
            />
          </pattern>
        ))}
        <pattern id={`${id}-blind`} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" x2="0" y1="0" y2="7" stroke="var(--color-ink-3)" strokeWidth="1.4" />
        </pattern>
      </defs>
      <line x1={camera} x2={width - 4} y1={height / 2} y2={height / 2} stroke="var(--color-rule)" strokeDasharray="14 4 2 4" />
      {nearest && nearest.fromMetres > 0 && (
        <path
          d={`M${camera} ${height / 2}L${s.x(nearest.fromMetres)} ${y(-nearest.fromHalf)}L${s.x(nearest.fromMetres)} ${y(nearest.fromHalf)}Z`}
          fill={`url(#${id}-blind)`}
          opacity="0.7"
        />
      )}
      {shown.map((b, i) => (
        <path
          key={i}
          d={`M${s.x(b.fromMetres)} ${y(-b.fromHalf)}L${s.x(b.toMetres)} ${y(-b.toHalf)}L${s.x(b.toMetres)} ${y(b.toHalf)}L${s.x(b.fromMetres)} ${y(b.fromHalf)}Z`}
          fill={`url(#${id}-${i})`}
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        />
      ))}
      {zone && (
        <polygon
          points={zone.map((p) => `${s.x(p.alongMetres)},${y(p.asideMetres)}`).join(' ')}
          fill="var(--color-paper)"
          fillOpacity="0.55"
          stroke="var(--color-accent)"
          strokeWidth="2.4"
          strokeDasharray="7 4"
        >
          <title>{t('views.zone')}</title>
        </polygon>
      )}
      {reach !== null && reach < most && (
        <path
          d={`M${s.x(reach * 0.94)} ${y(-widest)}Q${s.x(reach * 1.03)} ${height / 2} ${s.x(reach * 0.94)} ${y(widest)}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.6"
          strokeDasharray="9 3 2 3"
        />
      )}
      {reach !== null && reach < most && (
        <Word x={s.x(reach * 0.94)} y={y(-widest) - 6} text={t('views.infrared', reach.toFixed(0))} width={width} />
      )}
      {nearest && nearest.fromMetres > 0.05 && (
        <Word
          x={s.x(nearest.fromMetres)}
          y={Math.min(height - 44, y(nearest.fromHalf) + 16)}
          text={t('views.blind', nearest.fromMetres.toFixed(1))}
          width={width}
        />
      )}
      {last && figures.ground.farMetres !== null && figures.ground.farMetres <= most && (
        <Word
          x={s.x(last.toMetres)}
          y={Math.max(12, y(-last.toHalf) - 6)}
          text={`${t('views.far')} ${figures.ground.farMetres.toFixed(1)} m`}
          width={width}
        />
      )}
      {figures.ground.horizonInView && <Word x={width - 8} y={14} text={t('views.horizon')} width={width} />}
      <circle cx={camera} cy={height / 2} r="9" fill="var(--color-paper)" stroke="var(--color-accent)" strokeWidth="3.5" />
      <circle cx={camera} cy={height / 2} r="3.5" fill="none" stroke="var(--color-ink)" strokeWidth="1.6" />
      <text x={4} y={height / 2 - 26} className="font-read" fontSize="15" fontWeight="700" fill="var(--color-accent-ink)">
        {code}
      </text>
      {design.targets.map((_, i) => (
        <TargetMark key={i} i={i} s={s} y={y} squeeze={squeeze} height={height} {...{ design, figures, onChange, width }} />
      ))}
      <Ruler s={s} most={most} y={height - 24} width={width} bands={shown} />
    </svg>
  );
}

/** A band as far as it is drawn. */
function cut(b: Figures['bands'][number], most: number) {
  if (b.toMetres <= most) return b;
  const share = (most - b.fromMetres) / (b.toMetres - b.fromMetres);
  return { ...b, toMetres: most, toHalf: b.fromHalf + (b.toHalf - b.fromHalf) * share };
}

/** A word beside a line, kept inside the drawing. */
function Word({ x, y, text, width }: { x: number; y: number; text: string; width: number }) {
  const anchor = x > width - 70 ? 'end' : x < 70 ? 'start' : 'middle';
  return (
    <text
      x={x}
      y={y}
      textAnchor={anchor}
      fontSize="13"
      fontWeight="600"
      fill="var(--color-ink)"
      stroke="var(--color-paper)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

/** A target that a hand or the arrow keys move. */
function TargetMark({
  i,
  design,
  figures,
  s,
  y,
  squeeze,
  height,
  width,
  onChange,
}: Omit<Props, 'code' | 'zone'> & { i: number; s: Scale; y: (m: number) => number; squeeze: number; height: number }) {
  const target = design.targets[i];
  const told = figures.targets[i];
  const place = (ground: number, aside: number) =>
    onChange({ ...design, targets: design.targets.map((x, n) => (n === i ? moved(x, ground, aside) : x)) });
  const drag = useDrag((px, py) => place(s.metres(px - s.x(0)), (py - height / 2) / (s.per * squeeze)));
  const key = (event: KeyboardEvent) => {
    const by = event.shiftKey ? 5 : 0.5;
    const [dx, dy] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    place(target.groundMetres + dx, target.asideMetres + dy);
  };
  const [cx, cy] = [s.x(target.groundMetres), y(target.asideMetres)];
  const right = told?.target.name === target.name && !told.holds;
  return (
    <g
      {...drag}
      tabIndex={0}
      role="slider"
      aria-label={target.name}
      aria-valuenow={target.groundMetres}
      aria-valuetext={`${target.groundMetres} m`}
      onKeyDown={key}
    >
      <circle cx={cx} cy={cy} r="22" fill="transparent" />
      <path
        d={`M${cx} ${cy - 7}L${cx + 7} ${cy}L${cx} ${cy + 7}L${cx - 7} ${cy}Z`}
        fill="var(--color-paper)"
        stroke={right ? 'var(--color-refused)' : 'var(--color-ink)'}
        strokeWidth="2.2"
      />
      <Word x={cx} y={cy - 13} text={`${target.name}, ${target.groundMetres} m`} width={width} />
    </g>
  );
}

/** Distances, with the detail that the ground gets there. */
function Ruler({ s, most, y, width, bands }: { s: Scale; most: number; y: number; width: number; bands: Figures['bands'] }) {
  return (
    <g>
      <line x1={s.x(0)} x2={width - 8} y1={y} y2={y} stroke="var(--color-ink)" strokeWidth="1.4" />
      {ticks(most).map((m) => (
        <g key={m}>
          <line x1={s.x(m)} x2={s.x(m)} y1={y - 3} y2={y + 5} stroke="var(--color-ink)" />
          <text x={s.x(m)} y={y + 18} textAnchor="middle" fontSize="12" className="font-read" fill="var(--color-ink-2)">
            {m === 0 ? '0' : `${m} m`}
          </text>
        </g>
      ))}
      {bands.map((b, i) => {
        const [from, to] = [s.x(b.fromMetres), s.x(b.toMetres)];
        const words = b.level === null ? '' : t(`level.${b.level}`);
        return to - from > words.length * 7 + 6 ? (
          <text key={i} x={(from + to) / 2} y={y - 7} textAnchor="middle" fontSize="12" fontWeight="600" fill="var(--color-ink)">
            {words}
          </text>
        ) : null;
      })}
    </g>
  );
}
