import { describe, expect, it } from 'vitest';
import worked from '../../../../docs/worked-cases/B_wire_map.json';
import type { CardRow, CatalogueAnswer, ReadingValue } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { say } from '../../texts';
import { actsFor, endFirst, isVoidedBy } from './ActSheet';
import './cardTexts';
import { firstRow, keptText, staysAt } from './due';
import { keptOf, provisional } from './provisional';

const row = {
  id: 'r',
  items: [],
  key: { on: {} },
  check: { id: 'cable.wire-map', entry: 'wireMap', judge: 'wire-map' },
} as unknown as CardRow;
const map = (nearToFar: number[][], more: Partial<Extract<ReadingValue, { kind: 'wireMap' }>> = {}): ReadingValue => ({
  kind: 'wireMap',
  nearToFar,
  readAt: 'farUnit',
  openDistanceMetres: null,
  remoteLabel: null,
  shieldArrives: null,
  twistedPairs: null,
  ...more,
});
const judged = (value: ReadingValue) => provisional(row, { value }, 'guarded')!;

interface Case {
  id: string;
  in: { operation: string; near_to_far?: Record<string, number[]>; twisted_pairs_near?: unknown; found_remote_label?: string };
  out: {
    classifications?: string[];
    reversed_pairs?: string[];
    transposed_pairs?: { near: string }[];
    crossed_pins?: number[];
    open_near_pins?: number[];
  };
}
const analysed = (worked.cases as unknown as Case[]).filter(
  (c) => c.in.operation === 'analyse' && c.out.classifications && !c.in.twisted_pairs_near && !c.in.near_to_far!.S,
);

describe('a wire map without the record', () => {
  it('has worked cases to be held against', () => expect(analysed.length).toBeGreaterThan(10));
  it.each(analysed.map((c) => [c.id, c] as const))('says of %s what the record says, or nothing', (_, c) => {
    const far = Array.from({ length: 8 }, (_x, i) => c.in.near_to_far![String(i + 1)] ?? []);
    const here = judged(map(far, { remoteLabel: c.in.found_remote_label ?? null }));
    const straight = c.out.classifications!.join() === 'straight_through';
    if (here.state !== null) expect(here.state).toBe(straight ? 'in' : 'out');
    const said = new Map(here.because.map((b) => [b.code, b.args.join()]));
    if (here.state === null || here.because.length === 0) return;
    expect(said.get('map.open') ?? '').toBe(c.out.open_near_pins!.join(', '));
    expect(said.get('map.reversedPair') ?? '').toBe(c.out.reversed_pairs!.join(', '));
    expect(said.get('map.transposedPairs') ?? '').toBe(c.out.transposed_pairs!.map((t) => t.near).join(', '));
    expect(said.has('map.crossedConductors')).toBe(c.out.crossed_pins!.length > 0);
  });
  it('leaves to the record what pins alone do not tell', () => {
    const straight = [[1], [2], [3], [4], [5], [6], [7], [8]];
    expect(judged(map(straight)).state).toBe('in');
    expect(judged(map(straight, { shieldArrives: false })).state).toBeNull();
    expect(judged(map(straight, { twistedPairs: [[1, 2]] })).state).toBeNull();
    expect(judged(map([[1], [2], [3], [], [], [6], [], []])).state).toBeNull();
    expect(judged(map([[1, 2], [1, 2], [3], [4], [5], [6], [7], [8]])).state).toBeNull();
    expect(judged(map([[1], [1], [3], [4], [5], [6], [7], [8]])).state).toBe('out');
    expect(judged(map([[9], [2], [3], [4], [5], [6], [7], [8]])).state).toBeNull();
  });
  it('names pins in words', () =>
    expect(
      judged(map([[1], [2], [3], [4], [], [6], [7], []]))
        .because.map(say)
        .join(' '),
    ).toBe('5, 8 open.'));
});

describe('a yes without the record', () => {
  it('is judged where a yes is all that is asked', () => {
    const label = { ...row, check: { ...row.check, entry: 'yesNo', judge: 'yes-no' } } as CardRow;
    expect(provisional(label, { value: { kind: 'yesNo', yes: true } }, 'simple')?.state).toBe('in');
    expect(provisional(label, { value: { kind: 'yesNo', yes: false } }, 'simple')?.state).toBe('out');
    const other = { ...label, check: { ...label.check, judge: 'feed' } } as CardRow;
    expect(provisional(other, { value: { kind: 'yesNo', yes: true } }, 'simple')).toBeNull();
  });
});

