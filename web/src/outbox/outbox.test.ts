import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

import { db } from './db';
import type { OutboxItem } from './items';
import { isPicture } from './picture';
import { addressOf, heldBack, nextToSend, sendOne, waitAfter } from './line';
import { discard, keep, keepAll, keepPicture, onAnswer, onPictures, send } from './outbox';

const answer = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });
const ok = () => answer(200, { sequence: 1 });
const item = (seq: number, path = '/readings', more: Partial<OutboxItem> = {}): OutboxItem => ({
  id: `id-${seq}`,
  seq,
  deviceId: 'cam-1',
  path,
  body: { id: `id-${seq}` },
  keptAt: 0,
  ...more,
});
const refused = { status: 422, title: '', detail: 'no' };
let sent: { url: string; body: { id: string } }[];
const record = (...answers: (() => Response | Promise<Response>)[]) =>
  vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
    sent.push({ url, body: JSON.parse(init.body as string) as { id: string } });
    const next = answers.length > 1 ? answers.shift()! : answers[0];
    return Promise.resolve().then(next);
  });

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  sent = [];
  onAnswer(() => {});
  await db.outbox.clear();
});
afterEach(() => {
  vi.clearAllTimers();
  vi.useRealTimers();
});

const settled = async (many: number) => {
  for (let i = 0; i < 200 && (await db.outbox.count()) !== many; i++) await new Promise((done) => setImmediate(done));
  expect(await db.outbox.count()).toBe(many);
};

const settledWhen = async (what: () => boolean) => {
  for (let i = 0; i < 200 && !what(); i++) await new Promise((done) => setImmediate(done));
  expect(what()).toBe(true);
};

describe('what is sent next', () => {
  it('goes in the order of pressing', () => expect(nextToSend([item(1), item(2)])?.seq).toBe(1));
  it('goes past a refused reading, which changes nothing for what follows', () => {
    const items = [item(1, '/readings', { refused }), item(2)];
    expect(nextToSend(items)?.seq).toBe(2);
    expect(heldBack(items)).toEqual([]);
  });
  it.each(['/acts', '/built'])('waits behind a refused %s of its own Card, and of no other', (path) => {
    const items = [item(1, path, { refused }), item(2), item(3, '/readings', { deviceId: 'cam-2' })];
    expect(nextToSend(items)?.seq).toBe(3);
    expect(heldBack(items).map((i) => i.seq)).toEqual([2]);
  });
  it('waits longer after each failure, and never for long', () => {
    expect([1, 2, 3, 9].map(waitAfter)).toEqual([1000, 2000, 4000, 15000]);
  });
});

describe('one entry', () => {
  it('is kept only when the whole answer was read', async () => {
    const cut = () => Promise.resolve(new Response('{"sequence":', { status: 200 }));
    expect(await sendOne(item(1), cut as typeof fetch)).toEqual({ kind: 'wait' });
  });
  it.each([500, 502, 503, 408, 425, 429])('waits at %i, which may go through later', async (status) => {
    expect(await sendOne(item(1), () => Promise.resolve(answer(status, { detail: 'x' })))).toEqual({ kind: 'wait' });
  });
  it('is refused by a sentence, not by a page of something in between', async () => {
    expect(await sendOne(item(1), () => Promise.resolve(answer(422, refused)))).toEqual({ kind: 'refused', status: 422, body: refused });
    expect(await sendOne(item(1), () => Promise.resolve(new Response('<html>', { status: 404 })))).toEqual({ kind: 'wait' });
  });
  it('waits for whoever made it, and for anybody at all to be signed in, and is no failure by that', async () => {
    const another = { ...refused, code: 'problem.in-anothers-name' };
    expect(await sendOne(item(1), () => Promise.resolve(answer(403, another)))).toEqual({ kind: 'another' });
    expect(await sendOne(item(1), () => Promise.resolve(answer(401, { detail: 'x' })))).toEqual({ kind: 'nobody' });
    // Anything else that is forbidden stays so, and is told.
    expect((await sendOne(item(1), () => Promise.resolve(answer(403, refused)))).kind).toBe('refused');
  });
  it('waits without a network', async () => {
    expect(await sendOne(item(1), () => Promise.reject(new TypeError('x')))).toEqual({ kind: 'wait' });
  });
});

