import { describe, expect, it } from 'vitest';
import './aimTexts';
import { secondsLeft, share, swayFigures, swaySentence, swayState, traces, type SwayLook } from './sway';

type Measured = NonNullable<SwayLook['measured']>;

const measured = (over: Partial<Measured> = {}): Measured => ({
  swayPercent: 0.12,
  uncertaintyPercent: 0.025,
  pixelsWide: 2560,
  swayPixels: 3.07,
  pictures: 20,
  seconds: 8.1,
  sway: 'in',
  pushedPercent: 1.4,
  staysPercent: 0.03,
  restSeconds: 1.26,
  stays: 'in',
  says: 'still',
  ...over,
});

const look = (over: Partial<SwayLook> = {}): SwayLook => ({
  phase: 'done',
  seconds: 0,
  points: [
    { seconds: 0, across: 0, down: 0, turned: 0 },
    { seconds: 4, across: 0.4, down: -0.1, turned: 0 },
    { seconds: 8, across: -0.4, down: 0.1, turned: 0 },
  ],
  measured: measured(),
  why: null,
  tolerance: { swayPercent: 0.3, staysPercent: 0.2 },
  ...over,
});

describe('whether a camera stands still', () => {
  it('is said in one word, and never "still" of what was not pushed', () => {
    expect(swayState(look({ phase: 'push', measured: measured({ says: null }) }))).toBe('push');
    expect(swayState(look())).toBe('still');
    const unpushed = measured({ pushedPercent: null, staysPercent: null, restSeconds: null, stays: null, says: null });
    expect(swayState(look({ measured: unpushed, why: { code: 'sway.not-pushed', args: [] } }))).toBe('seen');
    expect(swayState(look({ measured: measured({ sway: 'tooClose', says: null }) }))).toBe('close');
    expect(swayState(look({ measured: null, why: { code: 'sway.too-few', args: ['3', '30'] } }))).toBe('nothing');
    expect(swaySentence(look({ phase: 'letGo' }))).toBe('Let go');
  });

  it('counts down while hands are off, and not where nobody knows how long it takes', () => {
    expect(secondsLeft(look({ phase: 'handsOff', seconds: 8, points: [{ seconds: 2.4, across: 0, down: 0, turned: 0 }] }))).toBe(6);
    expect(secondsLeft(look({ phase: 'handsOff', seconds: 8, points: [] }))).toBeNull();
    expect(secondsLeft(look({ phase: 'handsOff', seconds: 8, points: [{ seconds: 20, across: 0, down: 0, turned: 0 }] }))).toBe(0);
    expect(secondsLeft(look({ phase: 'push' }))).toBeNull();
  });

  it('has its figures with what is allowed', () => {
    const lines = swayFigures(look({ measured: measured({ swayPercent: 1.18, swayPixels: 30.2, sway: 'out' }) }));
    expect(lines.map((l) => `${l.text} ${l.most} ${l.is}`)).toEqual([
      "It sways by 1.2 % of the picture's width, 30 of 2560 pixels; at most 0.30 %: out",
      'Pushed by 1.4 %, at rest after 1.3 s, 0.03 % from where it was; at most 0.20 %: in',
    ]);
    expect(swayFigures(look({ measured: measured({ swayPercent: 0.01, swayPixels: null }) }))[0]?.text).toContain(
      'less than can be seen, 0.03 %',
    );
    expect(swayFigures(look({ measured: null }))).toEqual([]);
    expect(share(0.995)).toBe('1.0');
  });

  it('is drawn about its middle, and grain is no storm', () => {
    const { half, across, allowed } = traces(look());
    expect(half).toBeCloseTo(0.44);
    expect(across.map((p) => Number(p.y.toFixed(2)))).toEqual([0.5, 0.95, 0.05]);
    expect(allowed).toBeCloseTo(0.3 / 4 / 0.44);
    const grain = traces({
      measured: null,
      points: look().points.map((p) => ({ ...p, across: p.across / 100, down: 0 })),
      tolerance: look().tolerance,
    });
    // What a push left lies beside the middle, not about it.
    const pushed = traces({ ...look(), points: [...look().points, { seconds: 20, across: 1, down: 0, turned: 0 }] });
    expect(pushed.across.map((p) => p.y > 0.5)).toEqual([false, true, false, true]);
    expect(pushed.across[0]?.y).toBeCloseTo(0.5);
    expect(grain.half).toBe(0.3);
    expect(Math.max(...grain.across.map((p) => p.y))).toBeLessThan(0.51);
    expect(traces({ points: [], tolerance: look().tolerance, measured: null }).across).toEqual([]);
  });
});
