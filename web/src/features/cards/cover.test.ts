import { describe, expect, it } from 'vitest';
import './cardTexts';
import { coverText, isAcceptance } from './cover';

const all = ['before', 'bench', 'cable', 'fixing', 'power', 'link', 'address', 'time', 'recorder', 'aim', 'focus', 'night', 'finish'];

describe('what a Verdict is about', () => {
  it('is said with what is no part of it', () => {
    expect(coverText({ parts: ['cable', 'power', 'link'] })).toEqual({
      covers: 'for cable, power and link',
      not: 'Not part of it: before leaving, fixing, address, time, recorder, aim, focus, night and finish',
    });
  });
  it('is the whole work where everything is asked, and nothing where nothing is', () => {
    expect(coverText({ parts: all }).not).toBe('');
    expect(coverText({ parts: [] }).covers).toBe('');
    expect(coverText({ parts: [] }).not).toContain('before leaving, cable, fixing');
  });
  it('misses no bench where nobody works at one', () => {
    expect(coverText({ parts: all.filter((part) => part !== 'bench') }).not).toBe('');
  });
  it('has to be said where something is taken over', () => {
    expect(['accepted', 'acceptedWithNote', 'refused', 'open'].filter(isAcceptance)).toEqual(['accepted', 'acceptedWithNote']);
  });
});