describe('the outbox', () => {
  it('sends what was pressed, once and in order', async () => {
    record(ok);
    await keep('cam-1', '/readings', { row: 'a' });
    await keep('cam-1', '/readings', { row: 'b' });
    await settled(0);
    expect(sent.map((s) => s.url)).toEqual(['/api/cards/cam-1/readings', '/api/cards/cam-1/readings']);
    expect(new Set(sent.map((s) => s.body.id)).size).toBe(2);
  });

  it('sends again by the same id after an answer that was cut off', async () => {
    record(() => new Response('{"seq', { status: 200 }), ok);
    const id = await keep('cam-1', '/readings', { row: 'a' });
    for (let i = 0; i < 100 && sent.length === 0; i++) await new Promise((done) => setImmediate(done));
    await settled(1);
    await send();
    await settled(0);
    expect(sent.map((s) => s.body.id)).toEqual([id, id]);
  });

  it("goes past what is somebody else's, and keeps it", async () => {
    vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
      const body = JSON.parse(init.body as string) as { id: string; row: string };
      sent.push({ url, body });
      return Promise.resolve(body.row === 'hers' ? answer(403, { ...refused, code: 'problem.in-anothers-name' }) : ok());
    });
    await keep('cam-1', '/readings', { row: 'hers' });
    await keep('cam-1', '/readings', { row: 'mine' });
    await settled(1);
    expect((await db.outbox.toArray()).map((i) => [i.body.row, i.refused, i.tries])).toEqual([['hers', undefined, undefined]]);
  });

  it('stops where nobody is signed in, without a mark on what waits', async () => {
    record(() => answer(401, { detail: 'nobody' }));
    await keep('cam-1', '/readings', { row: 'a' });
    await keep('cam-2', '/readings', { row: 'b' });
    await send();
    expect((await db.outbox.toArray()).map((i) => [i.tries, i.refused])).toEqual([
      [undefined, undefined],
      [undefined, undefined],
    ]);
  });

  it('keeps entries of one press all or none', async () => {
    const entries = [{}, { note: () => 'no way to keep this' }].map((body) => ({ path: '/readings', body }));
    expect(await keepAll('cam-1', entries)).toBeNull();
    expect(await db.outbox.count()).toBe(0);
    record(ok);
    expect(await keepAll('cam-1', [entries[0], entries[0]])).toHaveLength(2);
    await settled(0);
    expect(sent.map((s) => s.body.id)).toHaveLength(2);
  });

  it('does not forget what was pressed while it was sending', async () => {
    let late: Promise<unknown> | undefined;
    record(() => {
      late ??= keep('cam-2', '/readings', { row: 'b' });
      return ok();
    });
    await keep('cam-1', '/readings', { row: 'a' });
    await settled(0);
    await late;
    expect(sent.map((s) => s.url)).toContain('/api/cards/cam-2/readings');
  });

  it('leaves only when its Card shows it, so that its row is not asked for again in between', async () => {
    let show = () => {};
    const told: number[] = [];
    onAnswer(async () => {
      told.push(await db.outbox.count());
      await new Promise<void>((done) => (show = done));
    });
    record(ok);
    await keep('cam-1', '/readings', { row: 'a' });
    await settledWhen(() => told.length === 1);
    expect([told, await db.outbox.count()]).toEqual([[1], 1]);
    show();
    await settled(0);
  });

  it('shows a long line of one Card together, in its order, and lets nothing go before', async () => {
    const told: [string, number[], number][] = [];
    onAnswer(async (deviceId, answers) => {
      told.push([deviceId, answers.map((a) => a.sequence), await db.outbox.count()]);
    });
    let open = () => {};
    const first = new Promise<void>((done) => (open = done));
    record(async () => {
      await first;
      return answer(200, { sequence: sent.length });
    });
    for (const card of ['cam-1', 'cam-1', 'cam-2', 'cam-1']) await keep(card, '/readings', {});
    open();
    await settled(0);
    expect(told).toEqual([
      ['cam-1', [1, 2, 4], 4],
      ['cam-2', [3], 4],
    ]);
  });

  it('shows what was sent before the network went, and keeps the rest', async () => {
    const told: number[] = [];
    onAnswer((_, answers) => told.push(answers.length));
    let open = () => {};
    const first = new Promise<void>((done) => (open = done));
    record(
      async () => {
        await first;
        return ok();
      },
      ok,
      () => Promise.reject(new TypeError('no network')),
    );
    for (let i = 0; i < 4; i++) await keep('cam-1', '/readings', {});
    open();
    await settled(2);
    expect(told).toEqual([2]);
  });

  it('is not held up for long by a Card that does not come', async () => {
    let told = 0;
    onAnswer(() => {
      told++;
      return new Promise(() => {});
    });
    record(ok);
    await keep('cam-1', '/readings', { row: 'a' });
    await settledWhen(() => told === 1);
    await vi.advanceTimersByTimeAsync(3000);
    await settled(0);
  });

  it('goes on when a page cannot take the answer', async () => {
    onAnswer(() => {
      throw new Error('page');
    });
    record(ok);
    await keep('cam-1', '/readings', {});
    await keep('cam-1', '/readings', {});
    await settled(0);
    expect(sent.length).toBe(2);
  });

  it('keeps a refused act with its sentence and lets nothing past it on that Card until it is settled', async () => {
    record(() => answer(422, { detail: 'It needs an end.', code: 'act.end' }), ok);
    await keep('cam-1', '/acts', {});
    await keep('cam-1', '/readings', {});
    await settled(2);
    const [act] = await db.outbox.orderBy('seq').toArray();
    for (let i = 0; i < 100 && !(await db.outbox.get(act.seq))?.refused; i++) await new Promise((done) => setImmediate(done));
    expect((await db.outbox.get(act.seq))?.refused?.detail).toBe('It needs an end.');
    expect(sent.length).toBe(1);
    await discard(act);
    await settled(0);
    expect(sent.length).toBe(2);
  });

  it('says so where this device has no room, after letting go of what is only kept to be shown', async () => {
    await db.answers.put({ url: '/api/jobs', body: [], at: 1 });
    const add = vi
      .spyOn(db.outbox, 'bulkAdd')
      .mockImplementation(() => Promise.reject(new DOMException('full', 'QuotaExceededError')) as never);
    expect(await keep('cam-1', '/readings', {})).toBeNull();
    expect(await db.answers.count()).toBe(0);
    add.mockRestore();
    record(ok);
    expect(await keep('cam-1', '/readings', {})).not.toBeNull();
    await settled(0);
  });
});

