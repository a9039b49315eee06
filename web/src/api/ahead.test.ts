import { beforeEach, describe, expect, it, vi } from 'vitest';

const card = { definitions: 'v1', card: { rows: [{ id: 'r', key: { check: 'cable.label' } }] } };
const definitions = { version: 'v1', checks: [{ id: 'cable.label', entry: 'yesNo' }] };

/** What was asked for, in its order. */
let asked: string[];

beforeEach(() => {
  vi.resetModules();
  asked = [];
  vi.stubGlobal('fetch', (request: Request) => {
    const { pathname } = new URL(request.url);
    asked.push(pathname);
    return Promise.resolve(Response.json(pathname.endsWith('/definitions') ? definitions : card));
  });
});

describe('a page that is opened on a Card', () => {
  it('asks for the Card and its checks at once, and once', async () => {
    const { beginAt, cardOf } = await import('./ahead');
    beginAt('/card/d-1');
    const first = cardOf('d-1');
    expect((await first).card.rows[0].check).toMatchObject({ entry: 'yesNo' });
    expect(asked.sort()).toEqual(['/api/cards/d-1', '/api/catalogue/definitions']);
    // The next time it is asked for anew.
    await cardOf('d-1');
    expect(asked.filter((a) => a === '/api/cards/d-1')).toHaveLength(2);
  });

  it('lets the Walk wait until the Card is drawn, and elsewhere not', async () => {
    const { beginAt, drawn, firstDrawn } = await import('./ahead');
    let isFree = false;
    beginAt('/');
    await firstDrawn();
    beginAt('/card/d-2');
    void firstDrawn().then(() => (isFree = true));
    await Promise.resolve();
    expect(isFree).toBe(false);
    drawn();
    await firstDrawn();
    expect(isFree).toBe(true);
  });

  it('tells what went wrong to who needs it, and to nobody before', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ detail: 'This Card is not on record.' }, { status: 404 })));
    const { beginAt, cardOf } = await import('./ahead');
    beginAt('/card/none');
    await expect(cardOf('none')).rejects.toThrow('not on record');
  });
});
