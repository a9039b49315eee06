import { describe, expect, it } from 'vitest';
import type { CardAnswer, CardRow } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { asking, due, nextAsking } from './due';
import { newsOf } from './news';
import './cardTexts';

type Card = CardAnswer['card'];
const row = (id: string, state: string, more: Partial<CardRow> = {}) =>
  ({
    id,
    state,
    isDue: true,
    heldBy: [],
    key: { check: 'cable.length', on: { part: '' }, under: 'any' },
    check: { id: 'cable.length' },
    ...more,
  }) as unknown as CardRow;
const fault = (id: string, open: boolean, ended = false) => ({ open, ended: ended ? {} : null, fault: { id, title: `Fault ${id}` } });
const card = (rows: CardRow[], faults: unknown[] = []) => ({ rows, faults }) as unknown as Card;
const waiting = (id: string) => ({ row: id, path: '/readings' }) as OutboxItem;

describe('what became of a Card', () => {
  it('is nothing where nothing did', () => {
    const same = card([row('a', 'in')], [fault('1', true)]);
    expect(newsOf(same, same, 'a')).toBeUndefined();
    expect(newsOf(card([row('a', 'notTaken')]), card([row('a', 'in')]), 'b')).toBeUndefined();
  });

  it('is a Fault raised, closed by its retest, or ended by word', () => {
    expect(newsOf(card([]), card([], [fault('1', true)]))).toBe('Fault raised: Fault 1');
    expect(newsOf(card([], [fault('1', true)]), card([], [fault('1', false)]))).toBe('Fault closed, the retest is in: Fault 1');
    expect(newsOf(card([], [fault('1', true)]), card([], [fault('1', false, true)]))).toBe('Fault ended by word: Fault 1');
    // One that was closed before anybody looked is no news.
    expect(newsOf(card([]), card([], [fault('1', false)]))).toBeUndefined();
  });

  it('is a row that came out while another is on the screen, and not the one that is', () => {
    const was = card([row('a', 'notTaken'), row('b', 'notTaken')]);
    const now = card([row('a', 'out'), row('b', 'notTaken')]);
    expect(newsOf(was, now, 'b')).toMatch(/^Out: /);
    expect(newsOf(was, now, 'a')).toBeUndefined();
    expect(newsOf(now, now, 'b')).toBeUndefined();
    // A row that is new, such as after work that changed what is asked, came out nowhere.
    expect(newsOf(card([row('b', 'notTaken')]), now, 'b')).toBeUndefined();
  });
});

describe('what a Card still asks for', () => {
  const rows = [row('a', 'in'), row('b', 'notTaken'), row('c', 'stale'), row('d', 'notTaken')];
  it('is what was not taken or is stale, and not what waits to be sent', () => {
    expect(asking(rows, []).map((r) => r.id)).toEqual(['b', 'c', 'd']);
    expect(asking(rows, [waiting('c')]).map((r) => r.id)).toEqual(['b', 'd']);
  });

  it('goes round from the row at hand, past what was saved a moment ago', () => {
    expect(nextAsking(rows, [], 'b')?.id).toBe('c');
    expect(nextAsking(rows, [], 'd')?.id).toBe('b');
    expect(nextAsking(rows, [], 'b', ['b', 'c'])?.id).toBe('d');
    expect(nextAsking(rows, [waiting('b'), waiting('c'), waiting('d')], 'a')).toBeUndefined();
    expect(nextAsking(rows, [], 'gone')?.id).toBe('b');
  });

  it('holds the row at hand though it is not due', () => {
    const optional = row('e', 'notTaken', { isDue: false });
    expect(due([...rows, optional]).length).toBe(4);
    expect(due([...rows, optional], 'e').length).toBe(5);
  });
});