describe('a picture', () => {
  const photo = new Blob(['jpeg'], { type: 'image/jpeg' });
  it('is sent as it is, with what is said of it in the address', async () => {
    const urls: string[] = [];
    const bodies: unknown[] = [];
    const outcome = await sendOne(
      item(1, '/pictures', { file: photo, body: { id: 'p-1', caption: 'a & b', by: undefined, personal: false } }),
      ((url: string, init: RequestInit) => {
        urls.push(url);
        bodies.push(init.body);
        return Promise.resolve(answer(200, []));
      }) as typeof fetch,
    );
    expect(outcome.kind).toBe('kept');
    expect(urls).toEqual(['/api/cards/cam-1/pictures?id=p-1&caption=a+%26+b&personal=false']);
    expect(bodies).toEqual([photo]);
    expect(addressOf(item(2))).toBe('/api/cards/cam-1/readings');
  });
  it('goes before the reading that cites it, and is heard by the page of pictures', async () => {
    const order: string[] = [];
    vi.stubGlobal('fetch', (url: string) => {
      order.push(url.replace(/\?.*/, ''));
      return Promise.resolve(url.includes('/pictures') ? answer(200, [{ id: 'p' }]) : ok());
    });
    const heard: unknown[] = [];
    onPictures((device, lines) => heard.push([device, lines.length]));
    const picture = await keepPicture('cam-1', photo, { caption: 'Gland' }, 'row');
    await keep('cam-1', '/readings', { row: 'row', evidence: [{ pictureId: picture }] }, 'row');
    await settled(0);
    expect(order).toEqual(['/api/cards/cam-1/pictures', '/api/cards/cam-1/readings']);
    expect(heard).toEqual([['cam-1', 1]]);
  });
  it('waits on this device without a network, and is whole after it', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('down')));
    await keepPicture('cam-1', photo);
    const kept = (await db.outbox.toArray())[0];
    expect(kept.path).toBe('/pictures');
    expect(kept.file).toBeDefined();
    expect(kept.body.takenAt).toBeDefined();
    await discard(kept);
  });
  it('is told from what is none by how it begins', async () => {
    expect(await isPicture(new Blob([new Uint8Array([0xff, 0xd8, 0xff, 0xe0])]))).toBe(true);
    expect(await isPicture(new Blob([new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0])]))).toBe(true);
    for (const other of ['no picture', '', 'GIF89a', '\u0089PNG']) expect(await isPicture(new Blob([other]))).toBe(false);
  });
});
