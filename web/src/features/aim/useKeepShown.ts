import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api, ProblemError } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { keep } from '../../outbox/outbox';
import { useIdentity } from '../../session/identity';
import { t } from '../../texts';
import type { Live } from './words';

type Kept = Partial<Pick<components['schemas']['AimKeepRequest'], 'touch' | 'focus' | 'isSway'>>;

/** Puts the picture that is shown on the Card, and tells the rows what it says. */
export function useKeepShown(path: { deviceId: string; headId: string }, live: Live | undefined) {
  const me = useIdentity();
  const [kept, setKept] = useState<components['schemas']['AimKept']>();
  const [trouble, setTrouble] = useState('');
  const [isKeeping, setKeeping] = useState(false);

  /** The picture alone. */
  const keepShown = async (caption: string, what: Kept = {}) => {
    setKeeping(true);
    setTrouble('');
    try {
      return await answered(
        api.POST('/api/cards/{deviceId}/aim/{headId}/keep', {
          params: { path },
          body: {
            touch: null,
            focus: null,
            isSway: false,
            ...what,
            pictureId: v7(),
            number: live?.number ?? 0,
            by: me.personId ?? '',
            caption,
            personal: false,
          },
        }),
      );
    } catch (error) {
      setTrouble(error instanceof ProblemError ? error.problem.detail : t('aim.offline'));
      return null;
    } finally {
      setKeeping(false);
    }
  };

  /** And the rows that it answers; false: it was not kept. */
  const keepThis = async (caption: string, what: Kept = {}) => {
    const shown = await keepShown(caption, what);
    if (!shown) return false;
    for (const row of shown.rows)
      if (!row.held && row.state)
        await keep(
          path.deviceId,
          '/readings',
          {
            row: row.row,
            value: row.value,
            observationId: shown.observationId,
            source: 'typed',
            evidence: [shown.evidence],
            instrumentId: null,
          },
          row.row,
        );
    setKept(shown);
    return true;
  };
  return { keepShown, keepThis, kept, setKept, trouble, isKeeping };
}
