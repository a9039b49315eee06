import '../features/cards/cardTexts';
import { describe, expect, it } from 'vitest';
import type { CardRow, KitInstrument, WalkArea } from '../api/types';
import { provisional } from '../features/cards/provisional';
import { boxOf, crowding, fit } from '../features/walk/plan';
import { say, t } from '../texts';
import { expectLine, limitText, nameOf, qualifierOf, soon, spareText, whichOf } from './format';
import { toReading, valueOf } from '../features/cards/ways';
import { nameOfKey, nextOf } from './keys';

const row = {
  id: 'r',
  check: {
    id: 'power.volts-at-device',
    entry: 'number',
    judge: 'window',
    unit: 'volt',
    decimals: 1,
    choices: [],
    voidedBy: [],
    cautions: [],
  },
  key: { check: 'power.volts-at-device', on: { kind: 'run', id: 'x', part: '' }, under: 'infraredOn' },
  window: { min: 42.5, max: 57, empty: false, unit: 'volt', parts: [] },
  expected: null,
} as unknown as CardRow;
const spare = (value: number, nearest: 'min' | 'max') => ({ value, nearest, shareOfSpan: null, shareOfLimit: null, share: 0 });

describe('what a row says', () => {
  it('names the check, its pair and its condition', () => {
    expect([nameOf(row), qualifierOf(row)]).toEqual(['Volts at camera', 'infrared on']);
    expect(qualifierOf({ ...row, key: { ...row.key, under: 'any', on: { kind: 'run', id: 'x', part: '4-5' } } })).toBe('pair 4-5');
  });
  it('names which of several it is of, before its part', () => {
    const head = { ...row, of: { code: 'subject.head', args: ['3'] } };
    expect(qualifierOf(head)).toBe('head 3, infrared on');
    const run = { ...row, of: { code: 'subject.run', args: ['CC-07 b'] }, key: { ...row.key, on: { kind: 'run', id: 'x', part: '4-5' } } };
    expect(whichOf(run as CardRow)).toBe('run CC-07 b, pair 4-5');
    expect(whichOf(row)).toBe('');
  });
  it('gives limits in words', () => {
    expect(limitText(row)).toBe('42.5 to 57.0');
    expect(limitText({ ...row, window: { ...row.window!, min: null } })).toBe('at most 57.0');
    expect(limitText({ ...row, window: { ...row.window!, max: null } })).toBe('at least 42.5');
    expect(limitText({ ...row, window: { ...row.window!, empty: true } })).toBe('limits exclude each other');
  });
  it('says one of something in the singular, and a label that happens to be 1 as it is', () => {
    expect([t('card.read-more', 1), t('card.read-more', 2), t('card.read-more', 0)]).toEqual([
      '1 pair read',
      '2 pairs read',
      '0 pairs read',
    ]);
    expect(t('card.expect', 1)).toBe('expect 1');
    expect(t('card.read-more', '1')).toBe('1 pairs read');
  });
  it('says why nothing can be expected without saying that it is', () => {
    const e = {
      value: null,
      plusMinus: null,
      word: null,
      method: '',
      from: [],
      whyNone: { code: 'expect.none.no-length', args: [] },
      between: null,
    };
    expect(expectLine({ ...row, expected: e })).toBe(t('expect.none.no-length'));
    expect(expectLine({ ...row, expected: { ...e, whyNone: null, value: { value: 48, unit: 'volt' } } } as unknown as CardRow)).toBe(
      'expect 48.0 V',
    );
    expect(expectLine(row)).toBe('');
  });
  it('never rounds a failing value onto its limit', () => {
    expect(spareText(row, spare(6.1, 'max'))).toBe('+6.1 V');
    expect(spareText(row, spare(-1.24, 'min'))).toBe('1.2 V under');
    expect(spareText(row, spare(-0.004, 'max'))).toBe('0.004 V over');
  });
  it('shows each kind of value', () => {
    expect(valueOf(row, { kind: 'number', value: 50.94, unit: 'volt' })).toEqual({ big: '50.9', unit: 'V' });
    expect(valueOf(row, { kind: 'choice', choice: 'none' }).big).toBe('no link');
    expect(
      valueOf(row, {
        kind: 'wireMap',
        nearToFar: [[1], [2], [3], [4], [], [6], [7], []],
        readAt: 'farUnit',
        openDistanceMetres: null,
        remoteLabel: null,
        shieldArrives: null,
        twistedPairs: null,
      }).big,
    ).toBe('6');
  });
});

