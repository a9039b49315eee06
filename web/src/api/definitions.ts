import { answered, api } from './client';
import type { CardAnswer, CardRow, CheckDefinition, WireCard, WireRow } from './types';

interface Held {
  version: string;
  byId: Map<string, CheckDefinition>;
}

let held: Held | undefined;
let asking: Promise<Held> | undefined;

/** What the checks say, by the version that a Card names: asked for once, and again only where a Card names another. */
export async function definitionsOf(version?: string): Promise<Held> {
  if (held && (version === undefined || held.version === version)) return held;
  // Whoever else asks meanwhile gets the same answer.
  asking ??= answered(api.GET('/api/catalogue/definitions'))
    .then((answer) => (held = { version: answer.version, byId: new Map(answer.checks.map((check) => [check.id, check])) }))
    .finally(() => (asking = undefined));
  try {
    return await asking;
  } catch (error) {
    // Without a network those that are here serve: a check's words and its way of entering hardly ever change.
    if (held) return held;
    throw error;
  }
}

/** A check that was taken out of the catalogue since: its row says what it can. */
const unknown = (row: WireRow): CheckDefinition =>
  ({ id: row.key.check, entry: 'text', unit: 'none', decimals: 0, choices: [], items: [] }) as unknown as CheckDefinition;

/** Rows with what their checks say. Those that have it already are left as they are. */
export const withChecks = (rows: readonly (WireRow | CardRow)[], definitions: Held): CardRow[] =>
  rows.map((row) => ('check' in row && row.check ? row : { ...row, check: definitions.byId.get(row.key.check) ?? unknown(row) }));

/** A Card as the record answers it, with what its checks say. */
export async function whole(answer: WireCard): Promise<CardAnswer> {
  const definitions = await definitionsOf(answer.definitions);
  return { ...answer, card: { ...answer.card, rows: withChecks(answer.card.rows, definitions) } };
}

/** The same where the definitions are here already; undefined where they have to be asked for. */
export const wholeNow = (answer: WireCard): CardAnswer | undefined =>
  held && held.version === answer.definitions
    ? { ...answer, card: { ...answer.card, rows: withChecks(answer.card.rows, held) } }
    : undefined;

const withoutCheck = (row: CardRow): WireRow => {
  const wire: Partial<CardRow> = { ...row };
  delete wire.check;
  return wire as WireRow;
};

/** A Card as the record would answer it: definitions are not kept a hundred times. */
export const bare = (answer: CardAnswer): WireCard => ({ ...answer, card: { ...answer.card, rows: answer.card.rows.map(withoutCheck) } });
