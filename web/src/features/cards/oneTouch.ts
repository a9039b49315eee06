import type { CardRow } from '../../api/types';
import { keep } from '../../outbox/outbox';
import type { CardView } from './CardPage';
import { savedNow } from './lately';
import { isWaiting } from './wait';

/** Whether a yes by one touch is honest, and it can be done now. */
export const isOneTouch = (row: CardRow) => row.isOneTouch && !isWaiting(row);

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
