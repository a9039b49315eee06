import type { CoverageAnswer, DetailLevel, PlanPoint, SiteGround } from '../../api/types';

type Cover = CoverageAnswer['coverage'];
type Ground = Cover['grounds'][number];
type ToPixels = (x: number, y: number) => [number, number];

/** What is being drawn: corners of ground or of a wall. */
export interface Drawn {
  what: 'ground' | 'wall';
  corners: PlanPoint[];
  /** Corners as they are typed, where they are. */
  typed?: string;
  name: string;
  level: DetailLevel;
  /** Null: nobody looks over it. */
  height: number | null;
}

/** All cells of a ground that are seen so, as one path; null: seen by nobody. */
export function cellsPath(ground: Ground, level: DetailLevel | null, toPixels: ToPixels): string {
  const cell = ground.cellMetres;
  let path = '';
  for (const run of ground.runs) {
    if (run.level !== level) continue;
    const [x1, y1] = toPixels(ground.left + run.from * cell, ground.top + run.row * cell);
    const [x2, y2] = toPixels(ground.left + (run.from + run.count) * cell, ground.top + (run.row + 1) * cell);
    path += `M${x1.toFixed(1)} ${y1.toFixed(1)}H${x2.toFixed(1)}V${y2.toFixed(1)}H${x1.toFixed(1)}Z`;
  }
  return path;
}

/** Points as a line of SVG. */
export const linePath = (points: readonly PlanPoint[], toPixels: ToPixels) =>
  points
    .map(
      (p, i) =>
        `${i === 0 ? 'M' : 'L'}${toPixels(p.x, p.y)
          .map((n) => n.toFixed(1))
          .join(' ')}`,
    )
    .join('');

/** Corners as they are typed: a pair of metres a line, x then y. */
export const written = (corners: readonly PlanPoint[]) => corners.map((c) => `${c.x} ${c.y}`).join('\n');

/** The same read; null where a line is no pair. */
export function readCorners(text: string): PlanPoint[] | null {
  const corners: PlanPoint[] = [];
  for (const line of text.split(/[\n;]/)) {
    if (!line.trim()) continue;
    const pair = /^\s*(-?\d+(?:[.,]\d+)?)\s+(-?\d+(?:[.,]\d+)?)\s*$/.exec(line);
    if (!pair) return null;
    corners.push({ x: Number(pair[1].replace(',', '.')), y: Number(pair[2].replace(',', '.')) });
  }
  return corners;
}

/** Whether something could be kept of what was drawn. */
export const isWhole = (drawn: Drawn) =>
  (drawn.typed === undefined || readCorners(drawn.typed) !== null) &&
  (drawn.what === 'ground' ? drawn.corners.length >= 3 && drawn.name.trim() !== '' : drawn.corners.length >= 2);

/** The ground with what was drawn. */
export const withDrawn = (ground: SiteGround, drawn: Drawn): SiteGround =>
  drawn.what === 'ground'
    ? { ...ground, grounds: [...ground.grounds, { name: drawn.name.trim(), corners: drawn.corners, level: drawn.level }] }
    : { ...ground, walls: [...ground.walls, { corners: drawn.corners, heightMetres: drawn.height }] };

/** Labels of those that lack one thing, each once. */
export const lacking = (leftOut: CoverageAnswer['leftOut'], what: string) => [
  ...new Map(leftOut.filter((v) => v.lacks === what).map((v) => [v.label, v.deviceId])),
];

/** The mean of its corners. */
export const middle = (corners: readonly PlanPoint[]): PlanPoint => ({
  x: corners.reduce((sum, c) => sum + c.x, 0) / corners.length,
  y: corners.reduce((sum, c) => sum + c.y, 0) / corners.length,
});
