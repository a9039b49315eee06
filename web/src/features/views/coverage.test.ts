import { describe, expect, it } from 'vitest';
import type { CoverageAnswer, SiteGround } from '../../api/types';
import { cellsPath, isWhole, lacking, linePath, readCorners, withDrawn, written, type Drawn } from './coverage';

const tenfold = (x: number, y: number): [number, number] => [x * 10, y * 10];
const drawn = (change: Partial<Drawn>): Drawn => ({ what: 'ground', corners: [], name: '', level: 'detect', height: null, ...change });
const yard = [
  { x: 0, y: 0 },
  { x: 4, y: 0 },
  { x: 4, y: 2 },
];

describe('cells of a ground', () => {
  const ground = {
    cellMetres: 0.5,
    left: 1,
    top: 2,
    runs: [
      { row: 0, from: 0, count: 2, level: 'detect' },
      { row: 1, from: 1, count: 1, level: null },
      { row: 1, from: 2, count: 1, level: 'detect' },
    ],
  } as unknown as CoverageAnswer['coverage']['grounds'][number];

  it('are one path for each level, and one for what nobody sees', () => {
    expect(cellsPath(ground, 'detect', tenfold)).toBe('M10.0 20.0H20.0V25.0H10.0ZM20.0 25.0H25.0V30.0H20.0Z');
    expect(cellsPath(ground, null, tenfold)).toBe('M15.0 25.0H20.0V30.0H15.0Z');
    expect(cellsPath(ground, 'identify', tenfold)).toBe('');
  });

  it('have corners in a line', () => {
    expect(linePath(yard, tenfold)).toBe('M0.0 0.0L40.0 0.0L40.0 20.0');
    expect(linePath([], tenfold)).toBe('');
  });
});

describe('corners that are typed', () => {
  it('are read as they are written', () => {
    expect(readCorners(written(yard))).toEqual(yard);
    expect(readCorners('1,5 -2\n\n 3.25   4 ')).toEqual([
      { x: 1.5, y: -2 },
      { x: 3.25, y: 4 },
    ]);
    expect(readCorners('')).toEqual([]);
  });

  it('are none where a line is no pair', () => {
    for (const text of ['1', '1 2 3', 'a b', '1 2\n3', '1e3 2']) expect(readCorners(text)).toBeNull();
  });
});

describe('what is drawn', () => {
  it('is ground with three corners and a name, or a wall with two points', () => {
    expect(isWhole(drawn({ corners: yard, name: 'Yard' }))).toBe(true);
    expect(isWhole(drawn({ corners: yard, name: '  ' }))).toBe(false);
    expect(isWhole(drawn({ corners: yard.slice(0, 2), name: 'Yard' }))).toBe(false);
    expect(isWhole(drawn({ what: 'wall', corners: yard.slice(0, 2) }))).toBe(true);
    expect(isWhole(drawn({ what: 'wall', corners: yard.slice(0, 2), typed: '1 2\nthere' }))).toBe(false);
    expect(isWhole(drawn({ what: 'wall', corners: yard.slice(0, 1) }))).toBe(false);
  });

  it('comes to what is there, and what nobody looks over has no height', () => {
    const ground: SiteGround = { grounds: [], walls: [{ corners: yard, heightMetres: 1 }], northDeg: 10 };
    expect(withDrawn(ground, drawn({ corners: yard, name: ' Yard ' })).grounds).toEqual([{ name: 'Yard', corners: yard, level: 'detect' }]);
    const walls = withDrawn(ground, drawn({ what: 'wall', corners: yard, height: 2.2 })).walls;
    expect(walls.map((w) => w.heightMetres)).toEqual([1, 2.2]);
    expect(withDrawn(ground, drawn({ what: 'wall', corners: yard })).walls[1].heightMetres).toBeNull();
  });
});

describe('what is left out', () => {
  it('is told once for each camera, by what it lacks', () => {
    const leftOut = [
      { deviceId: 'a', label: 'CC-04', head: 1, lacks: 'bearing' as const },
      { deviceId: 'a', label: 'CC-04', head: 2, lacks: 'bearing' as const },
      { deviceId: 'b', label: 'GT-01', head: 1, lacks: 'place' as const },
    ];
    expect(lacking(leftOut, 'bearing')).toEqual([['CC-04', 'a']]);
    expect(lacking(leftOut, 'place')).toEqual([['GT-01', 'b']]);
    expect(lacking(leftOut, 'view')).toEqual([]);
  });
});
