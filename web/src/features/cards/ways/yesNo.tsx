import type { Way } from './way';
import { has, t } from '../../../texts';
import { Choices } from './Choices';

export const yesNo: Way<'yesNo'> = {
  kind: 'yesNo',
  toReading: (_, draft) => (draft.yes === undefined ? null : { value: { kind: 'yesNo', yes: draft.yes } }),
  draftOf: (value) => ({ yes: value.yes }),
  shown: (row, value) => {
    const code = `check.${row.check.id}.${value.yes ? 'yes' : 'no'}`;
    return { big: value.yes ? t('ui.yes') : t('ui.no'), unit: has(code) ? t(code) : '' };
  },
  field: (props) => <Choices {...props} />,
};
