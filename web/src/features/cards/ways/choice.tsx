import type { Way } from './way';
import { choiceText, unitOf } from '../../../ui/format';
import { Choices } from './Choices';

/** One of the check's words. */
export const choice: Way<'choice'> = {
  kind: 'choice',
  toReading: (_, draft) => (draft.choice ? { value: { kind: 'choice', choice: draft.choice } } : null),
  draftOf: (value) => ({ choice: value.choice }),
  // "None" has no unit; in the check's own words where it has some.
  shown: (row, value) => ({ big: choiceText(row, value.choice), unit: value.choice === 'none' ? '' : unitOf(row) }),
  field: (props) => <Choices {...props} />,
};
