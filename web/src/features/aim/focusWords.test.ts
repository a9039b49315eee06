import { describe, expect, it } from 'vitest';
import './aimTexts';
import {
  againstWords,
  focusSentence,
  focusState,
  percent,
  spotWords,
  tracePoints,
  within,
  type FocusLook,
  type SpotFocus,
} from './focusWords';
import type { Live } from './words';

const spot = (over: Partial<SpotFocus> = {}): SpotFocus => ({
  now: { spot: 'topLeft', region: { x: 0, y: 0, width: 40, height: 30 }, detail: 0.02, uncertainty: 0.01, meanGrey: 90 },
  ofBest: 0.914,
  change: null,
  ...over,
});

const look = (over: Partial<FocusLook> = {}): FocusLook => ({
  state: 'better',
  why: null,
  ofBest: 0.8,
  uncertainty: 0.004,
  isTopKnown: false,
  spots: [spot()],
  trace: [0.5, 0.8],
  edge: null,
  unlike: null,
  ...over,
});

const live = (of: FocusLook | null, isLive = true) =>
  ({ isLive, focus: { look: of, against: null, says: null, hasCover: true } }) as unknown as Live;

describe('what whoever turns the ring is told', () => {
  it('is nothing before a picture, and to look again once the last is old', () => {
    expect(focusState(undefined, 0)).toBe('none');
    expect(focusState(live(null), 0)).toBe('none');
    expect(focusState(live(look()), 5999)).toBe('better');
    expect(focusState(live(look({ state: 'stop' })), 6001)).toBe('look');
    expect(focusState(live(look({ state: 'stop' }), false), 60000)).toBe('stop');
    expect(focusSentence(undefined, 0)).toBe('');
    expect(focusSentence(live(look({ state: 'worse' })), 0)).toBe('other way');
  });
});

it('which earlier picture is meant is said as it is known', () => {
  const of = (isBeforeLock: boolean, isCovered: boolean | null) => againstWords({ at: '', isBeforeLock, isCovered, why: null });
  expect([of(true, null), of(false, true), of(false, false), of(false, null)]).toEqual([
    'focus.against-lock',
    'focus.against-on',
    'focus.against-off',
    'focus.against-kept',
  ]);
});

describe('a part of the picture', () => {
  it('says how sharp it is, and what became of it', () => {
    expect(spotWords(spot())).toEqual({ name: 'Top left', now: '91 %', then: '', isSoft: false });
    expect(spotWords(spot({ change: { change: 'softer', ratio: 0.71, uncertainty: 0.02 } }))).toMatchObject({
      then: '71 %, softer',
      isSoft: true,
    });
  });

  it('says nothing where there is nothing', () => {
    const wall = spot({ now: { ...spot().now, detail: null }, ofBest: null, change: { change: 'noDetail', ratio: null, uncertainty: 0 } });
    expect(spotWords(wall)).toEqual({ name: 'Top left', now: 'too flat', then: 'nothing there then', isSoft: false });
    expect(percent(null)).toBe('');
  });
});

it('little that may be off is not nothing', () => {
  expect(within(0.001)).toBe('< 1 %');
  expect(within(0.034)).toBe('3 %');
});

it('the trace ends at the right, its sharpest on top', () => {
  const points = tracePoints([0, 1.2, 0.5], 5);
  expect(points.map((p) => p.x)).toEqual([0.5, 0.75, 1]);
  expect(points.map((p) => p.y)).toEqual([1, 0, 0.5]);
  expect(tracePoints([], 5)).toEqual([]);
});
