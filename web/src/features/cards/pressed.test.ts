import { describe, expect, it } from 'vitest';
import type { OutboxItem } from '../../outbox/items';
import { eventLines } from './pressed';

const item = (over: Partial<OutboxItem>): OutboxItem => ({
  id: 'a',
  deviceId: 'd',
  path: '/events',
  keptAt: 0,
  body: { way: 'walk', takenAt: '2026-11-30T10:00:00.000Z', clockOffsetMs: 1500 },
  ...over,
});
const line = (id: string, waits: boolean, proves: boolean | null) => ({
  id,
  at: '2026-11-30T09:00:00Z',
  way: 'hand' as const,
  waits,
  proves,
});

describe('what was pressed before a camera', () => {
  it('is told by the record’s clock before it is sent, the last first', () => {
    const lines = eventLines([item({}), item({ id: 'b' }), item({ id: 'c', deviceId: 'other' })], 'd', [line('k', true, null)]);
    expect(lines.map((l) => [l.id, l.stands])).toEqual([
      ['b', 'unsent'],
      ['a', 'unsent'],
      ['k', 'waits'],
    ]);
    expect(lines[0].at).toBe('2026-11-30T10:00:01.500Z');
  });

  it('is not told twice while its answer comes, nor as kept where it was refused', () => {
    expect(eventLines([item({ id: 'k' })], 'd', [line('k', true, null)]).map((l) => l.stands)).toEqual(['waits']);
    expect(eventLines([item({ refused: { code: 'x' } as OutboxItem['refused'] })], 'd', [])).toEqual([]);
  });

  it('says what came of its clip, and that it is taken back', () => {
    const kept = [line('1', false, true), line('2', false, false), line('3', false, null), line('4', true, null)];
    const back = item({ id: 'w', path: '/withdrawals', body: { of: '4' } });
    expect(eventLines([back], 'd', kept).map((l) => l.stands)).toEqual(['proven', 'refuted', 'untold', 'leaving']);
  });
});
