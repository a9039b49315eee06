import { describe, expect, it } from 'vitest';
import { degreesOf, standingOf } from './OnSite';

describe('what is on site', () => {
  const now = Date.parse('2026-10-14T12:00:00Z');
  it.each([
    [null, 'unsaid'],
    [{ from: '2026-10-14T13:00:00Z', until: null }, 'coming'],
    [{ from: '2026-10-14T11:00:00Z', until: null }, 'here'],
    [{ from: '2026-10-14T11:00:00Z', until: '2026-10-14T12:30:00Z' }, 'here'],
    [{ from: '2026-10-14T11:00:00Z', until: '2026-10-14T12:00:00Z' }, 'gone'],
  ])('%o is %s', (stay, stands) => expect(standingOf(stay, now)).toBe(stands));
  it.each([
    ['51,5', 51.5],
    [' -0.12 ', -0.12],
    ['180', 180],
    ['', null],
    ['51 30', null],
    ['N51', null],
    ['1e2', null],
    ['1234', null],
  ])('degrees typed as "%s"', (typed, degrees) => expect(degreesOf(typed)).toBe(degrees));
});
