import { lazy, Suspense } from 'react';
import { t } from '../../../texts';
import { Again } from './Again';
import type { Way } from './way';

const ZonesField = lazy(() => import('./ZonesField'));

/** Zones drawn on a picture of the place. */
export const zones: Way<'zones'> = {
  kind: 'zones',
  toReading: (_, draft) => (draft.zones?.length ? { value: { kind: 'zones', zones: draft.zones, picture: draft.picture ?? null } } : null),
  draftOf: (value) => ({ zones: value.zones, picture: value.picture ?? undefined }),
  shown: (_, value) => ({
    big: value.zones.length === 1 ? t('zone.shown-one') : t('zone.shown-many', value.zones.length),
    unit: value.zones.map((z) => z.name).join(', '),
  }),
  field: (props) => (
    <Suspense fallback={<p className="p-4 text-label text-ink-2">{t('ui.loading')}</p>}>
      <ZonesField {...props} again={<Again row={props.row} entry={props.entry} kind="zones" draftOf={zones.draftOf} />} />
    </Suspense>
  ),
};
