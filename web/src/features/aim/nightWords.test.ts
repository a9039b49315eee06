import { describe, expect, it } from 'vitest';
import './aimTexts';
import './nightTexts';
import '../cards/cardTexts';
import { besideNight, chanceWords, figures, hatch, lampSays, nightState, triedWords, triesAsk, type NightLook } from './nightWords';
import type { Live } from './words';

const tile = (share: number | null) => ({ light: 0.5, veil: share && 0.5 * share, share, clipped: 0, isPlain: false, byDay: 1 });

const look = (over: Partial<NightLook> = {}): NightLook => ({
  state: 'veiled',
  why: null,
  isColoured: false,
  veil: null,
  share: 0.4,
  worst: 0.8,
  black: { centre: 38, ring: 32, left: 8, right: 19, top: 7, bottom: 75, whole: 30, findings: [] },
  reasons: [],
  sharpness: { ratio: 0.65, uncertainty: 0.04, isSoft: false },
  reach: { light: 1.1, contrastToNoise: 4.6, isSeen: true },
  signalDb: 27.2,
  sameView: true,
  switch: null,
  lamp: null,
  suspects: [],
  target: { x: 0, y: 0, width: 10, height: 10 },
  ...over,
});

const live = (of: NightLook | null, isLive = true) => ({ isLive, night: { look: of, tries: [], next: [] } }) as unknown as Live;

describe('what the dark does to a picture', () => {
  it('is nothing before a picture, and to look again once the last is old', () => {
    expect(nightState(undefined, 0)).toBe('none');
    expect(nightState(live(null), 0)).toBe('none');
    expect(nightState(live(look()), 100)).toBe('veiled');
    expect(nightState(live(look()), 9000)).toBe('look');
    expect(nightState(live(look(), false), 9000)).toBe('veiled');
  });

  it('hatches the denser the more light lies over a tile, and not where nothing is known', () => {
    expect([0, 0.2, 0.25, 0.6, 0.9].map((share) => hatch(tile(share)))).toEqual([0, 0, 1, 2, 3]);
    expect(hatch(tile(null))).toBeNull();
  });

  it('says what became of it when something was done', () => {
    const words = (before: number, after: number | null, helped: boolean | null = null) =>
      triedWords({ act: 'wiped', before, after, helped });
    expect(words(0.8, 0.1, true)).toBe('80 % \u2192 10 %: helped');
    expect(words(0.8, 0.78, false)).toContain('no change');
    expect(words(0.8, 0.6)).toContain('tells nothing');
    expect(words(0.8, null)).toBe('waits for a picture');
  });

  it('asks what to try while light lies over it, and what did it once that is gone', () => {
    const wiped = { act: 'wiped', before: 0.8, after: 0.7, helped: null } as const;
    expect(triesAsk('veiled', ['wiped'], [])).toBe('Try first');
    expect(triesAsk('veiled', ['wiped'], [wiped])).toBe('Try first');
    expect(triesAsk('clear', ['filmOff'], [])).toContain('What did it');
    expect(triesAsk('soft', ['filmOff'], [wiped])).toContain('something else');
    // Nothing that could be done, or nothing seen of it.
    expect(triesAsk('veiled', [], [])).toBeUndefined();
    for (const state of ['look', 'colour', 'black'] as const) expect(triesAsk(state, ['wiped'], [])).toBeUndefined();
  });

  it('is never surer than a picture can be', () => {
    expect([1, 0.5, 0.001].map(chanceWords)).toEqual(['> 95 %', '50 %', '< 5 %']);
  });

  it('tells figures, and of what cannot be told that it cannot', () => {
    const of = (l: NightLook) => figures(l).map((f) => `${f.value}${f.means && ` (${f.means})`}`);
    expect(of(look()).slice(0, 4)).toEqual(['65 % \u00b1 4 % (as sharp)', '110 %', '4.6 (stands out)', '27 dB']);
    expect(of(look({ sharpness: { ratio: 0.5, uncertainty: 0.1, isSoft: null } }))[0]).toContain('too close to tell');
    expect(new Set(of(look({ sharpness: null, reach: null, signalDb: null, black: null })))).toEqual(new Set(['cannot be told']));
  });
});

describe('what stands beside a night picture', () => {
  const row = (check: string, under: string, taken: boolean, isDue = true) =>
    ({ id: `${check} ${under}`, check: { id: check }, key: { under }, isDue, attempts: taken ? [{}] : [] }) as unknown as Parameters<
      typeof besideNight
    >[0][number];

  it('is volts and watts with the infrared on, what was taken first', () => {
    const rows = [
      row('power.volts-at-device', 'infraredOff', true),
      row('power.volts-at-device', 'infraredOn', false),
      row('power.watts-at-device', 'infraredOn', true, false),
      row('power.port-watts', 'infraredOn', false, false),
      row('link.speed', 'infraredOn', true),
    ];
    expect(besideNight(rows).map((r) => r.id)).toEqual(['power.watts-at-device infraredOn', 'power.volts-at-device infraredOn']);
  });
});

describe('a white light', () => {
  const lamp = { isLit: false, changes: [], movement: null, colour: null, still: null, told: { code: 'night.lamp-rest', args: [] } };

  it('tells the row what was seen, and nothing else', () => {
    expect(lampSays(lamp)).toBe('Nothing tells the row yet.');
    expect(lampSays({ ...lamp, movement: 'comes-on' })).toBe('The row would be told: comes on');
    expect(lampSays({ ...lamp, movement: 'comes-on', colour: 'grey', still: 'goes-off' })).toBe(
      'The row would be told: comes on, stays grey, goes off',
    );
  });
});
