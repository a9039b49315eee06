import { useEffect, useMemo, useState } from 'react';
import { answered, api, NoNetworkError, ProblemError } from '../../api/client';
import type { Accuracy, CardAnswer, CardRow, KitInstrument, PreviewAnswer, ReadingValue, TesterAnswer } from '../../api/types';
import type { OutboxItem } from '../../outbox/db';
import { keep } from '../../outbox/outbox';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';

export type Draft = { text?: string; yes?: boolean; choice?: string; pins?: (number | null)[]; fromTester?: ReadingValue };

const key = (row: CardRow) => `walkdown.draft.${row.id}`;

/** What was typed and not saved stays on this device until it is saved or left. */
export function readDraft(row: CardRow): Draft {
  try {
    return JSON.parse(localStorage.getItem(key(row)) ?? '{}') as Draft;
  } catch {
    return {};
  }
}

export function writeDraft(row: CardRow, draft: Draft) {
  if (Object.keys(draft).length === 0) localStorage.removeItem(key(row));
  else localStorage.setItem(key(row), JSON.stringify(draft));
}

/** The draft as what is sent: a value, or the text of a number, which the record reads. Null while it is not whole. */
export function toReading(row: CardRow, draft: Draft): { value?: ReadingValue; text?: string } | null {
  if (draft.fromTester) return { value: draft.fromTester };
  switch (row.check.entry) {
    case 'number':
      return draft.text?.trim() ? { text: draft.text } : null;
    case 'yesNo':
      return draft.yes === undefined ? null : { value: { kind: 'yesNo', yes: draft.yes } };
    case 'choice':
      return draft.choice ? { value: { kind: 'choice', choice: draft.choice } } : null;
    case 'wireMap':
      return draft.pins && draft.pins.length === 8 && draft.pins.every((p) => p !== null)
        ? {
            value: {
              kind: 'wireMap',
              nearToFar: draft.pins.map((p) => (p === 0 ? [] : [p!])),
              readAt: 'farUnit',
              openDistanceMetres: null,
              remoteLabel: null,
            },
          }
        : null;
  }
}

/**
 * Without the record: a number against the window, accuracy and rule that came with the row. Provisional, and said so; the record judges when
 * it hears of it.
 */
export function provisional(row: CardRow, text: string, rule: string, accuracy?: Accuracy): PreviewAnswer | null {
  const value = Number(
    text
      .trim()
      .replace(',', '.')
      .replace(/[^\d.+-].*$/, ''),
  );
  if (row.check.entry !== 'number' || !text.trim() || !Number.isFinite(value)) return null;
  const w = row.window;
  const half = accuracy ? (Math.abs(value) * accuracy.percentOfReading) / 100 + accuracy.counts * (accuracy.resolution ?? 0) + accuracy.absolute : 0;
  const base = { value: { kind: 'number', value, unit: row.check.unit } as ReadingValue, because: [], map: null, refused: null, halfWidth: half };
  if (!w || w.empty) return { ...base, state: w ? 'tooClose' : 'in', spare: null };
  const band = rule === 'guarded' ? half : 0;
  const inside = (w.min === null || value - band >= w.min) && (w.max === null || value + band <= w.max);
  const outside = (w.min !== null && value + band < w.min) || (w.max !== null && value - band > w.max);
  const toMin = w.min === null ? Infinity : value - w.min;
  const toMax = w.max === null ? Infinity : w.max - value;
  return {
    ...base,
    state: inside ? 'in' : outside ? 'out' : 'tooClose',
    spare: { value: Math.min(toMin, toMax), nearest: toMin < toMax ? 'min' : 'max', shareOfSpan: null, shareOfLimit: null, share: 0 },
  };
}

