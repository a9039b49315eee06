import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { alongOf, BYTES_PER_CARD, freshen, NoRoomError, putAway, room, takeAlong, type Along as Held } from '../../api/along';
import { troubleOf } from '../../api/send';
import { t } from '../../texts';
import { clock, megabytes } from '../../ui/format';

/** How often what is held is brought up to date while there is a network, milliseconds. */
const EVERY = 180_000;

/** The job on this device, for a day without a network: taken along by one press, kept fresh while there is one. */
export function Along({ jobId, zone, cards }: { jobId: string; zone: string; cards: number }) {
  const client = useQueryClient();
  const held = useQuery({ queryKey: ['along', jobId], queryFn: async () => (await alongOf(jobId)) ?? null, staleTime: Infinity });
  const space = useQuery({ queryKey: ['room', jobId, held.data?.at], queryFn: async () => (await room()) ?? null });
  const [progress, setProgress] = useState<{ done: number; of: number }>();
  const [trouble, setTrouble] = useState<string>();
  const stop = useRef<AbortController>(undefined);
  const take = async () => {
    const control = (stop.current = new AbortController());
    setTrouble(undefined);
    setProgress({ done: 0, of: cards });
    try {
      client.setQueryData<Held | null>(
        ['along', jobId],
        await takeAlong(jobId, undefined, (done, of) => setProgress({ done, of }), control.signal),
      );
    } catch (error) {
      if (!control.signal.aborted) setTrouble(error instanceof NoRoomError ? t('along.no-room') : troubleOf(error));
    } finally {
      setProgress(undefined);
    }
  };
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  const isHeld = !!held.data;
  useEffect(() => {
    if (!isHeld) return;
    const renew = () => {
      if (!navigator.onLine) return;
      freshen(jobId)
        .then((n) => (n === undefined ? latest.current() : client.invalidateQueries({ queryKey: ['along', jobId] })))
        // Without a network what is held holds.
        .catch(() => {});
    };
    renew();
    const timer = setInterval(renew, EVERY);
    window.addEventListener('online', renew);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', renew);
    };
  }, [isHeld, jobId, client]);
  useEffect(() => () => stop.current?.abort(), []);
  const need = cards * BYTES_PER_CARD;
  const isTight = space.data !== null && space.data !== undefined && space.data < need * 2;
  const word = 'min-h-11 text-label font-semibold underline';
  return (
    <div className="border-t border-hairline px-5 py-1 text-label" data-screen-only>
      {progress ? (
        <p className="flex items-center gap-4" role="status">
          <span>{t('along.taking', progress.done, progress.of)}</span>
          <button className={word} onClick={() => stop.current?.abort()}>
            {t('ui.cancel')}
          </button>
        </p>
      ) : held.data ? (
        <p className="flex flex-wrap items-center gap-x-4">
          <span>{t('along.held', held.data.cards, megabytes(held.data.bytes), clock(held.data.at, zone))}</span>
          <button className={word} onClick={() => void take()}>
            {t('along.again')}
          </button>
          <button className={word} onClick={() => void putAway(jobId).then(() => client.setQueryData(['along', jobId], null))}>
            {t('along.away')}
          </button>
        </p>
      ) : (
        <button className={word} onClick={() => void take()}>
          {t('along.take', cards, megabytes(need))}
        </button>
      )}
      {!held.data && isTight && <p className="font-semibold text-noted">{t('along.tight', megabytes(space.data!))}</p>}
      {trouble && (
        <p role="alert" className="font-semibold text-refused">
          {trouble}
        </p>
      )}
    </div>
  );
}
