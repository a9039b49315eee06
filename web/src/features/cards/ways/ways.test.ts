import { describe, expect, it } from 'vitest';
import type { CardRow, ReadingValue } from '../../../api/types';
import '../cardTexts';
import type { ItemSaid } from '../../../api/types';
import { draftOf, toReading, valueOf, ways } from '.';
import { isTrial } from './form';
import { isWhole } from './items';
import { typedPin } from './wireMap';

const fields = [
  { id: 'who', entry: 'text', unit: 'none', words: [], optional: false },
  { id: 'wide', entry: 'number', unit: 'millimetre', words: [], optional: false },
];

const row = (entry: string, more: object = {}) =>
  ({
    id: 'r',
    items: [{ id: 'a' }, { id: 'b' }],
    lights: [],
    check: { id: 'x', entry, unit: 'ohm', decimals: 1, choices: ['p', 'q'], fields, lines: null, ...more },
  }) as unknown as CardRow;

/** One value of each kind, as a source answers it. */
const values: [string, ReadingValue][] = [
  ['number', { kind: 'number', value: 61.25, unit: 'ohm' }],
  ['yesNo', { kind: 'yesNo', yes: false }],
  ['choice', { kind: 'choice', choice: 'p' }],
  ['list', { kind: 'list', marked: ['b'] }],
  [
    'items',
    {
      kind: 'items',
      items: [
        { item: 'a', state: 'fitted', by: null, why: null },
        { item: 'b', state: 'missing', by: null, why: null },
      ],
    },
  ],
  [
    'form',
    {
      kind: 'form',
      lines: [
        {
          at: null,
          said: [
            { field: 'who', number: null, word: 'Ina' },
            { field: 'wide', number: 12.5, word: null },
          ],
        },
      ],
    },
  ],
  ['text', { kind: 'text', text: '3.6.0' }],
  ['probes', { kind: 'probes', sent: 4000, received: 3999, roundTripsMs: null }],
  ['counters', { kind: 'counters', first: { packets: 1, errors: 2 }, second: { packets: 900, errors: 5 }, intervalSeconds: 60, bits: 32 }],
  ['light', { kind: 'choice', choice: 'p' }],
  [
    'zones',
    {
      kind: 'zones',
      picture: 'b1',
      zones: [
        {
          name: 'Quay',
          use: 'watch',
          points: [
            { x: 0, y: 0 },
            { x: 1, y: 0 },
            { x: 0, y: 1 },
          ],
        },
      ],
    },
  ],
  ['week', { kind: 'week', recorded: [{ day: 1, from: 0, to: 60 }], wanted: null }],
  [
    'wireMap',
    {
      kind: 'wireMap',
      nearToFar: [[1], [2], [3], [6], [5], [4], [7], [8]],
      readAt: 'farUnit',
      openDistanceMetres: null,
      remoteLabel: null,
      shieldArrives: null,
      twistedPairs: null,
    },
  ],
];

describe('every way of entering', () => {
  it('is looked at here', () => expect(values.map(([entry]) => entry).sort()).toEqual(Object.keys(ways).sort()));
  it.each(values)('%s: an empty draft is not sent', (entry) => {
    expect(toReading(row(entry), {})).toBeNull();
    expect(toReading(row(entry), { text: '  ' })).toBeNull();
  });
  it.each(values)('%s: what a source answered is sent as its answer', (entry, value) => {
    const draft = draftOf(value, 'o-1');
    expect(toReading(row(entry), draft)).toEqual({ value, observationId: 'o-1' });
  });
  it.each(values)('%s: typed over, it is what stands in the field', (entry, value) => {
    const sent = toReading(row(entry), { ...draftOf(value, 'o-1'), fromTester: undefined });
    expect(sent?.observationId).toBeUndefined();
    if (entry === 'number') expect(sent).toEqual({ text: '61.25' });
    else expect(sent?.value).toEqual(value);
  });
  it.each(values)('%s: is shown in words', (entry, value) => {
    const { big, unit } = valueOf(row(entry), value);
    expect(big).not.toBe('');
    expect(`${big} ${unit}`).not.toContain('undefined');
  });
  it('that is not known is shown as unreadable, and not sent', () => {
    expect(valueOf(row('number'), { kind: 'unreadable' }).big).toBe('?');
    expect(toReading(row('telepathy'), { text: '1' })).toBeNull();
  });
  it('list: where each is confirmed by itself, the exceptions are those that are not', () =>
    expect(toReading(row('list'), { confirmed: ['a'] })?.value).toEqual({ kind: 'list', marked: ['b'] }));
  it('choice: none is said in the words of its check, and without a unit', () => {
    const none = { kind: 'choice', choice: 'none' } as const;
    expect(valueOf(row('choice', { id: 'finish.defaults' }), none)).toEqual({ big: 'nothing', unit: '' });
    expect(valueOf(row('choice', { id: 'link.speed' }), none).big).toBe('no link');
  });
  it('counters: more than 32 bits are told by their size', () =>
    expect(toReading(row('counters'), { counters: ['1', '0', '5000000000', '0', '60'] })?.value).toMatchObject({ bits: 64 }));
});

