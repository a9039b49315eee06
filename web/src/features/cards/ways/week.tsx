import { lazy, Suspense } from 'react';
import { t } from '../../../texts';
import { hoursOf } from './weekHours';
import { Again } from './Again';
import type { Way } from './way';

const WeekField = lazy(() => import('./WeekField'));

/** Hours of a week: as they are set, and as they are wanted. */
export const week: Way<'week'> = {
  kind: 'week',
  toReading: (_, draft) =>
    draft.week && !Object.keys(draft.week.unread ?? {}).length
      ? { value: { kind: 'week', recorded: draft.week.recorded, wanted: draft.week.wanted } }
      : null,
  draftOf: (value) => ({ week: { recorded: value.recorded, wanted: value.wanted } }),
  shown: (_, value) => ({ big: t('week.shown', Math.round(hoursOf(value.recorded) * 10) / 10), unit: '' }),
  field: (props) => (
    <Suspense fallback={<p className="p-4 text-label text-ink-2">{t('ui.loading')}</p>}>
      <WeekField {...props} again={<Again row={props.row} entry={props.entry} kind="week" draftOf={week.draftOf} />} />
    </Suspense>
  ),
};
