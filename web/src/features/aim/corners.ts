import type { Point } from './useAim';

/** As the record reads them: with the clock from the upper left, across and down of each. Whether they are any is its word. */
export const cornersText = (corners: readonly Point[]): string => corners.flatMap(({ x, y }) => [x, y].map((n) => n.toFixed(5))).join(',');

/** On the side of the photograph that the finger does not lie on. */
export const loupeAt = (held: Point): 'left' | 'right' => (held.x < 0.5 ? 'right' : 'left');