export interface Entry {
  draft: Draft;
  change: (draft: Draft) => void;
  preview: PreviewAnswer | null;
  isProvisional: boolean;
  /** A sentence where the typed reading cannot be taken, or the tester gave nothing. */
  trouble: string | null;
  ready: boolean;
  /** Saves what is typed, or what is chosen by the same press. */
  save: (chosen?: Draft) => Promise<boolean>;
  readTester: () => Promise<void>;
  reading: boolean;
  others: TesterAnswer['rows'];
  saveAll: () => Promise<void>;
}

/** One open Check: what is typed, how it would be judged, and how it is kept. */
export function useEntry(answer: CardAnswer, row: CardRow, instrument: KitInstrument | undefined): Entry {
  const deviceId = answer.place.id;
  const me = useIdentity();
  const [draft, setDraft] = useState<Draft>(() => readDraft(row));
  const [preview, setPreview] = useState<PreviewAnswer | null>(null);
  const [isProvisional, setProvisional] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [others, setOthers] = useState<TesterAnswer['rows']>([]);
  const body = useMemo(() => toReading(row, draft), [row, draft]);

  useEffect(() => {
    if (!body) {
      setPreview(null);
      return;
    }
    let gone = false;
    const timer = setTimeout(async () => {
      try {
        const judged = await answered(
          api.POST('/api/cards/{deviceId}/preview', {
            params: { path: { deviceId } },
            body: { row: row.id, ...body, instrumentId: me.instrumentId ?? null },
          }),
        );
        if (gone) return;
        setPreview(judged.refused ? null : judged);
        setTrouble(judged.refused ? say(judged.refused) : null);
        setProvisional(false);
      } catch (error) {
        if (gone) return;
        if (error instanceof NoNetworkError) {
          setPreview(provisional(row, draft.text ?? '', answer.card.rule, instrument?.accuracy[row.check.unit]));
          setProvisional(true);
        } else setPreview(null);
      }
    }, 120);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [body, deviceId, row, me.instrumentId, draft.text, answer.card.rule, instrument]);

  const change = (next: Draft) => {
    setDraft(next);
    setTrouble(null);
    writeDraft(row, next);
  };

  const post = (rowId: string, reading: { value?: ReadingValue; text?: string }, source: 'typed' | 'tester') =>
    keep(deviceId, '/readings', { row: rowId, ...reading, source, instrumentId: me.instrumentId ?? null }, rowId);

  return {
    draft,
    change,
    preview,
    isProvisional,
    trouble,
    ready: body !== null && trouble === null,
    save: async (chosen) => {
      const reading = chosen ? toReading(row, chosen) : body;
      if (!reading || trouble) return false;
      await post(row.id, reading, (chosen ?? draft).fromTester ? 'tester' : 'typed');
      change({});
      return true;
    },
    readTester: async () => {
      setReading(true);
      setTrouble(null);
      try {
        const read = await answered(api.POST('/api/cards/{deviceId}/tester', { params: { path: { deviceId } }, body: { row: row.id } }));
        const mine = read.rows.find((r) => r.row === row.id);
        setOthers(read.rows.length > 1 ? read.rows : []);
        if (mine) change(draftOf(mine.value));
      } catch (error) {
        setTrouble(error instanceof ProblemError ? error.problem.detail : t('tester.unreachable'));
      } finally {
        setReading(false);
      }
    },
    reading,
    others,
    saveAll: async () => {
      for (const other of others) await post(other.row, { value: other.value }, 'tester');
      change({});
      setOthers([]);
    },
  };
}

/** What the tester read, as a draft: seen before it is saved. */
function draftOf(value: ReadingValue): Draft {
  switch (value.kind) {
    case 'number':
      return { text: String(value.value), fromTester: value };
    case 'choice':
      return { choice: value.choice, fromTester: value };
    case 'wireMap':
      return { pins: value.nearToFar.map((far) => (far.length === 0 ? 0 : far[0]!)), fromTester: value };
    case 'yesNo':
      return { yes: value.yes, fromTester: value };
  }
}

/** Entries of a row that are kept here and not sent. */
export const pendingOf = (items: OutboxItem[], rowId: string) => items.filter((item) => item.row === rowId && item.path === '/readings');
