import type { InstrumentFunction, CardRow, PreviewAnswer, ReadingValue } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { readStored, writeStored } from '../../session/stored';
import { t } from '../../texts';

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
  sent?: string;
  received?: string;
  /** Packets and errors at the first look, at the second, and the seconds between. */
  counters?: string[];
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

/** A number as it was typed without a unit, or with the row's own; anything else the record reads when it hears of it. */
function plainNumber(row: CardRow, text: string): number | null {
  const match = /^([+-]?\d{1,9}(?:[.,]\d{0,9})?|[+-]?[.,]\d{1,9})\s*(\D{0,11})$/.exec(text.trim());
  if (!match) return null;
  const unit = match[2].trim();
  return unit === '' || unit === t(`unit.${row.check.unit}`) ? Number(match[1].replace(',', '.')) : null;
}

/**
 * Without the record: a number against the window, accuracy and rule that came with the row. Provisional, and said so; the record judges
 * when it hears of it. What more than a window judges is never said to be in here.
 */
export function provisional(row: CardRow, text: string, rule: string, functions: InstrumentFunction[] = []): PreviewAnswer | null {
  const value = row.check.entry === 'number' ? plainNumber(row, text) : null;
  if (value === null || !Number.isFinite(value)) return null;
  const w = row.window;
  const accuracy = functions
    .filter((f) => f.upTo === null || Math.abs(value) <= f.upTo)
    .sort((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity))[0]?.accuracy;
  const half = accuracy
    ? (Math.abs(value) * accuracy.percentOfReading) / 100 + accuracy.counts * (accuracy.resolution ?? 0) + accuracy.absolute
    : 0;
  const base = {
    value: { kind: 'number', value, unit: row.check.unit } as ReadingValue,
    because: [],
    map: null,
    refused: null,
    halfWidth: half,
    willNotCount: null,
    unexpected: [],
  };
  // Nothing says what is right: that is no "in".
  if (!w || w.empty) return { ...base, state: 'notJudged', spare: null };
  const band = rule === 'guarded' ? half : 0;
  const slack = (limit: number) => 1e-9 * Math.max(1, Math.abs(limit), Math.abs(value));
  const inside = (w.min === null || value - band >= w.min - slack(w.min)) && (w.max === null || value + band <= w.max + slack(w.max));
  const outside = (w.min !== null && value + band < w.min - slack(w.min)) || (w.max !== null && value - band > w.max + slack(w.max));
  const toMin = w.min === null ? Infinity : value - w.min;
  const toMax = w.max === null ? Infinity : w.max - value;
  return {
    ...base,
    state: inside ? (row.check.judge === 'window' ? 'in' : null) : outside ? 'out' : 'tooClose',
    spare: { value: Math.min(toMin, toMax), nearest: toMin < toMax ? 'min' : 'max', shareOfSpan: null, shareOfLimit: null, share: 0 },
  };
}

/** Entries of a row that are kept here and not sent. */
export const pendingOf = (items: OutboxItem[], rowId: string) => items.filter((item) => item.row === rowId && item.path === '/readings');
