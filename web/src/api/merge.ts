import { wholeNow } from './definitions';
import type { CardAnswer, SavedAnswer, WalkAnswer, WalkChanges } from './types';

/**
 * The Card after an entry: what the entry changed, laid over what is here. Undefined where another entry came between, or nothing is
 * here: then the Card has to be asked for.
 */
export function afterEntry(known: CardAnswer | undefined, saved: SavedAnswer): CardAnswer | undefined {
  if (saved.whole) return known && known.sequence > saved.sequence ? known : wholeNow(saved.whole);
  if (!known || !saved.changed) return undefined;
  if (known.sequence >= saved.sequence) return known;
  const { follows, rows, faultWords, ...card } = saved.changed;
  if (known.sequence !== follows) return undefined;
  const byId = new Map(rows.map((row) => [row.id, row]));
  return {
    ...known,
    sequence: saved.sequence,
    faultWords,
    // A row that did not change keeps its identity, and is not drawn again.
    card: { ...known.card, ...card, rows: known.card.rows.map((row) => (byId.has(row.id) ? { ...row, ...byId.get(row.id)! } : row)) },
  };
}

/** The Walk with the Stops that changed. */
export function merged(known: WalkAnswer, changes: WalkChanges): WalkAnswer {
  const byId = new Map(changes.stops.map((s) => [s.id, s]));
  return {
    ...known,
    next: changes.next,
    verdicts: changes.verdicts,
    sequence: changes.sequence,
    areas:
      byId.size === 0
        ? known.areas
        : known.areas.map((a) => (a.stops.some((s) => byId.has(s.id)) ? { ...a, stops: a.stops.map((s) => byId.get(s.id) ?? s) } : a)),
  };
}
