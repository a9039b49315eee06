import type { ReactNode } from 'react';
import type { CardRow, ReadingValue, WireMapAnalysis } from '../../../api/types';
import type { Draft } from '../drafts';
import type { Entry } from '../entry';

/** What is sent of a draft: a value, the text of a number which the record reads, or an answer that it kept. */
export interface Sent {
  value?: ReadingValue;
  text?: string;
  observationId?: string;
}

/** A reading in large, and what stands beside it. */
export interface Shown {
  big: string;
  unit: string;
}

export interface FieldProps {
  row: CardRow;
  entry: Entry;
  /** In the hand: as large as a thumb in a glove. */
  big?: boolean;
  scheme: string;
  /** Takes what is chosen by the same press, and goes on or stays. */
  onEnter?: (draft: Draft, next: boolean) => void;
}

/**
 * One way of entering a reading, whole: how it is typed, what is sent of it, what an answer becomes in the field, and how it is shown. A
 * new one is a file beside this and a line in `index.ts`.
 */
export interface Way<K extends ReadingValue['kind'] = ReadingValue['kind']> {
  /** The kind of its values. */
  kind: K;
  /** Null while the draft is not whole. */
  toReading: (row: CardRow, draft: Draft) => Sent | null;
  /** What a source answered, as a draft. */
  draftOf: (value: Extract<ReadingValue, { kind: K }>) => Draft;
  shown: (row: CardRow, value: Extract<ReadingValue, { kind: K }>, map?: WireMapAnalysis | null) => Shown;
  /** Null where the number field of the open row serves. */
  field: ((props: FieldProps) => ReactNode) | null;
}
