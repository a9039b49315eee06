import type { CardRow, KitInstrument, PreviewAnswer, ReadingValue } from '../../api/types';
import type { OutboxItem } from '../../outbox/items';
import { t } from '../../texts';
import { pendingOf } from './drafts';
import { readWith } from './instrumentTrouble';
import type { Sent, Shown } from './ways/way';
import { valueOf } from './ways';

const nothing = {
  state: null,
  spare: null,
  halfWidth: null,
  because: [],
  map: null,
  refused: null,
  willNotCount: null,
  unexpected: [],
} satisfies Omit<PreviewAnswer, 'value'>;

/** A number as it was typed without a unit, or with the row's own; anything else the record reads when it hears of it. */
function plainNumber(row: CardRow, text: string): number | null {
  const match = /^([+-]?\d{1,9}(?:[.,]\d{0,9})?|[+-]?[.,]\d{1,9})\s*(\D{0,11})$/.exec(text.trim());
  if (!match) return null;
  const unit = match[2].trim();
  return unit === '' || unit === t(`unit.${row.check.unit}`) ? Number(match[1].replace(',', '.')) : null;
}

/** How far off a number may be: by the range of what it is read with, else by how finely anybody reads it. */
function halfWidthOf({ check }: CardRow, value: number, instrument?: KitInstrument): number {
  const accuracy = readWith(instrument, check)
    ?.functions.filter((f) => f.unit === check.unit && (f.upTo === null || Math.abs(value) <= f.upTo))
    .sort((a, b) => (a.upTo ?? Infinity) - (b.upTo ?? Infinity))[0]?.accuracy;
  return accuracy
    ? (Math.abs(value) * accuracy.percentOfReading) / 100 + accuracy.counts * (accuracy.resolution ?? 0) + accuracy.absolute
    : (check.readTo ?? 0);
}

/**
 * Without the record: a number against the window, accuracy and rule that came with the row, a yes, a wire map by its pins. Provisional,
 * and said so; the record judges when it hears of it. What more than that judges is never said to be in here.
 */
export function provisional(row: CardRow, sent: Sent, rule: string, instrument?: KitInstrument): PreviewAnswer | null {
  // What needs a picture or its time is judged by the record, which knows of both.
  if (row.check.picture || row.wait) return null;
  if (sent.value?.kind === 'yesNo' && row.check.judge === 'yes-no')
    return { ...nothing, value: sent.value, state: sent.value.yes ? 'in' : 'out' };
  if (sent.value?.kind === 'wireMap') return { ...nothing, value: sent.value, ...mapByPins(sent.value) };
  const value = row.check.entry !== 'number' ? null : sent.value?.kind === 'number' ? sent.value.value : plainNumber(row, sent.text ?? '');
  if (value === null || !Number.isFinite(value)) return null;
  const w = row.window;
  const half = halfWidthOf(row, value, instrument);
  const base = { ...nothing, value: { kind: 'number', value, unit: row.check.unit } as ReadingValue, halfWidth: half };
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

const PAIRS = [
  [1, 2],
  [3, 6],
  [4, 5],
  [7, 8],
];

/**
 * A wire map by its pins alone, as the record names it (docs/calculations.md, B): straight, open, turned, swapped, crossed. A short, a
 * shield, a label, a pair test and two pairs behind a sharing adapter are for the record.
 */
function mapByPins(map: Extract<ReadingValue, { kind: 'wireMap' }>): Pick<PreviewAnswer, 'state' | 'because'> {
  if (map.nearToFar.some((far) => far.length > 1 || far[0] > 8) || map.shieldArrives !== null || map.twistedPairs || map.remoteLabel)
    return { state: null, because: [] };
  const far = map.nearToFar.map((f) => f[0] ?? 0);
  const at = (pin: number) => far[pin - 1];
  const open = far.flatMap((f, i) => (f === 0 ? [i + 1] : []));
  if (open.join() === '4,5,7,8' && [1, 2, 3, 6].every((pin) => at(pin) === pin))
    return { state: null, because: [{ code: 'map.twoPairCable', args: [] }] };
  if (new Set(far.filter((f) => f > 0)).size < 8 - open.length) return { state: 'out', because: [] };
  const landing = (pair: number[]) => PAIRS.find((p) => p.every((pin) => pair.some((near) => at(near) === pin)));
  const turned = PAIRS.filter((pair) => landing(pair) && at(pair[0]) > at(pair[1]));
  const swapped = PAIRS.filter((pair) => landing(pair) && landing(pair) !== pair);
  const crossed = far.flatMap((f, i) =>
    f > 0 && f !== i + 1 && !PAIRS.some((pair) => pair.includes(i + 1) && landing(pair)) ? [`${i + 1} to ${f}`] : [],
  );
  const named = (pairs: number[][]) => pairs.map((pair) => pair.join('-')).join(', ');
  const because = [
    open.length > 0 && { code: 'map.open', args: [open.join(', ')] },
    turned.length > 0 && { code: 'map.reversedPair', args: [named(turned)] },
    swapped.length > 0 && { code: 'map.transposedPairs', args: [named(swapped)] },
    crossed.length > 0 && { code: 'map.crossedConductors', args: [crossed.join(', ')] },
  ].filter((b) => b !== false);
  return because.length > 0 ? { state: 'out', because } : { state: 'in', because: [{ code: 'map.straightThrough', args: [] }] };
}

/** What waits here to be sent for a row: the entry, what it shows, and how it would be judged as far as that can be told here. */
export interface Kept {
  item: OutboxItem;
  shown: Shown | null;
  guess: PreviewAnswer | null;
}

/** The newest reading of a row that is kept here and not sent; undefined where there is none. */
export function keptOf(outbox: OutboxItem[], row: CardRow, rule: string, instrument?: KitInstrument): Kept | undefined {
  const item = pendingOf(outbox, row.id).at(-1);
  if (!item) return undefined;
  const { value, text } = item.body as Sent;
  const guess = provisional(row, { value, text }, rule, instrument);
  const read = value ?? guess?.value;
  return { item, guess, shown: read ? valueOf(row, read) : text ? { big: text, unit: '' } : null };
}
