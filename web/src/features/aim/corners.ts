import type { Point } from './useAim';

/** Four points with the clock from the upper left, none exchanged or pushed in; the record decides the same, and more, once more. */
export const areCorners = (corners: readonly Point[]): boolean =>
  corners.length === 4 &&
  corners.every((a, i) => {
    const [b, c] = [corners[(i + 1) % 4], corners[(i + 2) % 4]];
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x) > 1e-4;
  });

/** As the record reads them. */
export const cornersText = (corners: readonly Point[]): string => corners.flatMap(({ x, y }) => [x, y].map((n) => n.toFixed(5))).join(',');

/** On the side of the photograph that the finger does not lie on. */
export const loupeAt = (held: Point): 'left' | 'right' => (held.x < 0.5 ? 'right' : 'left');
