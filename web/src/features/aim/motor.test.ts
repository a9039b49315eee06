import { describe, expect, it } from 'vitest';
import './aimTexts';
import { curve, isSweeping, shareOf, sweepWords, type MotorLive } from './motor';

type Sweep = NonNullable<MotorLive['sweep']>;

const sweep = (more: Partial<Sweep> = {}): Sweep => ({
  phase: 'through',
  why: null,
  steps: [
    { position: 300, detail: 50 },
    { position: 100, detail: 0 },
    { position: 200, detail: 100 },
  ],
  planned: 25,
  top: null,
  ofBest: null,
  ...more,
});
const travel = { least: 100, most: 500, isSound: true };

describe('the motor of a lens', () => {
  it('is being driven until it is done or found nothing', () => {
    expect(isSweeping(null)).toBe(false);
    expect((['through', 'finer', 'back', 'done', 'failed'] as const).map((phase) => isSweeping(sweep({ phase })))).toEqual([
      true,
      true,
      true,
      false,
      false,
    ]);
  });

  it('says how far it is, and what it found', () => {
    expect(sweepWords(null)).toBeUndefined();
    expect(sweepWords(sweep())).toContain('3 of 25');
    expect(sweepWords(sweep({ phase: 'finer' }))).toContain('More finely');
    expect(sweepWords(sweep({ phase: 'done', ofBest: 0.98 }))).toContain('98 %');
    expect(sweepWords(sweep({ phase: 'failed', why: { code: 'motor.at-end', args: [] } }))).toContain('end of its travel');
  });

  it('draws what was seen in the order of the travel, whatever its figures are', () => {
    expect(curve(travel, sweep())).toEqual([
      { x: 0, y: 0 },
      { x: 0.25, y: 1 },
      { x: 0.5, y: 0.5 },
    ]);
    expect(curve(travel, null)).toEqual([]);
    expect(curve(travel, sweep({ steps: [{ position: 100, detail: 0 }] }))).toEqual([{ x: 0, y: 0 }]);
    expect(shareOf({ least: -1, most: 1 } as MotorLive['travel'], 0)).toBe(0.5);
  });
});
