import type { Keys } from '../../ui/keys';
import type { CardView } from './CardPage';

/** Keys that a Card has in every posture: what is recorded about the row at hand, the Verdict, and the Stop before and after. */
export function cardKeys(view: CardView): Keys {
  const onRow = (name: Parameters<CardView['sheet']>[0]) => () => view.active && view.sheet(name, view.active);
  const { rows, worstRow } = view.answer.card;
  const worst = rows.find((r) => r.id === worstRow);
  return {
    // Where the row at hand is as it should be, the worst of the Card is meant.
    f: () => view.active && view.sheet('fault', view.active.isFailing ? view.active : (worst ?? view.active)),
    n: onRow('note'),
    x: onRow('na'),
    a: onRow('act'),
    u: onRow('withdraw'),
    k: onRow('concede'),
    v: () => view.sheet('verdict'),
    b: () => view.sheet('built'),
    s: () => view.sheet('block'),
    '[': () => view.goStop(-1),
    ']': () => view.goStop(1),
    PageUp: () => view.goStop(-1),
    PageDown: () => view.goStop(1),
  };
}