describe('texts', () => {
  it('fills arguments, and codes among them', () => {
    expect(say({ code: 'stale.voidedByAct', args: ['@act.re-crimp'] })).toBe('Plug remade since: take it again.');
    expect(t('because.limit', '@ui.yes, @ui.no', 'x')).toContain(`${t('ui.yes')}, ${t('ui.no')}`);
    expect(t('because.limit', '@@ui.yes, @ui.no', 'x')).toContain('@ui.yes, @ui.no');
    expect(t('no.such.code')).toBe('no.such.code');
    // One of something, told by the page or by the record.
    expect([t('verdict.out', 1), t('verdict.out', 2)]).toEqual(['1 Check out', '2 Checks out']);
    expect(say({ code: 'verdict.out', args: ['1'] })).toBe('1 Check out');
  });
});

describe('a typed reading', () => {
  it('is sent as it was typed', () => {
    expect(toReading(row, { text: '53,1 V' })).toEqual({ text: '53,1 V' });
    expect(toReading(row, { text: '  ' })).toBeNull();
  });
  it('is a wire map only with all eight far pins', () => {
    const map = { ...row, check: { ...row.check, entry: 'wireMap' } } as CardRow;
    expect(toReading(map, { pins: [1, 2, 3, null, 5, 6, 7, 8] })).toBeNull();
    expect(toReading(map, { pins: [1, 2, 3, 4, 0, 6, 7, 8] })?.value).toMatchObject({
      nearToFar: [[1], [2], [3], [4], [], [6], [7], [8]],
      readAt: 'farUnit',
    });
  });
});

describe('without the record', () => {
  const accuracy = { percentOfReading: 2, counts: 0, resolution: null, absolute: 0 };
  const held = { reads: [row.check.id], functions: [{ unit: row.check.unit, accuracy, upTo: null }] } as unknown as KitInstrument;
  it.each([
    ['50', 'guarded', 'in'],
    ['43', 'guarded', 'tooClose'],
    ['41', 'guarded', 'out'],
    ['43', 'simple', 'in'],
    ['42,5 V', 'simple', 'in'],
    ['58.5', 'guarded', 'out'],
  ])('%s by the %s rule is %s', (text, rule, state) => expect(provisional(row, { text }, rule, held)?.state).toBe(state));
  it('is off by what it is read with, and by how finely it is read where that is not at hand', () => {
    const finely = (readTo: number | null) => ({ ...row, check: { ...row.check, readTo } }) as CardRow;
    const halfWidth = (of: CardRow, by?: KitInstrument) => provisional(of, { text: '50' }, 'guarded', by)?.halfWidth;
    expect(halfWidth(finely(0.05), held)).toBe(1);
    expect(halfWidth(finely(0.05), { ...held, reads: [] })).toBe(0.05);
    expect(halfWidth(finely(0.05))).toBe(0.05);
    expect(halfWidth(finely(null))).toBe(0);
  });
  it('says "in" of nothing that more than a window judges, and nothing of what has no window', () => {
    const curve = { ...row, check: { ...row.check, judge: 'supply' } } as CardRow;
    expect(provisional(curve, { text: '50' }, 'simple')?.state).toBeNull();
    expect(provisional({ ...row, window: null }, { text: '50' }, 'simple')?.state).toBe('notJudged');
  });
  it('converts nothing here: a foreign unit waits for the record', () => {
    expect(provisional(row, { text: '53 mV' }, 'simple')).toBeNull();
    expect(provisional(row, { text: '53 kV' }, 'simple')).toBeNull();
  });
  it('says nothing of what is no number', () => expect(provisional(row, { text: 'x' }, 'guarded')).toBeNull());
});

