import type { CardRow } from '../../api/types';
import { isWaiting } from './wait';

/** From how many due rows on the sections of a Card fold by themselves. */
export const LONG = 30;

/** How the rows of a section stand, counted; a row is counted once. */
export interface Counts {
  in: number;
  tooClose: number;
  out: number;
  notJudged: number;
  waiting: number;
  stale: number;
  notTaken: number;
  notApplicable: number;
  unexpected: number;
}

const none: Counts = { in: 0, tooClose: 0, out: 0, notJudged: 0, waiting: 0, stale: 0, notTaken: 0, notApplicable: 0, unexpected: 0 };

/** Counts rows by their state; what waits is not "not taken". */
export function countsOf(rows: readonly CardRow[]): Counts {
  const counts = { ...none };
  for (const row of rows) {
    if (row.isUnexplained) counts.unexpected++;
    if (row.state === 'notTaken' || row.state === 'stale') counts[isWaiting(row) ? 'waiting' : row.state]++;
    else counts[row.state]++;
  }
  return counts;
}

/** What is said of a section that is folded, the worst first. */
export const inOrder: (keyof Counts)[] = ['out', 'tooClose', 'notJudged', 'stale', 'notTaken', 'waiting', 'in', 'notApplicable'];

/**
 * Sections that are folded: on a long Card all but the one at hand and those that somebody opened; what somebody folded stays so.
 * @param by what somebody did to a section: opened or folded it
 */
export const foldedOf = (sections: readonly string[], due: number, at: string | undefined, by: Readonly<Record<string, boolean>>) =>
  new Set(sections.filter((s) => (by[s] === undefined ? due > LONG && s !== at : by[s] && s !== at)));

/** What rows wait for, each once, the soonest first; what nobody knows comes last. */
export function waitsOf(rows: readonly CardRow[]): { of: string; row: CardRow; rows: CardRow[] }[] {
  const by = new Map<string, CardRow[]>();
  for (const row of rows)
    if (row.wait && (row.state === 'notTaken' || row.state === 'stale') && row.required && isWaiting(row))
      by.set(row.wait.for, [...(by.get(row.wait.for) ?? []), row]);
  return [...by]
    .map(([of, rows]) => ({ of, rows, row: rows[0] }))
    .sort((a, b) => (a.row.wait!.until ?? '9').localeCompare(b.row.wait!.until ?? '9'));
}

/** How much of a wait has gone, 0 to 1; null where that cannot be known. */
export function goneOf({ wait }: Pick<CardRow, 'wait'>, now: number): number | null {
  if (!wait?.until || !wait.begun) return null;
  const [from, to] = [Date.parse(wait.begun), Date.parse(wait.until)];
  return to <= from ? 1 : Math.min(1, Math.max(0, (now - from) / (to - from)));
}
