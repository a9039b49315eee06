import { QueryClient } from '@tanstack/react-query';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { answered, api, onSignedOut } from '../api/client';
import type { AccessAnswer } from '../api/types';
import { db } from '../outbox/db';
import { forgetWhatWasRead, hearSignOut, isNewHere, mayDo, noLongerNew, personIn, someoneElse, someoneElseAnew } from './access';
import { identity, setIdentity } from './identity';

const standing = (me: Partial<NonNullable<AccessAnswer['me']>> | null, more: Partial<AccessAnswer> = {}) => ({
  me: me && { id: 'a', name: 'Ina Solberg', userName: 'ina', roles: [], rights: [], people: [], session: 's', ...me },
  mustSignIn: false,
  mayBeFirst: false,
  isHere: false,
  isDemo: false,
  here: [],
  passkeys: false,
  ...more,
});

beforeEach(async () => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
  await Promise.all([db.answers.clear(), db.along.clear(), db.outbox.clear()]);
});

describe('who is here', () => {
  it('is who he is in this job, and nobody in another', () => {
    const access = standing({ people: [{ jobId: 'j1', personId: 'p1' }] });
    expect(personIn(access, 'j1')).toBe('p1');
    expect([personIn(access, 'j2'), personIn(access, undefined), personIn(standing(null), 'j1'), personIn(undefined, 'j1')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
  it('may what the record said, and nothing is hidden as long as nobody is signed in', () => {
    expect(mayDo(standing({ rights: ['look'] }), 'look')).toBe(true);
    expect(mayDo(standing({ rights: ['look'] }), 'work')).toBe(false);
    expect(mayDo(standing(null), 'work')).toBe(true);
    expect(mayDo(undefined, 'work')).toBe(true);
  });
});

describe('when somebody else comes in', () => {
  it('what was read goes, what was pressed stays', async () => {
    await db.answers.put({ url: '/api/jobs', body: [], at: 1 });
    await db.along.put({ url: '/api/cards/1', jobId: 'j', at: 1, body: '{}' });
    await db.outbox.add({ id: 'e', deviceId: 'd', path: '/notes', body: {}, keptAt: 0 });
    await forgetWhatWasRead();
    expect([await db.answers.count(), await db.along.count(), await db.outbox.count()]).toEqual([0, 0, 1]);
  });
  it('nothing that was asked for by the one before is shown, and he is asked what he measures with once', async () => {
    const client = new QueryClient();
    client.setQueryData(['walk', 'j'], { secret: true });
    client.setQueryData(['texts'], true);
    setIdentity({ personId: 'p1', instrumentId: 'i1' });
    await someoneElse(client);
    expect(client.getQueryData(['walk', 'j'])).toBeUndefined();
    expect(client.getQueryData(['texts'])).toBe(true);
    expect(identity().personId).toBeUndefined();
    expect(isNewHere()).toBe(true);
    noLongerNew();
    expect(isNewHere()).toBe(false);
  });
});

describe('a page that begins anew for somebody else', () => {
  it('goes at once: nothing is asked for and shown that a press would be lost on', async () => {
    const gone: string[] = [];
    const asked = vi.spyOn(globalThis, 'fetch').mockImplementation(() => Promise.reject(new Error('asked')));
    const stay = window.location;
    Object.assign(window, { location: { ...stay, assign: (to: string) => gone.push(to) } });
    await db.along.put({ url: '/api/cards/1', jobId: 'j', at: 1, body: '{}' });
    setIdentity({ personId: 'p1', instrumentId: 'i1' });
    await someoneElseAnew();
    expect(gone).toEqual(['/']);
    expect(asked).not.toHaveBeenCalled();
    expect(identity().personId).toBeUndefined();
    expect(await db.along.count()).toBe(0);
    expect(isNewHere()).toBe(true);
    noLongerNew();
    asked.mockRestore();
    Object.assign(window, { location: stay });
  });
});

describe('a session that was ended elsewhere', () => {
  it('is noticed at the first answer that says so, and asked after once', async () => {
    const client = new QueryClient();
    const asked = vi.spyOn(client, 'invalidateQueries').mockResolvedValue();
    client.setQueryData(['access'], standing({}));
    hearSignOut(client);
    const heard = vi.fn();
    const leave = onSignedOut(heard);
    vi.stubGlobal('fetch', () =>
      Promise.resolve(
        new Response('{"detail":"nobody","code":"problem.not-signed-in"}', {
          status: 401,
          headers: { 'content-type': 'application/json' },
        }),
      ),
    );
    await expect(answered(api.GET('/api/jobs'))).rejects.toThrow('nobody');
    expect(heard).toHaveBeenCalledOnce();
    expect(asked).toHaveBeenCalledWith({ queryKey: ['access'] });
    client.setQueryData(['access'], standing(null, { mustSignIn: true }));
    await expect(answered(api.GET('/api/jobs'))).rejects.toThrow('nobody');
    expect(asked).toHaveBeenCalledOnce();
    leave();
  });
});
