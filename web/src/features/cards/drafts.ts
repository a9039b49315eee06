import type { CardRow, ItemSaid, PictureZone, ReadingValue, WeekSpan } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { readStored, writeStored } from '../../session/stored';

/** One line of a form as it is typed: by field what was typed or chosen, and when it happened. */
export type DraftLine = { said: Record<string, string>; at?: string };

export type Draft = {
  text?: string;
  yes?: boolean;
  choice?: string;
  pins?: (number | null)[];
  /** Whether the shield shows at the far end, where it was measured. */
  shield?: boolean;
  /** Pins twisted with each other, as typed: 1-2 3-6 4-5 7-8. */
  twists?: string;
  /** Conductors joined to each other, as typed: 4-5; S is the shield. */
  joined?: string;
  /** Items of a list that are the exception; where each is confirmed by itself, those that are. */
  marked?: string[];
  confirmed?: string[];
  /** What was said of each item, by its id. */
  items?: Record<string, ItemSaid>;
  /** Lines of a form. */
  lines?: DraftLine[];
  sent?: string;
  received?: string;
  /** Packets and errors at the first look, at the second, and the seconds between. */
  counters?: string[];
  /** Zones, and the picture of the place that they were drawn on. */
  zones?: PictureZone[];
  picture?: string;
  /** Hours of a week as they are set, and as they are wanted; null: nobody has said. */
  week?: {
    recorded: WeekSpan[];
    wanted: WeekSpan[] | null;
    /** What was typed for a day and is no hours. */ unread?: Record<string, string>;
  };
  /** What a way of entering of its own keeps, by its own names. */
  fields?: Record<string, string>;
  /** What tester or switch answered, and by which the record knows that answer. */
  fromTester?: { value: ReadingValue; observationId: string };
};

const key = (row: CardRow) => `walkdown.draft.${row.id}`;

/** What was typed and not saved stays on this device until it is saved or left. */
export const readDraft = (row: CardRow): Draft => (readStored(key(row)) as Draft | undefined) ?? {};

export const writeDraft = (row: CardRow, draft: Draft) => writeStored(key(row), Object.keys(draft).length === 0 ? undefined : draft);

const seenKey = (row: CardRow) => `walkdown.seen.${row.id}`;

/** Pictures taken for the reading that is being entered, by their ids; they are on this device, or sent already. */
export function readSeen(row: CardRow): string[] {
  const ids = readStored(seenKey(row));
  return Array.isArray(ids) ? ids.filter((id): id is string => typeof id === 'string') : [];
}

export const writeSeen = (row: CardRow, ids: string[]) => writeStored(seenKey(row), ids.length === 0 ? undefined : ids);

/** Readings of a row that are kept here and not sent, but for those that are taken back behind them. */
export const pendingOf = (items: OutboxItem[], rowId: string) =>
  items.filter(
    (item) => item.row === rowId && item.path === '/readings' && !items.some((i) => i.path === '/withdrawals' && i.body?.of === item.id),
  );
