import { describe, expect, it } from 'vitest';
import { counts, firstOf, ringOf, tells, type Board, type Channel, type Finding } from './board';

const channel = (number: number, finding: Finding, showsPlanned: boolean | null = null, isPlanned = true) =>
  ({ view: { number, finding, showsPlanned, planned: isPlanned ? { label: `CC-${number}` } : null } }) as unknown as Channel;

describe('the board', () => {
  const all = [
    channel(1, 'same', true),
    channel(2, 'cannotTell'),
    channel(3, 'swapped', false),
    channel(4, 'swapped', null),
    channel(5, 'stranger', null, false),
  ];

  it('counts what there is, in its order', () => {
    expect(counts(all)).toEqual([
      ['same', 1],
      ['swapped', 2],
      ['stranger', 1],
      ['cannotTell', 1],
    ]);
    expect(counts([])).toEqual([]);
  });

  it('tells Cards only what pictures tell for sure', () => {
    expect(tells(all)).toEqual([1, 3]);
  });

  it('begins at what needs somebody', () => {
    expect(firstOf(all)?.view.number).toBe(3);
    expect(firstOf([channel(1, 'same', true), channel(2, 'cannotTell')])?.view.number).toBe(2);
    expect(firstOf([channel(7, 'same', true)])?.view.number).toBe(7);
    expect(firstOf([])).toBeUndefined();
  });

  it('shows the exchanges of one ring, and not those of another', () => {
    const board = {
      exchanges: [
        { a: 7, b: 9, toA: '', toB: '' },
        { a: 8, b: 9, toA: '', toB: '' },
        { a: 21, b: 22, toA: '', toB: '' },
      ],
    } as unknown as Board;
    expect(ringOf(board, 7).map((e) => [e.a, e.b])).toEqual([
      [7, 9],
      [8, 9],
    ]);
    expect(ringOf(board, 22)).toHaveLength(1);
    expect(ringOf(board, 3)).toEqual([]);
  });
});
