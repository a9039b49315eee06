import type { Way } from './way';
import { fixed, unitOf } from '../../../ui/format';

/** A number in the check's unit; the record reads what was typed, with or without a unit. */
export const number: Way<'number'> = {
  kind: 'number',
  toReading: (_, draft) => (draft.text?.trim() ? { text: draft.text } : null),
  draftOf: (value) => ({ text: String(value.value) }),
  shown: (row, value) => ({ big: fixed(value.value, row.check.decimals), unit: unitOf(row) }),
  field: null,
};
