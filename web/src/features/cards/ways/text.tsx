import { t } from '../../../texts';
import type { Way } from './way';

/** A few words, such as a version. */
export const text: Way<'text'> = {
  kind: 'text',
  toReading: (_, draft) => (draft.text?.trim() ? { value: { kind: 'text', text: draft.text.trim() } } : null),
  draftOf: (value) => ({ text: value.text }),
  shown: (_, value) => ({ big: value.text, unit: '' }),
  field: ({ row, entry, big }) => (
    <input
      autoFocus={!big}
      aria-label={t(`check.${row.check.id}`)}
      autoComplete="off"
      maxLength={60}
      className={`field font-read ${big ? 'm-4 !w-auto text-title' : 'w-64 text-lead'}`}
      value={entry.draft.text ?? ''}
      onChange={(e) => entry.change({ text: e.target.value })}
    />
  ),
};
