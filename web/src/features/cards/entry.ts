import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answered, api, NoNetworkError, ProblemError } from '../../api/client';
import type { CardAnswer, CardRow, KitInstrument, PreviewAnswer, ReadingValue, TesterAnswer } from '../../api/types';
import { keep, keepPicture } from '../../outbox/outbox';
import { isPicture } from '../../outbox/picture';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';
import { keysAreHere, keysWaitFor } from '../../ui/typeAhead';
import { readDraft, readSeen, writeDraft, writeSeen, type Draft } from './drafts';
import { savedNow } from './lately';
import { provisional } from './provisional';
import { draftOf, toReading } from './ways';

export interface Entry {
  /** The place that its row is of, or whose head or run is. */
  deviceId: string;
  draft: Draft;
  change: (draft: Draft) => void;
  preview: PreviewAnswer | null;
  isProvisional: boolean;
  /** How what stands there now is judged, and not what stood there a moment ago; null: nothing stands there, or nobody can say. */
  judge: () => Promise<PreviewAnswer | null>;
  /** A sentence where the typed reading cannot be taken, or the tester gave nothing. */
  trouble: string | null;
  ready: boolean;
  /** Saves what is typed, or what is chosen by the same press. */
  save: (chosen?: Draft) => Promise<boolean>;
  readTester: () => Promise<void>;
  reading: boolean;
  others: TesterAnswer['rows'];
  saveAll: () => Promise<boolean>;
  /** Who answered, and whether the Kit knows it. */
  heard: TesterAnswer | null;
  /** Pictures that the reading was seen in, by id. */
  seen: string[];
  see: (picture: Blob) => Promise<void>;
}

/** How something that was typed is judged. */
interface Judged {
  of: ReturnType<typeof toReading>;
  answer: PreviewAnswer | null;
  isProvisional: boolean;
  /** Why it cannot be taken; null: it can; undefined: nobody was there to say it. */
  refused?: string | null;
}

/** A text of asking for a reading, by whom it is asked of: the tester, or somebody else. */
export const askedCode = (code: string, check: Pick<CardRow['check'], 'readFrom'>) =>
  check.readFrom === 'tester' ? code : `${code}.${check.readFrom}`;

/** One open Check: what is typed, how it would be judged, and how it is kept. */
export function useEntry(answer: CardAnswer, row: CardRow, instrument: KitInstrument | undefined): Entry {
  const deviceId = answer.place.id;
  const me = useIdentity();
  const [draft, setDraft] = useState<Draft>(() => readDraft(row));
  const [judged, setJudged] = useState<Judged | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [others, setOthers] = useState<TesterAnswer['rows']>([]);
  const [heard, setHeard] = useState<TesterAnswer | null>(null);
  const [seen, setSeen] = useState<string[]>(() => readSeen(row));
  const body = useMemo(() => toReading(row, draft), [row, draft]);

  // What the record would say of it, or, without a network, what this machine makes of it.
  const judge = useCallback(
    async (of: NonNullable<typeof body>): Promise<Judged> => {
      try {
        const judged = await answered(
          api.POST('/api/cards/{deviceId}/preview', {
            params: { path: { deviceId } },
            // Whose serial answered is whose accuracy judges.
            body: {
              row: row.id,
              value: of.value,
              text: of.text,
              seen: seen.length > 0,
              instrumentId: of.observationId ? (heard?.instrumentId ?? null) : (me.instrumentId ?? null),
            },
          }),
        );
        return judged.refused
          ? { of, answer: null, isProvisional: false, refused: say(judged.refused) }
          : { of, answer: judged, isProvisional: false, refused: null };
      } catch (error) {
        const guess = error instanceof NoNetworkError ? provisional(row, of, answer.card.rule, instrument) : null;
        return { of, answer: guess, isProvisional: guess !== null };
      }
    },
    [deviceId, row, me.instrumentId, answer.card.rule, instrument, heard, seen],
  );
  useEffect(() => {
    if (!body) {
      setJudged(null);
      return;
    }
    let gone = false;
    const look = async () => {
      const told = await judge(body);
      if (gone) return;
      setJudged(told);
      if (told.refused !== undefined) setTrouble(told.refused);
    };
    const timer = setTimeout(() => void look(), 120);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [body, judge]);

  const left = useRef(false);
  useEffect(() => {
    left.current = false;
    return () => void (left.current = true);
  }, []);

  const change = (next: Draft) => {
    setDraft(next);
    setTrouble(null);
    writeDraft(row, next);
  };

  const cite = (ids: string[]) => {
    setSeen(ids);
    writeSeen(row, ids);
  };

  /** A reading that cites an answer is that answer: the record takes its value, its moment and its instrument from there. */
  const post = (rowId: string, reading: { value?: ReadingValue; text?: string; observationId?: string }) =>
    keep(
      deviceId,
      '/readings',
      {
        row: rowId,
        ...reading,
        source: 'typed',
        evidence: seen.length > 0 ? seen.map((pictureId) => ({ pictureId })) : undefined,
        instrumentId: reading.observationId ? null : (me.instrumentId ?? null),
      },
      rowId,
    );

  return {
    deviceId,
    draft,
    change,
    preview: judged?.answer ?? null,
    isProvisional: judged?.isProvisional ?? false,
    judge: async () => (!body ? null : judged?.of === body ? judged.answer : (await judge(body)).answer),
    trouble,
    ready: body !== null && trouble === null,
    save: async (chosen) => {
      const reading = chosen ? toReading(row, chosen) : body;
      if (!reading || trouble) return false;
      const isKept = await keysWaitFor(async () => {
        const kept = await post(row.id, reading);
        if (!kept) {
          setTrouble(t('ui.not-kept'));
          return false;
        }
        savedNow(deviceId, row.id, kept);
        change({});
        cite([]);
        setHeard(null);
        return true;
      });
      // What is refused stays, and has the keys.
      if (!isKept) keysAreHere();
      return isKept;
    },
    readTester: async () => {
      setReading(true);
      setTrouble(null);
      try {
        const read = await answered(api.POST('/api/cards/{deviceId}/tester', { params: { path: { deviceId } }, body: { row: row.id } }));
        // Somebody has gone on meanwhile: it is no draft of the row that was left.
        if (left.current) return;
        const mine = read.rows.find((r) => r.row === row.id);
        setOthers(read.rows.length > 1 ? read.rows : []);
        setHeard(read);
        if (mine) change(draftOf(mine.value, read.observationId));
      } catch (error) {
        setTrouble(error instanceof ProblemError ? error.problem.detail : t('tester.unreachable'));
      } finally {
        setReading(false);
      }
    },
    reading,
    others,
    saveAll: () =>
      keysWaitFor(async () => {
        for (const other of others)
          if (!(await post(other.row, { value: other.value, observationId: heard!.observationId }))) {
            setTrouble(t('ui.not-kept'));
            return false;
          }
        change({});
        cite([]);
        setOthers([]);
        setHeard(null);
        return true;
      }),
    heard,
    seen,
    see: async (picture) => {
      if (!(await isPicture(picture))) {
        setTrouble(t('picture.not-a-picture'));
        return;
      }
      const id = await keepPicture(deviceId, picture, {}, row.id);
      if (id) cite([...seen, id]);
      else setTrouble(t('ui.not-kept'));
    },
  };
}
