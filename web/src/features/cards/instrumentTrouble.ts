import type { CardRow, KitInstrument } from '../../api/types';
import { t } from '../../texts';
import { day } from '../../ui/format';

/** What a check is read with: the instrument at hand, unless it cannot be read with that. */
export const readWith = (instrument: KitInstrument | undefined, check: CardRow['check']) =>
  instrument?.reads.includes(check.id) ? instrument : undefined;

/**
 * Why the instrument at hand would not count, or says nothing of this row's unit; null where it is in order, or the row is read without
 * one: by a tape, by eye, by a clock.
 */
export function instrumentTrouble(instrument: KitInstrument | undefined, row?: CardRow): string | null {
  if (row && instrument && !readWith(instrument, row.check)) return null;
  if (!instrument) return row && row.check.readTo === null ? t('card.no-instrument') : null;
  if (instrument.retired) return t('card.instrument-retired', instrument.name);
  if (instrument.calibration === 'expired') return t('card.instrument-expired', instrument.name, day(instrument.calibrationDue));
  if (instrument.calibration === 'noRecord') return t('card.instrument-no-record', instrument.name);
  if (instrument.calibration === 'testBeforeCalibration') return t('card.instrument-before', instrument.name);
  if (row && instrument.inDoubt.includes(row.check.unit)) return t('card.instrument-doubt', instrument.name);
  if (row && !instrument.functions.some((f) => f.unit === row.check.unit))
    return t('card.instrument-function', instrument.name, t(`unit.${row.check.unit}`));
  return null;
}
