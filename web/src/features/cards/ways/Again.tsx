import type { CardRow, ReadingValue } from '../../../api/types';
import { t } from '../../../texts';
import type { Draft } from '../drafts';
import type { Entry } from '../entry';

/** What was read of a row last: the reading that counts, else the newest; one that was taken back is none. */
export function lastOf<K extends ReadingValue['kind']>(row: Pick<CardRow, 'attempts' | 'counts'>, kind: K) {
  const own = row.attempts.filter((a) => a.value.kind === kind && a.standing !== 'withdrawn');
  const last =
    own.find((a) => a.readingId === row.counts) ??
    own.reduce<(typeof own)[number] | undefined>((a, b) => (a && a.takenAt >= b.takenAt ? a : b), undefined);
  return last?.value as Extract<ReadingValue, { kind: K }> | undefined;
}

/** Where much is entered at once, one thing is changed without saying all of it again. */
export function Again<K extends ReadingValue['kind']>({
  row,
  entry,
  kind,
  draftOf,
}: {
  row: CardRow;
  entry: Entry;
  kind: K;
  draftOf: (value: Extract<ReadingValue, { kind: K }>) => Draft;
}) {
  const last = lastOf(row, kind);
  if (!last || Object.keys(entry.draft).length > 0) return null;
  return (
    <button type="button" className="min-h-11 text-label font-semibold underline" onClick={() => entry.change(draftOf(last))}>
      {t('entry.from-last')}
    </button>
  );
}
