import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { db } from '../outbox/db';
import { alongOf, freshen, NoRoomError, putAway, takeAlong, toFreshen } from './along';
import { keepAnswer } from './cache';
import { answered, api, NoNetworkError } from './client';
import { pack, unpack } from './taken';
import type { WalkChanges } from './types';

const JOB = '0190a000-0000-7000-8000-00000000000a';
const idOf = (n: number) => `0190a000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const card = (n: number, verdict = 'open') => ({ place: { id: idOf(n) }, card: { verdict: { verdict } } });
const quiet = new AbortController().signal;

/** A record of so many Cards, asked by pages; what is asked for is written down. */
function record(count: number, change: Partial<{ changes: unknown; status: number; brokenAt: number; drawing: string }> = {}) {
  const asked: string[] = [];
  const answer = (body: unknown, status = 200) =>
    Promise.resolve(new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }));
  vi.stubGlobal('fetch', (input: Request | string) => {
    const url = new URL(typeof input === 'string' ? input : input.url, 'http://walkdown');
    asked.push(url.pathname + url.search);
    if (url.pathname.endsWith('/cards')) {
      const [skip, take] = [Number(url.searchParams.get('skip')), Number(url.searchParams.get('take'))];
      if (change.brokenAt !== undefined && skip >= change.brokenAt) return Promise.reject(new TypeError('down'));
      return answer({
        cards: Array.from({ length: Math.min(take, count - skip) }, (_, i) => card(skip + i)),
        of: count,
        sequence: 40 + skip,
      });
    }
    if (url.pathname.endsWith('/walk/changes')) return answer(change.changes ?? {}, change.status ?? 200);
    if (url.pathname.startsWith('/api/cards/')) return answer(card(Number(url.pathname.slice(-12)), 'accepted'));
    if (url.pathname.endsWith('/walk')) return answer({ drawing: change.drawing ? { hash: change.drawing } : null });
    if (url.pathname === '/api/demo') return answer({}, 404);
    return answer({});
  });
  return asked;
}

const down = () => vi.stubGlobal('fetch', () => Promise.reject(new TypeError('down')));

beforeEach(async () => {
  await db.along.clear();
  await db.answers.clear();
});
afterEach(() => vi.restoreAllMocks());

describe('what is packed', () => {
  it('is the same when it is unpacked, whatever signs it holds', async () => {
    for (const value of [{ a: 'ß 光 \u0000 "' }, [], null, 'x'.repeat(100_000), { deep: [[{ n: 1e-9 }]] }])
      expect(await unpack(await pack(value))).toEqual(value);
    expect(await unpack(JSON.stringify({ a: 1 }))).toEqual({ a: 1 });
  });
});

/** The browser's own keeper of files, as far as it is asked. */
function keeper() {
  const files = new Map<string, Blob>();
  vi.stubGlobal('caches', {
    open: () =>
      Promise.resolve({
        keys: () => Promise.resolve([...files.keys()].map((path) => ({ url: `http://walkdown${path}` }))),
        match: (path: string) => Promise.resolve(files.has(path) ? new Response(files.get(path)) : undefined),
        put: async (path: string, response: Response) => void files.set(path, await response.blob()),
        delete: (request: { url: string }) => Promise.resolve(files.delete(new URL(request.url).pathname)),
      }),
    delete: () => Promise.resolve(files.clear()),
  });
  return files;
}

