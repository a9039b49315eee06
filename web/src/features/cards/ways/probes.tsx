import { t } from '../../../texts';
import type { Way } from './way';
import { Whole, wholeOf } from './Whole';

/** Probes sent, and those that came back. */
export const probes: Way<'probes'> = {
  kind: 'probes',
  toReading: (_, draft) => {
    const [sent, received] = [wholeOf(draft.sent), wholeOf(draft.received)];
    return sent === null || received === null ? null : { value: { kind: 'probes', sent, received, roundTripsMs: null } };
  },
  draftOf: (value) => ({ sent: String(value.sent), received: String(value.received) }),
  shown: (_, value) => ({ big: String(value.sent - value.received), unit: t('probes.lost-of', value.sent) }),
  field: ({ entry, big }) => (
    <div className={`flex gap-4 ${big ? 'p-4' : ''}`}>
      {(['sent', 'received'] as const).map((k, i) => (
        <Whole
          key={k}
          label={t(`probes.${k}`)}
          focus={!big && i === 0}
          value={entry.draft[k] ?? ''}
          onChange={(value) => entry.change({ sent: entry.draft.sent, received: entry.draft.received, [k]: value })}
        />
      ))}
    </div>
  ),
};
