import { describe, expect, it } from 'vitest';
import type { CardRow } from '../../api/types';
import './cardTexts';
import { asking } from './due';
import { isWaiting, left, signOf, waitText } from './wait';

const at = Date.parse('2026-10-14T09:00:00Z');
const row = (until: string | null, begun: string | null = '2026-10-14T08:00:00Z') => ({
  wait: { for: 'check.fixing.seals', begun, until, minutes: 60, source: null, ends: null as string | null },
});

describe('a row that waits', () => {
  it('cannot be taken before its time, nor before that has begun', () => {
    expect(isWaiting(row('2026-10-14T09:00:01Z'), at)).toBe(true);
    expect(isWaiting(row('2026-10-14T09:00:00Z'), at)).toBe(false);
    expect(isWaiting(row(null, null), at)).toBe(true);
    expect(isWaiting({ wait: null }, at)).toBe(false);
  });
  it('says until when by the clock of the site, and how long still', () => {
    const text = waitText(row('2026-10-15T08:30:00Z'), 'Europe/London', at);
    expect(text).toContain('09:30');
    expect(text).toContain('23 h 30 min to go');
    expect(waitText(row(null, null), 'UTC', at)).toBe('begins with: Seals');
    expect(waitText(row('2026-10-14T08:30:00Z'), 'UTC', at)).toContain('can be taken since');
    expect(waitText({ wait: null }, 'UTC', at)).toBe('');
  });
  it('ends again at dawn, or when the other leaves', () => {
    const dark = { wait: { ...row('2026-10-14T17:00:00Z', null).wait, for: 'wait.dark', ends: '2026-10-15T05:00:00Z' } };
    expect(isWaiting(dark, at)).toBe(true);
    expect(waitText(dark, 'UTC', at)).toContain('8 h 0 min to go');
    expect(isWaiting(dark, Date.parse('2026-10-14T20:00:00Z'))).toBe(false);
    expect(waitText(dark, 'UTC', Date.parse('2026-10-14T20:00:00Z'))).toContain('until');
    expect(isWaiting(dark, Date.parse('2026-10-15T05:00:00Z'))).toBe(true);
    expect(waitText(dark, 'UTC', Date.parse('2026-10-15T06:00:00Z'))).toBe('waits for the dark');
  });
  it('waits for somebody of whom nobody has said when', () => {
    const second = { wait: { ...row(null, null).wait, for: 'presence.second-person' } };
    expect(waitText(second, 'UTC', at)).toBe('waits for a second person');
    expect([signOf('presence.second-person'), signOf('check.fixing.seals'), signOf('act.moved')]).toEqual([
      'presence.second-person',
      'cure',
      'cure',
    ]);
  });
  it('counts minutes up: the last one is not nothing', () =>
    expect([left(1), left(61_000), left(3_600_000)]).toEqual(['1 min', '2 min', '1 h 0 min']));
  it('does not ask, and is not gone to', () => {
    const rows = [
      { id: 'a', state: 'notTaken', ...row(null, null) },
      { id: 'b', state: 'notTaken', wait: null },
      { id: 'c', state: 'stale', ...row('2020-10-14T08:30:00Z') },
    ] as unknown as CardRow[];
    expect(asking(rows, []).map((r) => r.id)).toEqual(['b', 'c']);
  });
});
