import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import { clockOffsetMs } from '../../api/clock';
import { keep, keepAll, useOutbox } from '../../outbox/outbox';
import { useIdentity } from '../../session/identity';
import { t } from '../../texts';
import { asBase64, type Planned, waitingPasses } from './driveWords';

/** As long as a list may be. */
const MOST_BYTES = 4 * 1024 * 1024;

/** A vehicle that passed, as the next of the plan or otherwise, so long before it is ticked off. */
interface Ticked {
  vehicle: string;
  planned?: Pick<Planned, 'kmh' | 'lane' | 'way'> | null;
  secondsBefore?: number;
}

/** The drive before one plate reader, and what can be done with it. */
export function usePlates(deviceId: string) {
  const me = useIdentity();
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ['card', deviceId, 'plates'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/plates', { params: { path: { deviceId } } })),
  });
  const outbox = useOutbox();
  const passes = query.data?.trial.passes;
  const waiting = useMemo(() => waitingPasses(outbox, deviceId, passes), [outbox, deviceId, passes]);
  const [trouble, setTrouble] = useState('');
  const [isAsking, setAsking] = useState(false);

  const have = async (list: () => Promise<unknown>) => {
    setAsking(true);
    setTrouble('');
    try {
      await list();
      await client.invalidateQueries({ queryKey: ['card', deviceId] });
    } catch (error) {
      setTrouble(error instanceof ProblemError ? error.problem.detail : t('plates.page.offline'));
    } finally {
      setAsking(false);
    }
  };
  const said = () => ({ by: me.personId ?? '', takenAt: new Date().toISOString(), clockOffsetMs: clockOffsetMs() });
  const path = { path: { deviceId } };

  /** Keeps entries on this device first: they go when they can. */
  const put = async (path: string, ...bodies: Record<string, unknown>[]) => {
    const ids = await keepAll(
      deviceId,
      bodies.map((body) => ({ path, body })),
    );
    setTrouble(ids ? '' : t('ui.not-kept'));
    return ids;
  };
  return {
    query,
    waiting,
    trouble,
    isAsking,
    agree: (design: object) => put('/plates/drives', { design }),
    tick: (...passes: Ticked[]) =>
      put(
        '/plates/passes',
        ...passes.map(({ vehicle, planned, secondsBefore = 0 }) => ({
          vehicle,
          kmh: planned?.kmh ?? null,
          lane: planned?.lane ?? null,
          way: planned?.way ?? 'towards',
          secondsBefore,
        })),
      ),
    takeBack: (...of: string[]) => put('/withdrawals', ...of.map((id) => ({ of: id, reason: 'slip' }))),
    ask: () => have(() => answered(api.POST('/api/cards/{deviceId}/plates/ask', { params: path, body: said() }))),
    file: (file: File, from: 'file' | 'cameraPage') =>
      // What is far too long for a drive is not even sent.
      file.size > MOST_BYTES
        ? Promise.resolve(setTrouble(t('plates.page.too-large')))
        : have(async () =>
            answered(
              api.POST('/api/cards/{deviceId}/plates/file', {
                params: path,
                body: { ...said(), name: file.name, from, file: await asBase64(file) },
              }),
            ),
          ),
    keepRow: (row: string, lines: unknown) =>
      keep(deviceId, '/readings', { row, value: { kind: 'form', lines }, source: 'typed', instrumentId: null }, row),
  };
}

/** The record's clock, once a second. */
export function useNow(): number {
  const [now, setNow] = useState(() => Date.now() + clockOffsetMs());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now() + clockOffsetMs()), 500);
    return () => clearInterval(timer);
  }, []);
  return now;
}
