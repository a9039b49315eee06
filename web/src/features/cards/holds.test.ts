import { describe, expect, it } from 'vitest';
import { byArea, down, knobs } from './holds';

type Forecast = Parameters<typeof knobs>[0];
const forecast = (change: Partial<Forecast> = {}) =>
  ({
    framesPerSecond: 15,
    meanMbps: 7.77,
    motionPercent: 70,
    most: { framesPerSecond: 17.82, meanMbps: 9.23, motionPercent: 84.3, days: 37.3 },
    ...change,
  }) as Forecast;

describe('what is tried at a recorder', () => {
  it('stands where it was read, each with the most that holds', () => {
    const [frames, rate, motion, days] = knobs(forecast(), forecast(), 31, {});
    expect([frames.value, frames.holds, frames.most]).toEqual([15, 17.82, 30]);
    expect([rate.value, rate.holds, rate.most]).toEqual([7.77, 9.23, 16]);
    expect([motion.value, motion.holds]).toEqual([70, 84.3]);
    expect([days.value, days.holds, days.most]).toEqual([31, 37.3, 70]);
  });

  it('follows frames with the rate, and leaves out what nobody knows', () => {
    const now = forecast({ meanMbps: 8.8, framesPerSecond: null, motionPercent: null });
    const all = knobs(forecast({ framesPerSecond: null, motionPercent: null }), now, 31, { days: 60 });
    expect(all.map((k) => k.id)).toEqual(['rate', 'days']);
    expect(all.map((k) => k.value)).toEqual([8.8, 60]);
  });

  it('says of nothing recorded that nothing limits it', () => {
    const none = forecast({ most: { framesPerSecond: null, meanMbps: null, motionPercent: null, days: null } });
    expect(knobs(none, none, 31, {}).map((k) => k.holds)).toEqual([null, null, null, null]);
  });

  it('offers viewers where the line to the outside is known, with room beyond those that fit', () => {
    const line = { uploadMbps: 40, sendsMbps: 16, usedMbps: 20, allowedMbps: 28, viewers: 2, mostViewers: 6, isWithin: true };
    const knob = knobs(forecast({ line }), forecast({ line }), 31, { viewers: 3 }).find((k) => k.id === 'viewers');
    expect([knob?.value, knob?.holds, knob?.most]).toEqual([3, 6, 10]);
    expect(knobs(forecast({ line: null }), forecast({ line: null }), 31, {}).some((k) => k.id === 'viewers')).toBe(false);
  });

  it('never shows more than holds', () => {
    expect([down(37.39, 0), down(37.39, 1), down(9.999, 1), down(38, 0)]).toEqual(['37', '37.3', '9.9', '38']);
  });

  it('puts channels by area in the order they came', () => {
    const channel = (area: string) => ({ area }) as Parameters<typeof byArea>[0][number];
    expect(byArea([channel('Gate'), channel('Lanes'), channel('Gate')], [4, 2, 6])).toEqual([
      { name: 'Gate', rates: [4, 6] },
      { name: 'Lanes', rates: [2] },
    ]);
    expect(byArea([], [])).toEqual([]);
  });
});