describe('what is kept here', () => {
  const item = (body: object, path = '/readings') => ({ id: 'i', deviceId: 'd', path, row: 'r', body }) as unknown as OutboxItem;
  it('is shown with what was typed, the newest of its row', () => {
    const volts = {
      ...row,
      check: { id: 'power.volts-at-device', entry: 'number', unit: 'volt', decimals: 1 },
      window: null,
    } as unknown as CardRow;
    expect(keptOf([], volts, 'simple')).toBeUndefined();
    expect(keptOf([item({ text: 'x' }), item({ text: '52.5' })], volts, 'simple')?.shown?.big).toBe('52.5');
    // A foreign unit is the record's to read: it is shown as it was typed.
    expect(keptOf([item({ text: '53 kV' })], volts, 'simple')).toMatchObject({ shown: { big: '53 kV' }, guess: null });
    expect(keptOf([item({}, '/notes')], volts, 'simple')).toBeUndefined();
  });
  it('is counted by rows', () => {
    expect(keptText([row], [])).toBe('');
    expect(keptText([row], [item({}), item({})])).toContain('1 kept here');
  });
  it('is not asked for again when the Card opens', () => {
    const rows = ['a', 'b', 'c'].map((id) => ({ ...row, id, isDue: true, state: 'notTaken' }));
    const card = { nextRow: 'a', rows } as Parameters<typeof firstRow>[0];
    const kept = (...ids: string[]) => ids.map((id) => ({ ...item({ text: '1' }), row: id }));
    expect(firstRow(card, [])?.id).toBe('a');
    expect(firstRow(card, kept('a'))?.id).toBe('b');
    expect(firstRow(card, kept('a', 'b'))?.id).toBe('c');
    // All are kept, none is judged: the first stands for the Card.
    expect(firstRow(card, kept('a', 'b', 'c'))?.id).toBe('a');
    expect(
      firstRow(
        {
          nextRow: null,
          rows: [
            { ...rows[0], isFailing: false },
            { ...rows[1], isFailing: true },
          ],
        } as typeof card,
        [],
      )?.id,
    ).toBe('b');
  });
});

describe('work that is proposed', () => {
  const catalogue = { acts: ['re-crimp', 'restarted', 're-punch'].map((id) => ({ id })) } as unknown as CatalogueAnswer;
  const failing = { ...row, check: { ...row.check, voidedBy: ['re-crimp', 're-punch'], voidedWhere: [] } } as unknown as CardRow;
  it('is what touches the row; the rest is a press away, and without a row all is there', () => {
    const { own, others } = actsFor(failing, catalogue);
    expect(own.map((a) => a.id)).toEqual(['re-crimp', 're-punch']);
    expect(others.map((a) => a.id)).toEqual(['restarted']);
    expect(actsFor(undefined, catalogue).own).toHaveLength(3);
    expect(actsFor({ ...row, check: { ...row.check, voidedBy: [], voidedWhere: [] } }, catalogue).own).toHaveLength(3);
    expect(actsFor(failing, undefined).own).toEqual([]);
  });
  it('is none that says something of other devices and nothing of this one', () => {
    const more = {
      acts: ['re-crimp', 'cover-opened', 'update-started', 'reset'].map((id) => ({ id })),
      voiding: ['re-crimp', 'cover-opened', 'reset'],
      voidedAtRecorder: { reset: ['recorder.clip'] },
    } as unknown as CatalogueAnswer;
    const ids = (records: number) => actsFor(undefined, more, [failing], records).own.map((a) => a.id);
    expect(ids(0)).toEqual(['re-crimp', 'update-started']);
    expect(ids(12)).toEqual(['re-crimp', 'update-started', 'reset']);
  });
  it('voids what is of its run or of the whole device, and a seal only at the end where it was opened', () => {
    const of = (kind: string, id: string, voidedBy: string[], voidedWhere: object[] = []) =>
      ({ key: { on: { kind, id } }, check: { voidedBy, voidedWhere, ofUnit: true } }) as unknown as CardRow;
    const crimp = { id: 're-crimp', on: 'run', newUnit: false } as const;
    expect(isVoidedBy(of('run', 'a', ['re-crimp']), crimp, 'a', 'near')).toBe(true);
    expect(isVoidedBy(of('run', 'b', ['re-crimp']), crimp, 'a', 'near')).toBe(false);
    expect(isVoidedBy(of('place', 'd', ['re-crimp']), crimp, 'a', 'near')).toBe(true);
    const seal = of(
      'place',
      'd',
      [],
      [
        { act: 're-crimp', end: 'far', atRecorder: false },
        { act: 'reset', end: null, atRecorder: true },
      ],
    );
    expect(isVoidedBy(seal, crimp, 'a', 'far')).toBe(true);
    expect(isVoidedBy(seal, crimp, 'a', 'near')).toBe(false);
    expect(isVoidedBy(seal, { id: 'reset', on: 'place', newUnit: false })).toBe(false);
    expect(isVoidedBy(seal, { id: 'unit-swapped', on: 'place', newUnit: true })).toBe(true);
    expect(actsFor(seal, { acts: [crimp, { id: 'reset' }] } as unknown as CatalogueAnswer).own).toEqual([crimp]);
  });
  it('is at the end where the map says to look first, and at none where it does not know', () => {
    const read = (lookFirst: string) =>
      ({ ...row, key: { on: { id: 'run-1' } }, counts: 'x', attempts: [{ readingId: 'x', map: { lookFirst } }] }) as unknown as CardRow;
    expect(endFirst(read('farEnd'), [read('farEnd')])).toBe('far');
    expect(endFirst(read('nearEnd'), [read('nearEnd')])).toBe('near');
    for (const either of ['eitherEnd', 'bothEnds', 'midRun', 'nowhere']) expect(endFirst(read(either), [read(either)])).toBeUndefined();
    expect(endFirst(undefined, [read('farEnd')])).toBeUndefined();
  });
});

describe('where a Card stays', () => {
  const rows = [{ id: 'a' }, { id: 'b' }];
  it.each([
    ['nothing was chosen, though Card and outbox came at once', undefined, true, false],
    ['its row is there and nothing is to come', 'a', true, true],
    ['it was chosen before the outbox was read', 'a', false, false],
    ['its row is gone', 'x', true, false],
  ])('%s', (_, at, isSettled, stays) => expect(staysAt(rows, at, isSettled)).toBe(stays));
});