describe('pictures that are taken along', () => {
  const place = (n: number, ids: number[], erased: number[] = []) => ({
    deviceId: idOf(n),
    pictures: ids.map((id) => ({ id: idOf(id), erased: erased.includes(id) ? { by: 'x' } : null })),
  });
  const file = (n: number, id: number) => `/api/cards/${idOf(n)}/pictures/${idOf(id)}.jpg`;

  /** A record of two Cards with these pictures. */
  function withPictures(places: unknown[], gone: string[] = []) {
    record(2);
    const cards = fetch;
    const fetched: string[] = [];
    vi.stubGlobal('fetch', (input: Request | string, init?: RequestInit) => {
      const path = new URL(typeof input === 'string' ? input : input.url, 'http://walkdown').pathname;
      if (path.endsWith('.jpg')) {
        fetched.push(path);
        return Promise.resolve(gone.includes(path) ? new Response('', { status: 410 }) : new Response('jpeg'));
      }
      if (path === `/api/jobs/${JOB}/pictures`)
        return Promise.resolve(
          new Response(JSON.stringify({ places, count: 0, bytes: 0 }), { headers: { 'content-type': 'application/json' } }),
        );
      return cards(input, init);
    });
    return fetched;
  }

  it('are there without a network with their words, but for those that were erased', async () => {
    const files = keeper();
    withPictures([place(0, [7, 8], [8])], []);
    const told: [number, number][] = [];
    const note = await takeAlong(JOB, { pictures: true }, (done, of) => told.push([done, of]), quiet);
    expect(note.pictures).toBe(1);
    expect(told.at(-1)).toEqual([3, 3]);
    expect([...files.keys()]).toEqual([file(0, 7)]);
    down();
    const list = await answered(api.GET('/api/cards/{deviceId}/pictures', { params: { path: { deviceId: idOf(0) } } }));
    expect(list.map((p) => p.id)).toEqual([idOf(7), idOf(8)]);
  });

  it('are fetched once, and go when they were erased since, or are put away', async () => {
    const files = keeper();
    withPictures([place(0, [7, 8])]);
    await takeAlong(JOB, { pictures: true }, () => {}, quiet);
    const fetched = withPictures([place(0, [7, 8], [8]), place(1, [9])]);
    await takeAlong(JOB, { pictures: true }, () => {}, quiet);
    expect(fetched).toEqual([file(1, 9)]);
    expect([...files.keys()]).toEqual([file(0, 7), file(1, 9)]);
    await putAway(JOB);
    expect(files.size).toBe(0);
  });

  it('of one job go without those of another', async () => {
    const files = keeper();
    withPictures([place(0, [7])]);
    await takeAlong(JOB, { pictures: true }, () => {}, quiet);
    // A Card of another job, whose pictures are on this device too.
    files.set(file(5, 50), new Blob(['jpeg']));
    await takeAlong(JOB, { pictures: true }, () => {}, quiet);
    expect([...files.keys()]).toEqual([file(0, 7), file(5, 50)]);
    await putAway(JOB);
    expect([...files.keys()]).toEqual([file(5, 50)]);
  });

  it('that are erased while they are fetched are left out, and the rest is taken', async () => {
    const files = keeper();
    withPictures([place(0, [7, 8])], [file(0, 7)]);
    expect((await takeAlong(JOB, { pictures: true }, () => {}, quiet)).pictures).toBe(1);
    expect([...files.keys()]).toEqual([file(0, 8)]);
  });

  it('stay where they are unless they are asked for', async () => {
    const files = keeper();
    const fetched = withPictures([place(0, [7])]);
    const note = await takeAlong(JOB, { area: 'Gate' }, () => {}, quiet);
    expect([fetched.length, files.size, note.pictures, note.area]).toEqual([0, 0, undefined, 'Gate']);
  });
});

