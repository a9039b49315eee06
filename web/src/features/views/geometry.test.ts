import { describe, expect, it } from 'vitest';
import { farthest, fromAbove, fromSide, kept, moved, spacing, ticks, tiltAt, type Design, type Figures } from './geometry';

const design = { heightMetres: 4, tiltDeg: 30, targets: [] } as unknown as Design;
const seen = (far: number | null, last: number) =>
  ({ ground: { farMetres: far, horizonInView: far === null }, bands: [{ toMetres: last }], infraredMetres: null }) as unknown as Figures;

describe('what of a view is drawn', () => {
  it('ends where the picture does', () => expect(farthest(design, seen(22.7, 22.7))).toBeCloseTo(22.7));
  it('does not follow a horizon', () => expect(farthest(design, seen(null, 900))).toBeLessThan(60));
  it('shows every target', () => {
    const far = { ...design, targets: [{ name: 'a', groundMetres: 80, asideMetres: 0, heightMetres: 1.7, level: 'observe' }] } as Design;
    expect(farthest(far, seen(22.7, 22.7))).toBeGreaterThan(80);
  });
  it('has round distances, at most nine of them', () => {
    expect(ticks(34.4)).toEqual([0, 5, 10, 15, 20, 25, 30]);
    for (const most of [0.5, 3, 8, 12, 77, 400, 1900]) expect(ticks(most).length).toBeLessThan(10);
  });
});

describe('a hand on the drawing', () => {
  it('points the lens at what it touches', () => {
    expect(tiltAt(4, 4, 0)).toBe(45);
    expect(tiltAt(4, 10, 4)).toBe(0);
    expect(tiltAt(4, 10, 9)).toBeLessThan(0);
    expect(tiltAt(4, -3, 0)).toBe(89.9);
  });
  it('moves a target to where it can be', () => {
    const target = { name: 'a', groundMetres: 5, asideMetres: 0, heightMetres: 1.7, level: 'observe' } as const;
    expect(moved(target, -4, 1.234)).toMatchObject({ groundMetres: 0.1, asideMetres: 1.25, heightMetres: 1.7 });
    expect(moved(target, 12.34, -30.06)).toMatchObject({ groundMetres: 12.3, asideMetres: -30.1 });
  });
  it('goes there and back', () => {
    const above = fromAbove(700, 300, 40, 60);
    expect(above.metres(above.x(12) - above.x(0))).toBeCloseTo(12);
    expect(above.y(3) - above.y(-3)).toBeCloseTo(6 * above.per);
    const side = fromSide(700, 150, 40, 4.2, 60);
    expect(side.y(0)).toBeGreaterThan(side.y(4.2));
    expect(side.rise).toBeLessThanOrEqual(side.per * 4);
  });
  it('keeps numbers that can be said', () => expect([kept(3.333), kept(33.333)]).toEqual([3.35, 33.3]));
  it('draws finer detail closer', () => expect([1000, 250, 125, 62.5, 25, 12.5].map(spacing)).toEqual([4, 4, 6, 9, 13, 18]));
});
