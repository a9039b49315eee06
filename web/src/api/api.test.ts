import { beforeEach, describe, expect, it, vi } from 'vitest';

import { db } from '../outbox/db';
import { addressOf, evict, isWorthKeeping, keepAnswer, keptAnswer } from './cache';
import { NoNetworkError, api, answered } from './client';
import { offsetOf } from './clock';
import { afterEntry, merged } from './merge';
import type { CardAnswer, SavedAnswer, WalkAnswer, WalkChanges } from './types';

describe('the clock of the record', () => {
  const look = (sent: number, took: number, ahead: number) => ({ sent, heard: sent + took, served: sent + took / 2 + ahead });
  it('is read off the look that took least', () =>
    expect(offsetOf([look(0, 900, 9000), look(2000, 40, 60000), look(4000, 700, 3000)])).toBe(60000));
  it('is not invented where a network is slow one way', () => {
    // Served at once, heard a second later: half of the way may be all of it.
    expect(offsetOf([{ sent: 0, heard: 1000, served: 0 }])).toBe(0);
    expect(offsetOf([{ sent: 0, heard: 1000, served: 1000 }])).toBe(0);
  });
  it('is not known from answers that were late, or held up by a sleeping page', () => {
    expect(offsetOf([look(0, 5000, 60000)])).toBeNull();
    expect(offsetOf([{ sent: 10, heard: 5, served: 7 }])).toBeNull();
    expect(offsetOf([{ sent: 0, heard: 5, served: Number.NaN }])).toBeNull();
    expect(offsetOf([])).toBeNull();
  });
  it('is never off by more than half a round trip, whichever way was slow', () => {
    for (let ahead = -90000; ahead <= 90000; ahead += 30000)
      for (const there of [5, 100, 700]) {
        const [sent, back] = [1000, 60];
        const offset = offsetOf([{ sent, heard: sent + there + back, served: sent + there + ahead }])!;
        expect(Math.abs(offset - ahead)).toBeLessThanOrEqual(Math.max(250, (there + back) / 2) + 1);
      }
  });
});

describe('answers kept for want of a network', () => {
  beforeEach(() => db.answers.clear());
  it('are told apart by the whole of the question', async () => {
    await keepAnswer(addressOf('http://walkdown/api/jobs/1/handover/shown?deviceId=a'), { of: 'a' }, 1);
    await keepAnswer(addressOf('http://walkdown/api/jobs/1/handover/shown?deviceId=b'), { of: 'b' }, 2);
    expect((await keptAnswer('/api/jobs/1/handover/shown?deviceId=a'))?.body).toEqual({ of: 'a' });
    expect(await keptAnswer('/api/jobs/1/handover/shown')).toBeUndefined();
  });
  it('are of use a minute later', () =>
    expect(
      ['/api/progress/1', '/api/time', '/api/jobs/1/walk/changes?after=3', '/api/jobs/1/find?q=x', '/api/cards/1'].map(isWorthKeeping),
    ).toEqual([false, false, false, false, true]));
  it('give way from the oldest', async () => {
    for (let i = 0; i < 10; i++) await keepAnswer(`/api/cards/${i}`, {}, i);
    await evict(3);
    expect((await db.answers.orderBy('at').toArray()).map((a) => a.url)).toEqual(['/api/cards/7', '/api/cards/8', '/api/cards/9']);
    await evict(0);
    expect(await db.answers.count()).toBe(0);
  });
  it('are shown when the record cannot be reached, and nothing else is', async () => {
    await keepAnswer('/api/catalogue', { edition: '1' }, 1);
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('down')));
    expect(await answered(api.GET('/api/catalogue'))).toEqual({ edition: '1' });
    await expect(answered(api.GET('/api/demo'))).rejects.toBeInstanceOf(NoNetworkError);
  });
});

describe('a Walk and what changed since', () => {
  const stop = (id: string, verdict: string) => ({ id, verdict });
  const walk = {
    sequence: 4,
    next: null,
    verdicts: {},
    areas: [
      { name: 'A', stops: [stop('1', 'open'), stop('2', 'open')] },
      { name: 'B', stops: [stop('3', 'open')] },
    ],
  };
  it('are one, and what did not change is the same thing', () => {
    const known = walk as unknown as WalkAnswer;
    const next = merged(known, { sequence: 5, next: null, verdicts: {}, stops: [stop('2', 'accepted')] } as unknown as WalkChanges);
    expect(next.sequence).toBe(5);
    expect(next.areas[0].stops.map((s) => s.verdict)).toEqual(['open', 'accepted']);
    expect(next.areas[1]).toBe(known.areas[1]);
    expect(merged(known, { sequence: 6, next: null, verdicts: {}, stops: [], askWhole: false }).areas).toBe(known.areas);
  });
});

describe('the Card after an entry', () => {
  const card = {
    place: { id: 'd' },
    card: {
      rows: [
        { id: 'a', state: 'notTaken', check: { id: 'x' } },
        { id: 'b', state: 'in', check: { id: 'y' } },
      ],
      taken: 1,
      verdict: { verdict: 'open' },
    },
    faultWords: [],
    sequence: 7,
  } as unknown as CardAnswer;
  const saved = (follows: number, sequence: number) =>
    ({
      sequence,
      changed: {
        follows,
        rows: [{ id: 'a', state: 'in', counts: null }],
        taken: 2,
        verdict: { verdict: 'accepted' },
        faultWords: [{ text: 'w' }],
      },
      whole: null,
    }) as unknown as SavedAnswer;
  it('is what it was, with the rows that changed laid over', () => {
    const next = afterEntry(card, saved(7, 9))!;
    expect(next.card.rows[0]).toEqual({ id: 'a', state: 'in', counts: null, check: { id: 'x' } });
    expect(next.card.rows[1]).toBe(card.card.rows[1]);
    expect([next.sequence, next.card.taken, next.card.verdict.verdict, next.faultWords.length, next.place.id]).toEqual([
      9,
      2,
      'accepted',
      1,
      'd',
    ]);
    expect('follows' in next.card || 'faultWords' in next.card).toBe(false);
    // What was here is not touched: a page that shows it still may.
    expect(card.card.rows[0].state).toBe('notTaken');
  });
  it('is asked for where another entry came between, or nothing is here', () => {
    expect(afterEntry(card, saved(8, 9))).toBeUndefined();
    expect(afterEntry(undefined, saved(7, 9))).toBeUndefined();
  });
  it('is never older than what is here', () => {
    expect(afterEntry(card, saved(3, 5))).toBe(card);
    const whole = { ...card, sequence: 5 };
    expect(afterEntry(card, { sequence: 5, changed: null, whole })).toBe(card);
    // A whole one whose checks are not here is asked for, with what they say.
    expect(afterEntry(card, { sequence: 8, changed: null, whole: { ...card, sequence: 8, definitions: 'v9' } })).toBeUndefined();
  });
});
