import { beforeEach, describe, expect, it, vi } from 'vitest';
import { readDraft, readSeen, writeDraft, writeSeen } from '../features/cards/drafts';
import type { CardRow } from '../api/types';
import { readStored, writeStored } from './stored';

const kept = new Map<string, string>();
const row = { id: 'r-1' } as CardRow;

beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  });
});

describe("the browser's own store", () => {
  it('gives back what was put, and nothing where nothing was, or what is there is broken', () => {
    for (const value of [{ a: [1, 'b'] }, 'text', 0, false, []]) {
      writeStored('k', value);
      expect(readStored('k')).toEqual(value);
    }
    kept.set('k', '{"a":');
    expect([readStored('k'), readStored('other')]).toEqual([undefined, undefined]);
    writeStored('k', undefined);
    expect(kept.has('k')).toBe(false);
  });

  it('throws nothing where it is shut', () => {
    const shut = () => {
      throw new DOMException('denied', 'SecurityError');
    };
    vi.stubGlobal('localStorage', { getItem: shut, setItem: shut, removeItem: shut });
    writeStored('k', 1);
    expect(readStored('k')).toBeUndefined();
  });
});

describe('a draft of a row', () => {
  it('is kept until it is empty', () => {
    writeDraft(row, { text: '41,5', fields: { near: '2' } });
    expect(readDraft(row)).toEqual({ text: '41,5', fields: { near: '2' } });
    expect(readDraft({ id: 'r-2' } as CardRow)).toEqual({});
    writeDraft(row, {});
    expect([readDraft(row), kept.size]).toEqual([{}, 0]);
  });

  it('cites its pictures, and only what is an id', () => {
    writeSeen(row, ['a', 'b']);
    expect(readSeen(row)).toEqual(['a', 'b']);
    kept.set('walkdown.seen.r-1', '["a", 7, null]');
    expect(readSeen(row)).toEqual(['a']);
    kept.set('walkdown.seen.r-1', '{"a":1}');
    expect(readSeen(row)).toEqual([]);
    writeSeen(row, []);
    expect(kept.size).toBe(0);
  });
});
