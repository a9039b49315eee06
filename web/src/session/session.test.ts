import { beforeEach, describe, expect, it, vi } from 'vitest';

const A = '0190a000-0000-7000-8000-00000000000a';
const B = '0190a000-0000-7000-8000-00000000000b';
const url = (path: string) => new URL(path, 'http://walkdown.test');

/** As a page finds it that was just opened. */
const fresh = async () => {
  vi.resetModules();
  return { job: await import('./job'), identity: await import('./identity') };
};

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
  vi.stubGlobal('document', { documentElement: { dataset: {} } });
});

describe('the job of an address', () => {
  it('is not there before one is known', async () => {
    const { job } = await fresh();
    expect(job.withJob(url('/register')).pathname).toBe('/register');
  });
  it('goes before every path, once', async () => {
    const { job } = await fresh();
    job.setCurrentJob(A);
    expect(job.withJob(url('/')).pathname).toBe(`/job/${A}`);
    expect(job.withJob(url('/register?find=NQ')).href).toBe(`http://walkdown.test/job/${A}/register?find=NQ`);
    expect(job.withJob(job.withJob(url('/kit'))).pathname).toBe(`/job/${A}/kit`);
  });
  it('is the one at hand from then on, and the rest is the path within it', async () => {
    const { job } = await fresh();
    job.setCurrentJob(A);
    expect(job.withoutJob(url(`/job/${B}/card/1?row=x`)).pathname).toBe('/card/1');
    await Promise.resolve();
    expect(job.currentJob()).toBe(B);
    expect(job.withoutJob(url(`/job/${B}`)).pathname).toBe('/');
    expect(job.withoutJob(url('/job/nonsense/kit')).pathname).toBe('/job/nonsense/kit');
    expect(job.withoutJob(url(`/job/${B}x/kit`)).pathname).toBe(`/job/${B}x/kit`);
  });
  it('is remembered by this browser', async () => {
    const first = await fresh();
    first.job.setCurrentJob(B);
    expect((await fresh()).job.currentJob()).toBe(B);
  });
});

describe('who somebody is', () => {
  it('is chosen in each job, and the rest is of the browser', async () => {
    const { job, identity } = await fresh();
    job.setCurrentJob(A);
    identity.setIdentity({ personId: 'ina', instrumentId: 'meter', leftHand: true });
    job.setCurrentJob(B);
    expect([identity.identity().personId, identity.identity().leftHand]).toEqual([undefined, true]);
    identity.setIdentity({ personId: 'max' });
    job.setCurrentJob(A);
    expect([identity.identity().personId, identity.identity().instrumentId]).toEqual(['ina', 'meter']);
    const again = await fresh();
    expect(again.identity.identity().personId).toBe('ina');
  });
  it('that was chosen before there were jobs to choose from holds for the first', async () => {
    localStorage.setItem('walkdown.identity', JSON.stringify({ personId: 'ina', night: true, leftHand: false }));
    const { job, identity } = await fresh();
    job.setCurrentJob(A);
    expect([identity.identity().personId, identity.identity().night]).toEqual(['ina', true]);
    identity.setIdentity({ instrumentId: 'meter' });
    expect(identity.identity().personId).toBe('ina');
  });
  it('is asked again where what was kept cannot be read', async () => {
    localStorage.setItem('walkdown.identity', '{"personId":');
    expect((await fresh()).identity.identity().personId).toBeUndefined();
  });
});
