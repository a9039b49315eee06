import type { CardAnswer } from '../../api/types';
import { t } from '../../texts';
import { nameOf, qualifierOf } from '../../ui/format';

type Card = CardAnswer['card'];

/**
 * What is worth a word between two states of a Card: a Fault that was closed, one that was raised, a row that came out while another is on
 * the screen.
 * @param here id of the row on the screen; what it says stands there
 */
export function newsOf(was: Card, now: Card, here?: string): string | undefined {
  const before = new Map(was.faults.map((f) => [f.fault.id, f.open]));
  const closed = now.faults.find((f) => !f.open && before.get(f.fault.id) === true);
  if (closed) return t(closed.ended ? 'fault.news-ended' : 'fault.news-closed', closed.fault.title);
  const raised = now.faults.find((f) => f.open && !before.has(f.fault.id));
  if (raised) return t('fault.news-raised', raised.fault.title);
  const states = new Map(was.rows.map((r) => [r.id, r.state]));
  const out = now.rows.find((r) => r.state === 'out' && r.id !== here && states.has(r.id) && states.get(r.id) !== 'out');
  return out && t('card.news-out', [nameOf(out), qualifierOf(out)].filter(Boolean).join(', '));
}
