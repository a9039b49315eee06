import type { WalkArea, WalkStop } from '../../api/types';

/** What part of the site is in sight: the middle in metres, and pixels a metre. */
export interface Sight {
  x: number;
  y: number;
  scale: number;
}

export interface Box {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

export const isPlaced = (s: { x: number | null; y: number | null }): s is { x: number; y: number } => s.x !== null && s.y !== null;

export function boxOf(points: { x: number | null; y: number | null }[]): Box | null {
  let box: Box | null = null;
  for (const p of points) {
    if (!isPlaced(p)) continue;
    box = box
      ? { x1: Math.min(box.x1, p.x), y1: Math.min(box.y1, p.y), x2: Math.max(box.x2, p.x), y2: Math.max(box.y2, p.y) }
      : { x1: p.x, y1: p.y, x2: p.x, y2: p.y };
  }
  return box;
}

/** The sight that shows a box whole, with a margin in pixels. */
export function fit(box: Box, width: number, height: number, margin = 44): Sight {
  const w = Math.max(box.x2 - box.x1, 4);
  const h = Math.max(box.y2 - box.y1, 4);
  return {
    x: (box.x1 + box.x2) / 2,
    y: (box.y1 + box.y2) / 2,
    scale: Math.max(0.001, Math.min((width - 2 * margin) / w, (height - 2 * margin) / h)),
  };
}

/** How near the Stops of an area lie: the lower quartile of the distances to the nearest other, metres. */
export function crowding(area: WalkArea): number {
  const placed = area.stops.filter(isPlaced as (s: WalkStop) => boolean);
  if (placed.length < 2) return Infinity;
  const sample = placed.length > 120 ? placed.filter((_, i) => i % Math.ceil(placed.length / 120) === 0) : placed;
  const nearest = sample.map((a) => {
    let best = Infinity;
    for (const b of placed) if (a !== b) best = Math.min(best, (a.x! - b.x!) ** 2 + (a.y! - b.y!) ** 2);
    return Math.sqrt(best);
  });
  nearest.sort((a, b) => a - b);
  return nearest[Math.floor(nearest.length / 4)];
}
