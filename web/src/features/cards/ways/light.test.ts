import { describe, expect, it } from 'vitest';
import '../cardTexts';
import { flashes, lightText } from './light';
import type { LightPattern } from '../../../api/types';

const lamp = (rhythmMs: number[], more: Partial<LightPattern> = {}): LightPattern => ({
  id: 'x',
  colour: 'green',
  rhythmMs,
  state: 'connected',
  beside: null,
  dial: null,
  ...more,
});

describe('what a light shows, in words', () => {
  it('counts short flashes that come in a group', () => {
    expect(flashes(lamp([180, 220, 180, 1420]))).toBe(2);
    expect(flashes(lamp([180, 1820]))).toBe(1);
  });
  it('counts nothing that is steady, slow, even, or one long light', () => {
    for (const rhythm of [[1000], [700, 700], [150, 150], [1000, 250], [20, 9980]]) expect(flashes(lamp(rhythm))).toBe(0);
  });
  it('says colour and flashes, both lamps, or where the pointer stands', () => {
    expect(lightText(lamp([180, 220, 180, 1420]))).toMatch(/2 flashes/);
    expect(lightText(lamp([180, 1820]))).toMatch(/1 flash$/);
    expect(lightText(lamp([1000], { beside: { colour: 'red', rhythmMs: [600, 600] } }))).toMatch(/^First .*; second .*blinking$/);
    expect(lightText(lamp([600, 600], { beside: { colour: 'red', rhythmMs: [1000] } }))).toMatch(/^First .*blinking; second red$/);
    expect(lightText(lamp([1000], { dial: 9 }))).toBe("Pointer at 9 o'clock");
  });
});
