import type { Way } from './way';
import { t } from '../../../texts';
import { choiceText, unitOf } from '../../../ui/format';
import { Choices } from './Choices';

/** One of the check's words. */
export const choice: Way<'choice'> = {
  kind: 'choice',
  toReading: (_, draft) => (draft.choice ? { value: { kind: 'choice', choice: draft.choice } } : null),
  draftOf: (value) => ({ choice: value.choice }),
  shown: (row, value) =>
    value.choice === 'none' ? { big: t('choice.none'), unit: '' } : { big: choiceText(row, value.choice), unit: unitOf(row) },
  field: (props) => <Choices {...props} />,
};
