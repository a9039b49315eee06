import { describe, expect, it } from 'vitest';
import { coverText, isAcceptance } from '../../ui/format';

const legs = ['recorder', 'run', 'power', 'picture'].map((leg) => ({ leg }));

describe('what a Verdict is about', () => {
  it('is said with what is no part of it', () => {
    expect(coverText({ covers: ['run', 'power'] }, legs)).toEqual({
      covers: 'covers run, power',
      not: 'Not part of it: recorder, picture',
    });
  });
  it('is the whole path where everything is asked, and nothing where nothing is', () => {
    expect(coverText({ covers: legs.map((l) => l.leg) }, legs).not).toBe('');
    expect(coverText({ covers: [] }, legs)).toEqual({ covers: '', not: 'Not part of it: recorder, run, power, picture' });
  });
  it('has to be said where something is taken over', () => {
    expect(['accepted', 'acceptedWithNote', 'refused', 'open'].filter(isAcceptance)).toEqual(['accepted', 'acceptedWithNote']);
  });
});
