import { describe, expect, it } from 'vitest';
import { cornersText, loupeAt } from './corners';

const square = [
  { x: 0.1, y: 0.1 },
  { x: 0.9, y: 0.12 },
  { x: 0.85, y: 0.9 },
  { x: 0.15, y: 0.8 },
];

describe('corners of a photographed monitor', () => {
  it('are written as the record reads them', () => {
    expect(cornersText(square).split(',')).toHaveLength(8);
    expect(cornersText(square)).toContain('0.10000,0.10000,0.90000,0.12000');
  });

  it('are seen beside the finger, not under it', () => {
    expect([loupeAt(square[0]), loupeAt(square[1])]).toEqual(['right', 'left']);
  });
});
