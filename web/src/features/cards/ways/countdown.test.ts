import { describe, expect, it } from 'vitest';
import { opening, readOpened, standing } from './countdown';

describe('a window that counts down', () => {
  it('is open for its seconds, and each opening is a try', () => {
    const first = opening(null, 60, 1_000_000);
    expect(standing(first, 60, 1_000_000)).toEqual({ left: 60, tries: 1, closed: false });
    expect(standing(first, 60, 1_059_400)).toEqual({ left: 1, tries: 1, closed: false });
    expect(standing(first, 60, 1_060_000)).toEqual({ left: 0, tries: 1, closed: true });
    const second = opening(first, 60, 1_070_000);
    expect(standing(second, 60, 1_071_000)).toEqual({ left: 59, tries: 2, closed: false });
  });

  it('begins to count anew on another visit, and where the clock was set back', () => {
    const old = { since: 0, tries: 4 };
    expect(standing(old, 60, 3_600_001).tries).toBe(0);
    expect(opening(old, 60, 3_600_001).tries).toBe(1);
    expect(standing({ since: 9_000_000, tries: 4 }, 60, 0)).toEqual({ left: 0, tries: 0, closed: false });
  });

  it.each([null, '', 'null', '{', '{"since":1}', '{"since":"x","tries":1}', '{"since":1,"tries":0}', '{"since":1,"tries":1.5}'])(
    'reads nothing from %s',
    (text) => expect(readOpened(text)).toBeNull(),
  );
  it('reads what it kept', () => expect(readOpened('{"since":5,"tries":2}')).toEqual({ since: 5, tries: 2 }));
});
