import { useMemo } from 'react';
import type { WalkAnswer, WalkStop } from '../../api/types';
import { t } from '../../texts';
import { VerdictMark } from '../../ui/Marks';

/**
 * The Stops where they are, by the schedule's coordinates: route in order, solid where walked and dashed ahead, cabinets as black squares.
 * Never the only way: everything is in the StopLine too. Where marks would touch, an area folds to one knot with its count.
 */
export function PlanView({ walk, current, onStop }: { walk: WalkAnswer; current?: string; onStop: (stop: WalkStop) => void }) {
  const stops = useMemo(() => walk.areas.flatMap((a) => a.stops).filter((s) => s.x !== null && s.y !== null), [walk]);
  const box = useMemo(() => {
    const xs = [...stops.map((s) => s.x!), ...walk.cabinets.flatMap((c) => (c.x === null ? [] : [c.x]))];
    const ys = [...stops.map((s) => s.y!), ...walk.cabinets.flatMap((c) => (c.y === null ? [] : [c.y]))];
    if (xs.length === 0) return null;
    return { x: Math.min(...xs) - 12, y: Math.min(...ys) - 14, w: Math.max(...xs) - Math.min(...xs) + 24, h: Math.max(...ys) - Math.min(...ys) + 26 };
  }, [stops, walk.cabinets]);
  if (!box || stops.length === 0) return null;
  const folded = stops.length > 250;
  const r = Math.max(box.w, box.h) / 90;
  const at = stops.findIndex((s) => s.id === current);
  return (
    <svg viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`} className="min-h-0 w-full flex-1" role="group" aria-label={t('nav.walk')}>
      {walk.areas.map((area) => {
        const own = area.stops.filter((s) => s.x !== null);
        if (own.length === 0) return null;
        const x1 = Math.min(...own.map((s) => s.x!)) - 6;
        const y1 = Math.min(...own.map((s) => s.y!)) - 5;
        const x2 = Math.max(...own.map((s) => s.x!)) + 6;
        const y2 = Math.max(...own.map((s) => s.y!)) + 5;
        return (
          <g key={area.name}>
            <rect x={x1} y={y1} width={x2 - x1} height={y2 - y1} fill="none" stroke="var(--color-rule)" strokeWidth={r * 0.18} />
            <rect
              x={x1 + r * 0.4}
              y={y1 + r * 0.4}
              width={x2 - x1 - r * 0.8}
              height={y2 - y1 - r * 0.8}
              fill="none"
              stroke="var(--color-hairline)"
              strokeWidth={r * 0.14}
            />
            <text x={x1} y={y1 - r * 0.7} fontSize={r * 2} fontWeight="700" fill="var(--color-ink)">
              {area.name}
            </text>
            {folded && (
              <text x={(x1 + x2) / 2} y={(y1 + y2) / 2} fontSize={r * 3} textAnchor="middle" fill="var(--color-ink)" className="font-read">
                {t('walk.of', area.stops.filter((s) => s.verdict !== 'open').length, area.stops.length)}
              </text>
            )}
          </g>
        );
      })}
      {!folded &&
        stops.slice(1).map((stop, i) => {
          const from = stops[i]!;
          const walked = from.verdict !== 'open' && stop.verdict !== 'open';
          return (
            <line
              key={stop.id}
              x1={from.x!}
              y1={from.y!}
              x2={stop.x!}
              y2={stop.y!}
              stroke={walked ? 'var(--color-ink)' : 'var(--color-rule)'}
              strokeWidth={walked ? r * 0.34 : r * 0.2}
              strokeDasharray={walked ? undefined : `${r * 0.9} ${r * 0.7}`}
            />
          );
        })}
      {walk.cabinets
        .filter((c) => c.x !== null)
        .map((c) => (
          <g key={c.label} role="img" aria-label={`${t('walk.cabinet')} ${c.label}, ${c.name}`}>
            <rect x={c.x! - r} y={c.y! - r} width={r * 2} height={r * 2} fill="var(--color-ink)" />
            <text x={c.x!} y={c.y! + r * 0.55} fontSize={r * 1.5} textAnchor="middle" fill="var(--color-paper)" fontWeight="700">
              {c.label.replace(/^\D+/, '')}
            </text>
          </g>
        ))}
      {!folded &&
        stops.map((stop) => (
          <g
            key={stop.id}
            tabIndex={-1}
            role="button"
            aria-label={`${stop.label}, ${stop.name}, ${t(`verdict.${stop.verdict}`)}`}
            className="cursor-pointer"
            onClick={() => onStop(stop)}
          >
            <circle cx={stop.x!} cy={stop.y!} r={r * 2} fill="transparent" />
            <circle cx={stop.x!} cy={stop.y!} r={r * 1.05} fill="var(--color-paper)" />
            <svg x={stop.x! - r} y={stop.y! - r} width={r * 2} height={r * 2} viewBox="0 0 24 24" aria-hidden>
              <VerdictMark verdict={stop.verdict} size={24} label="" />
            </svg>
            <title>{`${stop.label}, ${stop.name}`}</title>
          </g>
        ))}
      {at >= 0 && (
        <g aria-hidden>
          <circle cx={stops[at]!.x!} cy={stops[at]!.y!} r={r * 1.9} fill="none" stroke="var(--color-accent)" strokeWidth={r * 0.45} />
          <text
            x={stops[at]!.x!}
            y={stops[at]!.y! - r * 2.6}
            fontSize={r * 2.1}
            textAnchor="middle"
            fontWeight="700"
            fill="var(--color-accent-ink)"
            stroke="var(--color-paper)"
            strokeWidth={r * 0.5}
            paintOrder="stroke"
            className="font-read"
          >
            {stops[at]!.label}
          </text>
        </g>
      )}
    </svg>
  );
}
