import type { CardRow, KitInstrument } from '../../api/types';
import { say, t } from '../../texts';
import { stateColour, UnexpectedMark } from '../../ui/Marks';
import { instrumentTrouble } from './instrumentTrouble';
import { qualifierOf } from '../../ui/format';
import type { Entry } from './entry';
import { valueOf } from './ways';

/**
 * What has to be known before the press: an instrument that does not count, who answered, a reading that is not judged, or not as
 * expected.
 */
export function Notices({
  row,
  rows,
  entry,
  instrument,
}: {
  row: CardRow;
  /** All of the Card: one answer can be for several. */
  rows: CardRow[];
  entry: Entry;
  instrument: KitInstrument | undefined;
}) {
  const judged = entry.preview;
  const heard = entry.heard;
  const typed = row.check.entry === 'number' && !entry.draft.fromTester;
  return (
    <>
      {typed && !judged?.willNotCount && <InstrumentNotice instrument={instrument} row={row} />}
      {heard && (
        <p className={`mt-1 text-label ${heard.instrumentId || heard.source !== 'tester' ? 'text-ink-2' : 'font-semibold text-noted'}`}>
          {heard.instrumentName
            ? t('card.answered', heard.instrumentName, heard.serial)
            : heard.source === 'switch' || heard.source === 'network'
              ? t(`card.answered-${heard.source}`, heard.serial || t('card.no-serial'))
              : t('card.answered-unknown', heard.serial || t('card.no-serial'))}
        </p>
      )}
      {entry.others.length > 1 && <Others rows={rows} entry={entry} />}
      {judged?.willNotCount && (
        <p role="alert" className="mt-1 text-label font-bold text-refused">
          {say(judged.willNotCount)}
        </p>
      )}
      {judged?.state === 'notJudged' && row.check.entry === 'number' && judged.because.length > 0 && (
        <p className={`mt-1 text-label ${stateColour.notJudged}`}>{judged.because.map(say).join(' ')}</p>
      )}
      {judged && judged.unexpected.length > 0 && (
        <p className="mt-1 flex gap-2 text-label font-semibold text-noted">
          <UnexpectedMark /> <span>{judged.unexpected.map(say).join(' ')}</span>
        </p>
      )}
    </>
  );
}

/** What one answer says of several rows, each with how it would be judged: nothing is saved unseen. */
function Others({ rows, entry }: { rows: CardRow[]; entry: Entry }) {
  return (
    <ul className="mt-1 flex flex-wrap gap-x-4 text-label">
      {entry.others.map((other) => {
        const row = rows.find((r) => r.id === other.row);
        const was = row && valueOf(row, other.value);
        return (
          was && (
            <li key={other.row}>
              {qualifierOf(row)} <span className="font-read font-bold">{`${was.big} ${was.unit}`.trim()}</span>{' '}
              <span className={`font-semibold ${stateColour[other.state ?? 'stale']}`}>
                {other.state ? t(`state.${other.state}`) : t('card.wont-count')}
              </span>
            </li>
          )
        );
      })}
    </ul>
  );
}

/** The instrument at hand, where it would not count or says nothing of this unit. Told before anything is typed. */
export function InstrumentNotice({ instrument, row }: { instrument: KitInstrument | undefined; row?: CardRow }) {
  const trouble = instrumentTrouble(instrument, row);
  return trouble ? (
    <p role="alert" className="mt-1 text-label font-bold text-refused">
      {trouble}
    </p>
  ) : null;
}