describe('a job that is taken along', () => {
  it('opens every Card without a network, those that were never seen too', async () => {
    record(230);
    const told: number[] = [];
    const note = await takeAlong(JOB, {}, (done) => told.push(done), quiet);
    expect([note.cards, note.sequence, told]).toEqual([230, 40, [100, 200, 230]]);
    down();
    for (const n of [0, 99, 100, 229])
      expect(await answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId: idOf(n) } } }))).toEqual(card(n));
    await expect(answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId: idOf(230) } } }))).rejects.toBeInstanceOf(
      NoNetworkError,
    );
    expect(await answered(api.GET('/api/jobs'))).toEqual({});
  });

  it('gives way to what was seen since, and holds against what was seen before', async () => {
    record(1);
    const address = `/api/cards/${idOf(0)}`;
    await keepAnswer(address, { older: true }, 1);
    await takeAlong(JOB, {}, () => {}, quiet);
    down();
    const seen = () => answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId: idOf(0) } } }));
    expect(await seen()).toEqual(card(0));
    await keepAnswer(address, { newer: true }, Date.now() + 1000);
    expect(await seen()).toEqual({ newer: true });
  });

  it('is held as before where it is broken off, or where there is no room', async () => {
    record(150);
    const before = await takeAlong(JOB, {}, () => {}, quiet);
    record(400, { brokenAt: 200 });
    await expect(takeAlong(JOB, {}, () => {}, quiet)).rejects.toBeInstanceOf(NoNetworkError);
    record(400);
    const full = vi.spyOn(db.along, 'bulkPut').mockRejectedValueOnce(new DOMException('full', 'QuotaExceededError'));
    await expect(takeAlong(JOB, {}, () => {}, quiet)).rejects.toBeInstanceOf(NoRoomError);
    full.mockRestore();
    expect(await alongOf(JOB)).toEqual(before);
    expect(await db.along.where('jobId').equals(JOB).count()).toBeGreaterThan(150);
    const stopped = new AbortController();
    stopped.abort();
    down();
    await expect(takeAlong(JOB, {}, () => {}, stopped.signal)).rejects.toBeDefined();
    expect(await alongOf(JOB)).toEqual(before);
  });

  it('asks for the Walk once', async () => {
    const asked = record(1);
    await takeAlong(JOB, {}, () => {}, quiet);
    expect(asked.filter((a) => a.endsWith('/walk'))).toHaveLength(1);
  });

  it('asks for its drawing, so that the plan is there', async () => {
    const hash = 'a'.repeat(64);
    const asked = record(1, { drawing: hash });
    await takeAlong(JOB, {}, () => {}, quiet);
    expect(asked).toContain(`/api/jobs/${JOB}/plan/${hash}`);
  });

  it('is gone when it is put away, and another job is not', async () => {
    record(2);
    await takeAlong(JOB, {}, () => {}, quiet);
    await db.along.put({ url: 'along:other', jobId: 'other', at: 1, body: '{}' });
    await putAway(JOB);
    expect([await alongOf(JOB), await db.along.count()]).toEqual([undefined, 1]);
  });
});

describe('what is held is kept fresh', () => {
  const changes = (ids: string[], sequence: number) => ({ stops: ids.map((id) => ({ id })), sequence }) as unknown as WalkChanges;

  it('by the Cards that changed and no others', async () => {
    expect(toFreshen(changes([idOf(1), idOf(9)], 50), new Set([`/api/cards/${idOf(1)}`]))).toEqual([idOf(1)]);
    record(3);
    await takeAlong(JOB, {}, () => {}, quiet);
    const asked = record(3, { changes: changes([idOf(1), idOf(7)], 55) });
    expect(await freshen(JOB)).toBe(1);
    // The Walk says how they stand.
    expect(asked).toEqual([`/api/jobs/${JOB}/walk/changes?after=40`, `/api/cards/${idOf(1)}`, `/api/jobs/${JOB}/walk`]);
    expect((await alongOf(JOB))!.sequence).toBe(55);
    down();
    expect(await answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId: idOf(1) } } }))).toEqual(card(1, 'accepted'));
  });

  it('as a whole where the register has changed, and not at all where nothing is held', async () => {
    const whole = { ...changes([], 70), askWhole: true };
    record(1, { changes: whole });
    expect(await freshen(JOB)).toBe(0);
    await takeAlong(JOB, {}, () => {}, quiet);
    record(1, { changes: whole });
    expect(await freshen(JOB)).toBeUndefined();
    // What was not brought is not taken for brought.
    expect((await alongOf(JOB))!.sequence).toBe(40);
  });

  it('as a whole where more changed than is asked for at once, and nothing is asked where nothing did', async () => {
    record(150);
    await takeAlong(JOB, {}, () => {}, quiet);
    const all = Array.from({ length: 150 }, (_, n) => idOf(n));
    record(150, { changes: changes(all, 60) });
    expect(await freshen(JOB)).toBeUndefined();
    const asked = record(150, { changes: changes([], 61) });
    expect(await freshen(JOB)).toBe(0);
    expect(asked).toHaveLength(1);
    expect((await alongOf(JOB))!.sequence).toBe(61);
  });
});
