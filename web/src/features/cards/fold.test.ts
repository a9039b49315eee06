import { describe, expect, it } from 'vitest';
import type { CardRow } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import './cardTexts';
import { pendingOf } from './drafts';
import { countsOf, foldedOf, goneOf, LONG, waitsOf } from './fold';
import { leansOn } from './Guide';
import { isLate, UNDO_MS } from './lately';
import { isOneTouch } from './oneTouch';
import { countsText } from './Sections';

const later = '2999-01-01T00:00:00Z';
const wait = (of: string, until: string | null = later) => ({ for: of, begun: null, until, minutes: 0, source: null, ends: null });
const row = (id: string, state: string, more: object = {}) =>
  ({ id, state, isUnexplained: false, required: true, wait: null, spare: null, ...more }) as unknown as CardRow;

describe('a long Card', () => {
  const sections = ['before', 'cable', 'fixing'];
  it('folds all but what is at hand, by itself', () =>
    expect([...foldedOf(sections, LONG + 1, 'cable', {})]).toEqual(['before', 'fixing']));
  it('that is not long folds nothing by itself', () => expect(foldedOf(sections, LONG, 'cable', {}).size).toBe(0));
  it('keeps open what somebody opened, and folded what somebody folded, but never what is at hand', () => {
    expect([...foldedOf(sections, LONG + 1, 'cable', { fixing: false })]).toEqual(['before']);
    expect([...foldedOf(sections, 3, 'cable', { fixing: true, cable: true })]).toEqual(['fixing']);
  });
  it('counts each row once, and what waits is not "not taken"', () => {
    const counts = countsOf([
      row('a', 'in', { isUnexplained: true }),
      row('b', 'notTaken'),
      row('c', 'stale', { wait: wait('wait.dark') }),
      row('d', 'out'),
      row('e', 'stale'),
    ]);
    expect(counts).toMatchObject({ in: 1, notTaken: 1, stale: 1, waiting: 1, out: 1, unexpected: 1 });
    expect(countsText(counts)).toBe('1 out, 1 to be taken again, 1 not taken, 1 wait, 1 in');
  });
  it('says of each wait once what it is for, the soonest first and the unknown last', () => {
    const waits = waitsOf([
      row('a', 'notTaken', { wait: wait('presence.second-person', null) }),
      row('b', 'notTaken', { wait: wait('wait.dark') }),
      row('c', 'notTaken', { wait: wait('check.fixing.seals', '2998-01-01T00:00:00Z') }),
      row('d', 'stale', { wait: wait('wait.dark') }),
      row('e', 'in', { wait: wait('wait.dark') }),
      row('f', 'notTaken', { wait: wait('wait.recorder', null), required: false }),
      row('g', 'notTaken', { wait: wait('wait.recorder', '2020-01-01T00:00:00Z') }),
    ]);
    expect(waits.map((w) => [w.of, w.rows.length])).toEqual([
      ['check.fixing.seals', 1],
      ['wait.dark', 2],
      ['presence.second-person', 1],
    ]);
  });
  it('draws a wait as far as its time has gone, and none whose beginning nobody knows', () => {
    const of = (begun: string | null, until: string | null) => ({ wait: { ...wait('check.x', until), begun } });
    const [from, to] = ['2026-10-14T08:00:00Z', '2026-10-14T10:00:00Z'];
    expect(goneOf(of(from, to), Date.parse('2026-10-14T08:30:00Z'))).toBe(0.25);
    expect(goneOf(of(from, to), Date.parse('2026-10-15T08:30:00Z'))).toBe(1);
    expect(goneOf(of(from, to), Date.parse('2026-10-13T08:30:00Z'))).toBe(0);
    expect(goneOf(of(to, from), Date.parse(from))).toBe(1);
    expect([goneOf(of(null, to), 0), goneOf(of(from, null), 0), goneOf({ wait: null }, 0)]).toEqual([null, null, null]);
  });
});

describe('one touch', () => {
  it('waits for what the row waits for', () => {
    expect(isOneTouch(row('y', 'notTaken', { isOneTouch: true }))).toBe(true);
    expect(isOneTouch(row('y', 'notTaken', { isOneTouch: true, wait: wait('wait.dark') }))).toBe(false);
    expect(isOneTouch(row('y', 'notTaken', { isOneTouch: false }))).toBe(false);
  });
  it('can be taken back for a minute', () => {
    const saved = { deviceId: 'd', rowId: 'r', readingId: 'x', at: 1000 };
    expect([isLate(saved, 1000), isLate(saved, 999 + UNDO_MS), isLate(saved, 1000 + UNDO_MS), isLate(null, 0)]).toEqual([
      false,
      false,
      true,
      true,
    ]);
  });
});

describe('what a row leans on', () => {
  const of = (id: string, on: object, more: object = {}) =>
    row(id, 'in', { key: { on }, check: { id, holdUntil: [], gates: [] }, isDue: true, attempts: [], ...more });
  const [place, run, otherRun] = [
    { kind: 'place', id: 'p' },
    { kind: 'run', id: '1' },
    { kind: 'run', id: '2' },
  ];
  it('is what holds it, what comes before it and what its wait began with, of its own subject', () => {
    const rows = [of('a', place), of('b', run), of('b', otherRun), of('c', place), of('d', place, { isDue: false })];
    const mine = of('x', run, { check: { id: 'x', holdUntil: ['a'], gates: ['b', 'd'] }, wait: wait('check.c') });
    expect(leansOn(mine, rows).map((r) => [r.check.id, r.key.on.id])).toEqual([
      ['a', 'p'],
      ['b', '1'],
      ['c', 'p'],
    ]);
  });
});

describe('a reading that is kept here', () => {
  const item = (id: string, path: string, body: object = {}) => ({ id, path, row: 'r', body }) as unknown as OutboxItem;
  it('is not pending once it is taken back behind it', () => {
    const items = [item('a', '/readings'), item('b', '/readings'), item('w', '/withdrawals', { of: 'a' }), item('n', '/notes')];
    expect(pendingOf(items, 'r').map((i) => i.id)).toEqual(['b']);
    expect(pendingOf(items, 'other')).toEqual([]);
  });
});
