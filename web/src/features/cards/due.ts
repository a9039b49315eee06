import type { CardRow } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { pendingOf } from './drafts';

/** Rows that are due, and the one at hand; what may be taken is a press away. */
export const due = (rows: CardRow[], also?: string) => rows.filter((r) => r.isDue || r.id === also);

/** Rows that still ask for a reading, of which none waits to be sent. */
export const asking = (rows: CardRow[], outbox: OutboxItem[]) =>
  rows.filter((r) => (r.state === 'notTaken' || r.state === 'stale') && pendingOf(outbox, r.id).length === 0);

/** The next row that asks, round from the one at hand. */
export function nextAsking(rows: CardRow[], outbox: OutboxItem[], from: string, but: readonly string[] = []): CardRow | undefined {
  const at = rows.findIndex((r) => r.id === from);
  return asking([...rows.slice(at + 1), ...rows.slice(0, Math.max(0, at))], outbox).find((r) => !but.includes(r.id));
}
