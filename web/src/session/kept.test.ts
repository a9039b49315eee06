import { beforeEach, describe, expect, it, vi } from 'vitest';
import { forgetKept, readKept, writeKept } from './kept';
import { setCurrentJob } from './job';

const store = new Map<string, string>();
const put = vi.fn((key: string, value: string) => void store.set(key, value));

beforeEach(() => {
  store.clear();
  put.mockClear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: put,
    removeItem: (key: string) => void store.delete(key),
  });
  forgetKept();
  setCurrentJob('11111111-1111-1111-1111-111111111111');
});

describe('what is kept', () => {
  it('outlives the page', () => {
    writeKept('signing', { name: 'Marit Holm' });
    forgetKept();
    expect(readKept('signing')).toEqual({ name: 'Marit Holm' });
  });

  it('is of one job', () => {
    writeKept('signing', 'here');
    setCurrentJob('22222222-2222-2222-2222-222222222222');
    expect(readKept('signing')).toBeUndefined();
    writeKept('signing', 'there');
    setCurrentJob('11111111-1111-1111-1111-111111111111');
    expect(readKept('signing')).toBe('here');
  });

  it('is gone when it was put away', () => {
    writeKept('cells', { a: 1 });
    writeKept('cells', undefined);
    forgetKept();
    expect(readKept('cells')).toBeUndefined();
    expect([...store.keys()].filter((k) => k.startsWith('walkdown.kept.'))).toEqual([]);
  });

  it('holds while the page is open where there is no room', () => {
    put.mockImplementationOnce(() => {
      throw new DOMException('full', 'QuotaExceededError');
    });
    writeKept('cells', { a: 1 });
    expect(readKept('cells')).toEqual({ a: 1 });
    expect(store.has('walkdown.kept.11111111-1111-1111-1111-111111111111.cells')).toBe(false);
  });

  it('is nothing where the store holds what no page wrote', () => {
    store.set('walkdown.kept.11111111-1111-1111-1111-111111111111.cells', '{"a":');
    expect(readKept('cells')).toBeUndefined();
  });
});
