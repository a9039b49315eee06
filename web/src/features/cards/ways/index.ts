import type { CardRow, CheckDefinition, ReadingValue, WireMapAnalysis } from '../../../api/types';
import { t } from '../../../texts';
import type { Draft } from '../drafts';
import { choice } from './choice';
import { counters } from './counters';
import { form } from './form';
import { items } from './items';
import { light } from './light';
import { list } from './list';
import { number } from './number';
import { probes } from './probes';
import { text } from './text';
import type { Sent, Shown, Way } from './way';
import { week } from './week';
import { wireMap } from './wireMap';
import { yesNo } from './yesNo';
import { zones } from './zones';

/** Every way of entering, by the name that checks give it; a new one is a line here. */
export const ways: Partial<Record<CheckDefinition['entry'], Way>> = {
  number,
  yesNo,
  choice,
  list,
  items,
  form,
  text,
  probes,
  counters,
  light,
  wireMap,
  zones,
  week,
} as unknown as Partial<Record<CheckDefinition['entry'], Way>>;

/** By the kind of a value, whichever check it is of: a check may have been defined otherwise since. */
const byKind = new Map(Object.values(ways).map((way) => [way.kind, way]));

/** The draft as what is sent. Null while it is not whole. */
export const toReading = (row: CardRow, draft: Draft): Sent | null =>
  draft.fromTester?.observationId
    ? { value: draft.fromTester.value, observationId: draft.fromTester.observationId }
    : (ways[row.check.entry]?.toReading(row, draft) ?? null);

/** What a source answered, as a draft: seen before it is saved. */
export const draftOf = (value: ReadingValue, observationId: string): Draft => ({
  ...byKind.get(value.kind)?.draftOf(value),
  fromTester: { value, observationId },
});

/** A reading as its number and its unit. */
export const valueOf = (row: CardRow, value: ReadingValue, map?: WireMapAnalysis | null): Shown =>
  byKind.get(value.kind)?.shown(row, value, map) ?? { big: '?', unit: t('because.unreadable.short') };
