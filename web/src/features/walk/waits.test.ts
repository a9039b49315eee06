import { describe, expect, it } from 'vitest';
import type { WalkAnswer } from '../../api/types';
import { firstToEnd, withoutEnded } from './waits';

const now = Date.parse('2026-10-14T09:00:00Z');
const stop = (id: string, waitsUntil: string | null) => ({ id, waitsUntil });
const walk = {
  areas: [
    { name: 'Gate', stops: [stop('a', '2026-10-14T08:59:00Z'), stop('b', '2026-10-15T09:00:00Z')] },
    { name: 'Lanes', stops: [stop('c', null), stop('d', '2026-10-14T10:00:00Z')] },
  ],
} as unknown as WalkAnswer;

describe('Stops that wait', () => {
  it('come back in the order in which they end', () => {
    expect(firstToEnd(walk, now)).toBe(Date.parse('2026-10-14T10:00:00Z'));
    expect(firstToEnd(walk, Date.parse('2026-10-14T10:00:00Z'))).toBe(Date.parse('2026-10-15T09:00:00Z'));
    expect(firstToEnd(walk, Date.parse('2026-10-16T00:00:00Z'))).toBeUndefined();
  });
  it('no longer say that they wait once it is over, and the others are left alone', () => {
    const [gate, lanes] = withoutEnded(walk, now).areas;
    expect(gate.stops.map((s) => s.waitsUntil)).toEqual([null, '2026-10-15T09:00:00Z']);
    expect(lanes.stops[1]).toBe(walk.areas[1].stops[1]);
  });
});
