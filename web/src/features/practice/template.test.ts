import { describe, expect, it } from 'vitest';
import { draftOf, partsOf, stillUnknown, toggledIn } from './template';

const whole = {
  lens: { leastMm: 3.1, mostMm: 9.4, set: 'motor' as const, widestDeg: 98, narrowestDeg: 31, tallestDeg: null, lowestDeg: null },
  pixels: { wide: 3840, high: 2160 },
  reset: { leastSeconds: 8, mostSeconds: null, at: 'beside the card', light: null },
  stops: { panLeast: -170, panGreatest: 170 },
  cards: { slots: 1, class: 'U1', mostGigabytes: 256, together: null },
  boxCurve: [
    { ambientC: 0, minutes: 45 },
    { ambientC: 35, minutes: 10 },
  ],
  seals: ['network'],
  fasteners: [{ part: 'cover', drive: 'T10', count: 3, captive: true }],
  surfaces: [{ setting: 'focus', at: ['page', 'tester'] }],
};

describe("the parts of a model's sheet", () => {
  it('come back from their fields as they went in', () => {
    expect(partsOf(draftOf(whole))).toEqual(whole);
  });
  it('are nothing where nothing was typed', () => {
    expect(partsOf(draftOf())).toEqual({
      lens: null,
      pixels: null,
      reset: null,
      stops: null,
      cards: null,
      boxCurve: [],
      seals: [],
      fasteners: [],
      surfaces: [],
    });
  });
  it('take a comma, sort the box from cold to warm, and of a fixed lens one length', () => {
    const draft = draftOf();
    draft.lens.leastMm = '2,8';
    draft.box = [
      { ambientC: '35', minutes: '10' },
      { ambientC: '-5', minutes: '45' },
      { ambientC: '', minutes: '' },
    ];
    const parts = partsOf(draft)!;
    expect([parts.lens?.leastMm, parts.lens?.mostMm]).toEqual([2.8, 2.8]);
    expect(parts.boxCurve.map((b) => b.ambientC)).toEqual([-5, 35]);
  });
  it('are not kept while a number is none, or half of a group is missing', () => {
    for (const change of [
      (d: ReturnType<typeof draftOf>) => (d.pixels.wide = 'many'),
      (d: ReturnType<typeof draftOf>) => (d.pixels.high = '1080'),
      (d: ReturnType<typeof draftOf>) => (d.stops.panLeast = '-90'),
      (d: ReturnType<typeof draftOf>) => (d.reset.at = 'behind'),
      (d: ReturnType<typeof draftOf>) => (d.box = [{ ambientC: '20', minutes: '' }]),
    ]) {
      const draft = draftOf();
      change(draft);
      expect(partsOf(draft)).toBeNull();
    }
  });
  it('are no longer unknown once they are said', () => {
    expect(stillUnknown(['reset', 'seals', 'powerClass'], partsOf(draftOf(whole))!)).toEqual(['powerClass']);
    expect(stillUnknown(['reset', 'seals'], partsOf(draftOf())!)).toEqual(['reset', 'seals']);
  });
  it('keep their words in the order of all', () => {
    expect(toggledIn(['cap'], 'network', ['network', 'cap'])).toEqual(['network', 'cap']);
    expect(toggledIn(['network', 'cap'], 'network', ['network', 'cap'])).toEqual(['cap']);
  });
});
