import type { CardAnswer, CardRow } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { t } from '../../texts';
import { pendingOf } from './drafts';
import { isWaiting } from './wait';

/** Rows that are due, and the one at hand; what may be taken is a press away. */
export const due = (rows: CardRow[], also?: string) => rows.filter((r) => r.isDue || r.id === also);

/** Rows that still ask for a reading and can be taken now, of which none waits to be sent. */
export const asking = (rows: CardRow[], outbox: OutboxItem[]) =>
  rows.filter((r) => (r.state === 'notTaken' || r.state === 'stale') && !isWaiting(r) && pendingOf(outbox, r.id).length === 0);

/** The next row that asks, round from the one at hand. */
export function nextAsking(rows: CardRow[], outbox: OutboxItem[], from: string, but: readonly string[] = []): CardRow | undefined {
  const at = rows.findIndex((r) => r.id === from);
  return asking([...rows.slice(at + 1), ...rows.slice(0, Math.max(0, at))], outbox).find((r) => !but.includes(r.id));
}

/** Where a Card opens: at what asks next, of which nothing waits here to be sent; else at what is not as it should be. */
export function firstRow({ nextRow, rows }: CardAnswer['card'], outbox: OutboxItem[]): CardRow | undefined {
  const next = rows.find((r) => r.id === nextRow);
  if (next && pendingOf(outbox, next.id).length === 0) return next;
  const asks = next && nextAsking(due(rows), outbox, next.id);
  return asks ?? rows.find((r) => r.isFailing) ?? rows[0];
}

/**
 * Whether a Card stays at the row that it is at. A row that is gone, after an act or under another catalogue, is chosen anew; and so is one
 * that was chosen before it was known what waits here to be sent, unless somebody chose it.
 */
export const staysAt = (rows: readonly Pick<CardRow, 'id'>[], activeId: string | undefined, isSettled: boolean) =>
  isSettled && rows.some((r) => r.id === activeId);

/** How many rows have a reading that is kept here and not sent; empty where none has. */
export function keptText(rows: CardRow[], outbox: OutboxItem[]): string {
  const kept = rows.filter((r) => pendingOf(outbox, r.id).length > 0).length;
  return kept > 0 ? t('card.kept-here', kept) : '';
}
