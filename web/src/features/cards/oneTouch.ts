import type { CardRow } from '../../api/types';
import { keep } from '../../outbox/outbox';
import type { CardView } from './CardPage';
import { savedNow } from './lately';
import { isWaiting } from './wait';

/**
 * Whether a yes by one touch is honest: it asks yes or no, it can be done now, nothing holds it, no picture belongs to it, and what it asks
 * stands under its name. A no says why, and is entered.
 */
export const isOneTouch = (row: CardRow) =>
  row.check.entry === 'yesNo' &&
  row.required &&
  (row.state === 'notTaken' || row.state === 'stale') &&
  !row.check.picture &&
  row.heldBy.length === 0 &&
  row.waitsFor.length === 0 &&
  row.check.cautions.length === 0 &&
  !isWaiting(row);

/** Says yes; for a minute it can be taken back. */
export async function oneTouch(view: CardView, row: CardRow) {
  const { id } = view.answer.place;
  const kept = await keep(
    id,
    '/readings',
    { row: row.id, value: { kind: 'yesNo', yes: true }, source: 'typed', instrumentId: null },
    row.id,
  );
  if (kept) savedNow(id, row.id, kept);
}
