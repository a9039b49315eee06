import { describe, expect, it } from 'vitest';
import { scopeOf } from './JobScope';

describe('what a job covers, beside its name', () => {
  it('is said where it does not cover all of the work, or not for every kind', () => {
    expect(scopeOf({ covers: ['cable', 'power'], kindsApart: 0 })).toBe('covers cable and power');
    expect(scopeOf({ covers: ['cable'], kindsApart: 1 })).toBe('covers cable, one kind apart');
  });
  it('is nothing where it covers everything', () => {
    expect(scopeOf({ covers: [], kindsApart: 0 })).toBe('');
    expect(scopeOf({})).toBe('');
  });
});