describe('a form', () => {
  const word = { id: 'outcome', entry: 'word', unit: 'none', words: ['hit', 'miss'], optional: false };
  const count = { id: 'n', entry: 'count', unit: 'none', words: [], optional: true };
  const of = (f: object[], lines: object | null = null) => row('form', { fields: f, lines });
  const sent = (f: object[], said: Record<string, string>) => toReading(of(f), { lines: [{ said }] })?.value;
  it('is sent once every field that is asked has something', () => {
    expect(sent(fields, { who: 'Ina' })).toBeUndefined();
    expect(sent(fields, { who: ' ', wide: '12' })).toBeUndefined();
    expect(sent([word, count], { outcome: 'hit' })).toEqual({
      kind: 'form',
      lines: [{ at: null, said: [{ field: 'outcome', number: null, word: 'hit' }] }],
    });
  });
  it('takes numbers with a comma, and counts that are whole', () => {
    expect(sent(fields, { who: 'Ina', wide: '12,5' })).toMatchObject({ lines: [{ said: [{}, { number: 12.5 }] }] });
    for (const typed of ['1e3', '12 mm', '--1', '1.2.3', '9'.repeat(20)]) expect(sent(fields, { who: 'Ina', wide: typed })).toBeUndefined();
    for (const typed of ['1.5', '-1', 'x']) expect(sent([word, count], { outcome: 'hit', n: typed })).toBeUndefined();
  });
  it('of one word and many lines is a trial, and shows how often each came', () => {
    expect(isTrial(of([word], { least: 1, most: 40 }))).toBe(true);
    expect(isTrial(of([word]))).toBe(false);
    expect(isTrial(of(fields, { least: 1, most: 40 }))).toBe(false);
    const line = (w: string) => ({ at: null, said: [{ field: 'outcome', number: null, word: w }] });
    const shown = valueOf(of([word], { least: 1, most: 40 }), { kind: 'form', lines: [line('hit'), line('hit'), line('miss')] });
    expect(shown.big).toMatch(/^2 x .*; /);
  });
  it('of a check that has other fields now is shown as it was said', () =>
    expect(valueOf(of([]), { kind: 'form', lines: [{ at: null, said: [{ field: 'gone', number: null, word: 'a name' }] }] }).big).toBe(
      'a name',
    ));
});

describe('a state for each item', () => {
  const said = (item: string, state: ItemSaid['state'], by: string | null = null, why: string | null = null) => ({ item, state, by, why });
  it('is sent once each has one', () => {
    expect(toReading(row('items'), { items: { a: said('a', 'fitted') } })).toBeNull();
    expect(toReading(row('items'), { items: { a: said('a', 'fitted'), b: said('b', 'missing') } })?.value).toEqual({
      kind: 'items',
      items: [said('a', 'fitted'), said('b', 'missing')],
    });
  });
  it('says what is in its place and why, and why what is needed elsewhere is not needed here', () => {
    expect(isWhole(said('a', 'substituted', 'tape', ' '), true)).toBe(false);
    expect(isWhole(said('a', 'substituted', 'tape', 'too wide'), true)).toBe(true);
    expect(isWhole(said('a', 'notNeeded'), true)).toBe(false);
    expect(isWhole(said('a', 'notNeeded'), false)).toBe(true);
    expect(isWhole(said('a', 'notNeeded', null, 'under the roof'), true)).toBe(true);
  });
  it('shows only what is otherwise', () => {
    const shown = (states: ItemSaid['state'][]) =>
      valueOf(row('items'), { kind: 'items', items: states.map((state, i) => said(['a', 'b'][i], state)) }).big;
    expect(shown(['fitted', 'fitted'])).not.toContain('missing');
    expect(shown(['fitted', 'missing'])).toContain('missing');
  });
});

describe('a pin that is typed', () => {
  it('is what then stands in the field, whichever keyboard wrote it', () => {
    expect(typedPin('3', null)).toBe(3);
    expect(typedPin('0', null)).toBe(0);
    expect([typedPin('37', 3), typedPin('73', 3), typedPin('33', 3)]).toEqual([7, 7, 3]);
    expect(typedPin('', 3)).toBeNull();
  });

  it('is nothing where it is no pin', () => {
    for (const text of ['9', 'x', '12', ' ']) expect(typedPin(text, null)).toBeUndefined();
    expect(typedPin('3', 3)).toBeUndefined();
  });
});
