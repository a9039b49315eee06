import { describe, expect, it } from 'vitest';
import type { CardRow, ReadingValue } from '../../../api/types';
import '../cardTexts';
import type { ItemSaid } from '../../../api/types';
import { draftOf, toReading, valueOf, ways } from '.';
import { isWhole } from './items';

const row = (entry: string, more: object = {}) =>
  ({
    id: 'r',
    items: [{ id: 'a' }, { id: 'b' }],
    lights: [],
    check: { id: 'x', entry, unit: 'ohm', decimals: 1, choices: ['p', 'q'], ...more },
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
  ['text', { kind: 'text', text: '3.6.0' }],
  ['probes', { kind: 'probes', sent: 4000, received: 3999, roundTripsMs: null }],
  ['counters', { kind: 'counters', first: { packets: 1, errors: 2 }, second: { packets: 900, errors: 5 }, intervalSeconds: 60, bits: 32 }],
  ['light', { kind: 'choice', choice: 'p' }],
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
  it('counters: more than 32 bits are told by their size', () =>
    expect(toReading(row('counters'), { counters: ['1', '0', '5000000000', '0', '60'] })?.value).toMatchObject({ bits: 64 }));
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
