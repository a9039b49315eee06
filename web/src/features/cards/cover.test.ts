import { describe, expect, it } from 'vitest';
import './cardTexts';
import { coverText, isAcceptance } from './cover';

describe('what a Verdict is about', () => {
  it('is said with what is no part of it', () => {
    expect(coverText({ parts: ['cable', 'power', 'link'], notParts: ['before', 'fixing', 'night'] })).toEqual({
      covers: 'for cable, power and link',
      not: 'Not part of it: before leaving, fixing and night',
    });
  });
  it('is the whole work where everything is asked, and nothing where nothing is', () => {
    expect(coverText({ parts: ['cable'], notParts: [] })).toEqual({ covers: 'for cable', not: '' });
    expect(coverText({ parts: [], notParts: ['cable'] })).toEqual({ covers: '', not: 'Not part of it: cable' });
  });
  it('has to be said where something is taken over', () => {
    expect(['accepted', 'acceptedWithNote', 'refused', 'open'].filter(isAcceptance)).toEqual(['accepted', 'acceptedWithNote']);
  });
});
