import { describe, expect, it } from 'vitest';
import './aimTexts';
import { addTexts } from '../../texts';
import { joinWords } from './joins';

const join = { left: 1, right: 2, agreedDeg: 6.04, nowDeg: 4.96, uncertaintyDeg: 0.02, outcome: 'in' as const, why: null };

describe('where two heads meet', () => {
  it('is their overlap, or the strip that nobody sees', () => {
    expect(joinWords(join)).toEqual({ pair: '1 and 2', now: 'overlap 5.0\u00b0 \u00b1 0.1', why: '', agreed: '6.0\u00b0 agreed' });
    expect(joinWords({ ...join, nowDeg: -1.26, uncertaintyDeg: 0.2, outcome: 'out' }).now).toBe('1.3\u00b0 \u00b1 0.2 unseen between them');
  });

  it('is not told where one of them is not known', () => {
    addTexts({ 'join.not-aimed': 'Head {0} is not aimed.' });
    const words = joinWords({ ...join, nowDeg: null, outcome: null, why: { code: 'join.not-aimed', args: ['2'] } });
    expect([words.now, words.why]).toEqual(['', 'Head 2 is not aimed.']);
  });
});