describe('keys', () => {
  const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
    key,
    shiftKey: false,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    ...more,
  });
  it('are named as pages ask for them, and none is taken from the browser', () => {
    expect(
      [press('F'), press('f', { shiftKey: true }), press('Enter', { shiftKey: true }), press('ArrowUp')].map((e) => nameOfKey(e)),
    ).toEqual(['f', 'f', 'Shift+Enter', 'ArrowUp']);
    for (const held of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }]) expect(nameOfKey(press('r', held))).toBeUndefined();
  });
  it('of one sign do nothing once they are switched off, and the others still act', () => {
    expect(['d', '?', '7', '/', ' ', 'Enter', 'Escape', 'PageDown'].map((key) => nameOfKey(press(key), true))).toEqual([
      ...Array<undefined>(5).fill(undefined),
      'Enter',
      'Escape',
      'PageDown',
    ]);
  });
  it('lead round a group of choices, both ways, and nowhere from outside of it', () => {
    expect([nextOf('ArrowDown', 0, 3), nextOf('ArrowRight', 2, 3), nextOf('ArrowUp', 0, 3), nextOf('ArrowLeft', 1, 3)]).toEqual([
      1, 0, 2, 0,
    ]);
    expect([nextOf('Enter', 0, 3), nextOf('ArrowDown', -1, 3), nextOf('ArrowDown', 0, 0)]).toEqual([-1, -1, -1]);
  });
});

describe('the plan', () => {
  const area = (points: [number | null, number | null][]) => ({ stops: points.map(([x, y]) => ({ x, y })) }) as unknown as WalkArea;
  it('finds the box of what is placed, and none where nothing is', () => {
    expect(
      boxOf([
        { x: 3, y: -2 },
        { x: null, y: 4 },
        { x: -1, y: 9 },
      ]),
    ).toEqual({ x1: -1, y1: -2, x2: 3, y2: 9 });
    expect(
      boxOf([
        { x: null, y: null },
        { x: 1, y: null },
      ]),
    ).toBeNull();
  });
  it('shows a box whole, in the middle, whatever its shape', () => {
    for (const box of [
      { x1: 0, y1: 0, x2: 400, y2: 3 },
      { x1: -5, y1: 10, x2: -4, y2: 900 },
      { x1: 7, y1: 7, x2: 7, y2: 7 },
    ]) {
      const sight = fit(box, 800, 600);
      expect([sight.x, sight.y]).toEqual([(box.x1 + box.x2) / 2, (box.y1 + box.y2) / 2]);
      expect((box.x2 - box.x1) * sight.scale).toBeLessThanOrEqual(800 - 88 + 1e-9);
      expect((box.y2 - box.y1) * sight.scale).toBeLessThanOrEqual(600 - 88 + 1e-9);
      expect(sight.scale).toBeGreaterThan(0);
    }
    expect(fit({ x1: 0, y1: 0, x2: 1, y2: 1 }, 60, 40).scale).toBeGreaterThan(0);
  });
  it('says how near Stops lie, of a few and of thousands', () => {
    expect(crowding(area([[0, 0]]))).toBe(Infinity);
    expect(
      crowding(
        area([
          [0, 0],
          [null, 3],
        ]),
      ),
    ).toBe(Infinity);
    expect(
      crowding(
        area([
          [0, 0],
          [3, 4],
          [100, 100],
          [100, 102],
        ]),
      ),
    ).toBe(2);
    const grid = Array.from({ length: 2500 }, (_, i): [number, number] => [(i % 50) * 6, Math.floor(i / 50) * 6]);
    expect(crowding(area(grid))).toBe(6);
  });
});

describe('a moment that is to come', () => {
  const now = Date.parse('2026-11-28T22:30:00Z');
  it.each([
    ['2026-11-28T23:10:00Z', 'Europe/London', '23:10'],
    // Past midnight it is another day there, though not everywhere.
    ['2026-11-28T23:10:00Z', 'Europe/Helsinki', '01:10'],
    ['2026-11-29T09:05:00Z', 'Europe/London', 'Sun 09:05'],
    ['2026-12-04T09:05:00Z', 'Europe/London', 'Fri 09:05'],
    ['2026-12-05T09:05:00Z', 'Europe/London', '5 Dec'],
  ])('%s in %s is %s', (at, zone, said) => expect(soon(at, zone, now)).toBe(said));
});
