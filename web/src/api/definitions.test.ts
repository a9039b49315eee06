import { beforeEach, describe, expect, it, vi } from 'vitest';

import type { WireCard } from './types';

const check = (id: string, unit: string) => ({ id, unit });
const wire = (definitions: string, ...checks: string[]) =>
  ({
    definitions,
    sequence: 1,
    card: { taken: 0, rows: checks.map((c) => ({ id: `row ${c}`, key: { check: c } })) },
  }) as unknown as WireCard;
let asked: number;
let answer: () => Promise<Response>;

/** A module of its own for each test: what it holds is for the whole page. */
const fresh = async () => {
  vi.resetModules();
  return import('./definitions');
};

beforeEach(() => {
  asked = 0;
  answer = () =>
    Promise.resolve(
      new Response(JSON.stringify({ version: 'v1', checks: [check('a', 'ohm')] }), { headers: { 'content-type': 'application/json' } }),
    );
  vi.stubGlobal('fetch', () => {
    asked++;
    return answer();
  });
});

describe('what checks say', () => {
  it('is asked for once, however many Cards ask at once', async () => {
    const { whole } = await fresh();
    const cards = await Promise.all([whole(wire('v1', 'a')), whole(wire('v1', 'a')), whole(wire('v1', 'a'))]);
    expect(asked).toBe(1);
    expect(cards.map((c) => c.card.rows[0].check.unit)).toEqual(['ohm', 'ohm', 'ohm']);
  });
  it('is asked for again where a Card names another version', async () => {
    const { whole, wholeNow } = await fresh();
    await whole(wire('v1', 'a'));
    expect(wholeNow(wire('v2', 'a'))).toBeUndefined();
    answer = () =>
      Promise.resolve(
        new Response(JSON.stringify({ version: 'v2', checks: [check('a', 'volt')] }), { headers: { 'content-type': 'application/json' } }),
      );
    expect((await whole(wire('v2', 'a'))).card.rows[0].check.unit).toBe('volt');
    expect(asked).toBe(2);
    expect(wholeNow(wire('v1', 'a'))).toBeUndefined();
    expect(wholeNow(wire('v2', 'a'))!.card.rows[0].check.unit).toBe('volt');
  });
  it('serves as it is where the record cannot be reached', async () => {
    const { whole } = await fresh();
    await whole(wire('v1', 'a'));
    const { db } = await import('../outbox/db');
    await db.answers.clear();
    answer = () => Promise.reject(new TypeError('down'));
    expect((await whole(wire('v2', 'a'))).card.rows[0].check.unit).toBe('ohm');
  });
  it('says so where none is here at all', async () => {
    const { whole } = await fresh();
    const { db } = await import('../outbox/db');
    await db.answers.clear();
    answer = () => Promise.reject(new TypeError('down'));
    await expect(whole(wire('v1', 'a'))).rejects.toBeInstanceOf(Error);
  });
  it('leaves a row of a check that is gone with what it can say', async () => {
    const { whole } = await fresh();
    const row = (await whole(wire('v1', 'gone'))).card.rows[0];
    expect([row.check.id, row.check.entry]).toEqual(['gone', 'text']);
  });
  it('is not kept with each Card', async () => {
    const { bare, whole } = await fresh();
    const card = await whole(wire('v1', 'a'));
    expect('check' in bare(card).card.rows[0]).toBe(false);
    expect((await whole(bare(card))).card.rows[0].check.unit).toBe('ohm');
    expect(card.card.rows[0].check.unit).toBe('ohm');
  });
});
