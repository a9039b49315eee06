import type { CardRow, KitInstrument } from '../../api/types';
import { say, t } from '../../texts';
import { stateColour, UnexpectedMark } from '../../ui/Marks';
import type { Entry } from './entry';

/**
 * What has to be known before the press: an instrument that does not count, who answered, a reading that is not judged, or not as
 * expected.
 */
export function Notices({ row, entry, instrument }: { row: CardRow; entry: Entry; instrument: KitInstrument | undefined }) {
  const judged = entry.preview;
  const heard = entry.heard;
  const typed = row.check.entry === 'number' && !entry.draft.fromTester;
  return (
    <>
      {typed && !judged?.willNotCount && <InstrumentNotice instrument={instrument} row={row} />}
      {heard && (
        <p className={`mt-1 text-label ${heard.instrumentId ? 'text-ink-2' : 'font-semibold text-noted'}`}>
          {heard.instrumentName
            ? t('card.answered', heard.instrumentName, heard.serial)
            : heard.source === 'switch'
              ? t('card.answered-switch', heard.serial || t('card.no-serial'))
              : t('card.answered-unknown', heard.serial || t('card.no-serial'))}
        </p>
      )}
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

/** The instrument at hand, where it would not count or says nothing of this unit. Told before anything is typed. */
export function InstrumentNotice({ instrument, row }: { instrument: KitInstrument | undefined; row?: CardRow }) {
  const trouble = instrumentTrouble(instrument, row);
  return trouble ? (
    <p role="alert" className="mt-1 text-label font-bold text-refused">
      {trouble}
    </p>
  ) : null;
}

export function instrumentTrouble(instrument: KitInstrument | undefined, row?: CardRow): string | null {
  if (!instrument) return row ? t('card.no-instrument') : null;
  if (instrument.retired) return t('card.instrument-retired', instrument.name);
  if (instrument.calibration === 'expired') return t('card.instrument-expired', instrument.name, instrument.calibrationDue ?? '');
  if (instrument.calibration === 'noRecord') return t('card.instrument-no-record', instrument.name);
  if (instrument.calibration === 'testBeforeCalibration') return t('card.instrument-before', instrument.name);
  if (row && instrument.inDoubt.includes(row.check.unit)) return t('card.instrument-doubt', instrument.name);
  if (row && !instrument.functions.some((f) => f.unit === row.check.unit))
    return t('card.instrument-function', instrument.name, t(`unit.${row.check.unit}`));
  return null;
}
