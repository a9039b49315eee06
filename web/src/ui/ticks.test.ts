import { describe, expect, it } from 'vitest';
import type { CardRow } from '../api/types';
import { ticksOf } from './SignalPath';

const row = (more: Partial<CardRow>) => ({ state: 'notTaken', required: true, attempts: [], wait: null, ...more }) as unknown as CardRow;

describe('ticks of a leg', () => {
  it('show what is due or was taken, in its order, and what waits apart from what is open', () => {
    expect(
      ticksOf([
        row({ state: 'in' }),
        row({ state: 'out' }),
        row({}),
        row({ wait: { for: 'wait.dark', begun: null, until: null, minutes: 0, source: null, ends: null } }),
        row({ state: 'stale' }),
      ]),
    ).toEqual(['in', 'out', 'open', 'waits', 'open']);
  });
  it('leave out what may be taken and was not, and what does not apply', () => {
    expect(ticksOf([row({ required: false }), row({ state: 'notApplicable' })])).toEqual([]);
  });
});
