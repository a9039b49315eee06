import type { PictureZone, ZoneUse } from '../../../api/types';

export type Corner = PictureZone['points'][number];

const within = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 10_000) / 10_000;

export const corner = (x: number, y: number): Corner => ({ x: within(x), y: within(y) });

/** Most corners of a zone, as the record takes them. */
export const mostCorners = 40;

/** A first shape to be drawn from: the lower half for the own ground, a square in the middle for all else, none upon another. */
export function blank(use: ZoneUse, name: string, beside: readonly PictureZone[]): PictureZone {
  const taken = new Set(beside.map((z) => z.name.trim().toLowerCase()));
  let own = name;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${name} ${n}`;
  const [left, top, right, bottom] =
    use === 'ownGround'
      ? [0, 0.4, 1, 1]
      : ((at) => [0.3 + at, 0.5 + at / 2, 0.5 + at, 0.8 + at / 2])((beside.filter((z) => z.use !== 'ownGround').length % 5) * 0.06);
  return { name: own, use, points: [corner(left, top), corner(right, top), corner(right, bottom), corner(left, bottom)] };
}

const changed = (zone: PictureZone, points: Corner[]): PictureZone => ({ ...zone, points });

export const moved = (zone: PictureZone, at: number, to: Corner) =>
  changed(
    zone,
    zone.points.map((p, i) => (i === at ? to : p)),
  );

/** All corners by as much as none of them leaves the picture. */
export function shifted(zone: PictureZone, dx: number, dy: number): PictureZone {
  const least = (by: number, values: number[]) => Math.min(1 - Math.max(...values), Math.max(-Math.min(...values), by));
  const x = least(
    dx,
    zone.points.map((p) => p.x),
  );
  const y = least(
    dy,
    zone.points.map((p) => p.y),
  );
  return changed(
    zone,
    zone.points.map((p) => corner(p.x + x, p.y + y)),
  );
}

/** Halfway to the next corner. */
export const halfway = (zone: PictureZone, at: number): Corner => {
  const [a, b] = [zone.points[at], zone.points[(at + 1) % zone.points.length]];
  return corner((a.x + b.x) / 2, (a.y + b.y) / 2);
};

/** One more corner, halfway to the next; the same zone where it has as many as there may be. */
export const inserted = (zone: PictureZone, at: number, where: Corner = halfway(zone, at)) =>
  zone.points.length >= mostCorners ? zone : changed(zone, [...zone.points.slice(0, at + 1), where, ...zone.points.slice(at + 1)]);

/** One corner less; the same zone where it would be none. */
export const removed = (zone: PictureZone, at: number) =>
  zone.points.length <= 3
    ? zone
    : changed(
        zone,
        zone.points.filter((_, i) => i !== at),
      );

const steps: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** What a key does at a corner, and which corner has the keys then; null: it is no key of a corner. */
export function pressed(zone: PictureZone, at: number, key: string, isFine: boolean): { zone: PictureZone; at: number } | null {
  const step = steps[key];
  const by = isFine ? 0.002 : 0.01;
  if (step) return { zone: moved(zone, at, corner(zone.points[at].x + step[0] * by, zone.points[at].y + step[1] * by)), at };
  if (key === '+' || key === 'Insert') {
    const more = inserted(zone, at);
    return { zone: more, at: more === zone ? at : at + 1 };
  }
  if (key === '-' || key === 'Delete' || key === 'Backspace') {
    const less = removed(zone, at);
    return { zone: less, at: less === zone ? at : Math.max(0, at - 1) };
  }
  return null;
}
