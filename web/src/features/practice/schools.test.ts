import { describe, expect, it } from 'vitest';
import { bySection } from './School';

const school = (id: string, parts: ('cable' | 'aim')[]) => ({ id, parts, sides: [], default: null, textKey: '' });

describe('schools', () => {
  it('stand by the part of the work that they are about, in its order, those about all of it first', () => {
    expect(
      bySection([school('a', ['aim']), school('all', []), school('c', ['cable']), school('b', ['aim'])], ['cable', 'aim']).map(
        ([part, list]) => [part, list.map((s) => s.id)],
      ),
    ).toEqual([
      ['', ['all']],
      ['cable', ['c']],
      ['aim', ['a', 'b']],
    ]);
  });
});
