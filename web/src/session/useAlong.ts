import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { alongOf, freshen, NoRoomError, putAway, takeAlong, type Along, type Wanted } from '../api/along';
import { troubleOf } from '../api/send';
import { t } from '../texts';

/** How often what is held is brought up to date while there is a network, milliseconds. */
const EVERY = 180_000;

interface Taking {
  done: number;
  of: number;
  stop: AbortController;
}

/** What is being taken along, whichever page is looked at meanwhile; and what went wrong with it last. */
let taking: ReadonlyMap<string, Taking> = new Map();
let troubles: ReadonlyMap<string, string> = new Map();
const listeners = new Set<() => void>();

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

function tell(jobId: string, now: Taking | undefined, trouble?: string) {
  const [works, words] = [new Map(taking), new Map(troubles)];
  if (now) works.set(jobId, now);
  else works.delete(jobId);
  if (trouble) words.set(jobId, trouble);
  else words.delete(jobId);
  [taking, troubles] = [works, words];
  listeners.forEach((listener) => listener());
}

async function take(jobId: string, of: number, client: QueryClient, wanted?: Wanted) {
  if (taking.has(jobId)) return;
  const stop = new AbortController();
  tell(jobId, { done: 0, of, stop });
  let trouble: string | undefined;
  try {
    const before = wanted ?? (await alongOf(jobId));
    const held = await takeAlong(
      jobId,
      { area: before?.area, pictures: !!before?.pictures },
      (done, all) => tell(jobId, { done, of: all, stop }),
      stop.signal,
    );
    client.setQueryData<Along | null>(['along', jobId], held);
  } catch (error) {
    if (!stop.signal.aborted) trouble = error instanceof NoRoomError ? t('along.no-room') : troubleOf(error);
  }
  tell(jobId, undefined, trouble);
}

const useHeld = (jobId?: string) =>
  useQuery({
    queryKey: ['along', jobId],
    enabled: !!jobId,
    queryFn: async () => (await alongOf(jobId!)) ?? null,
    staleTime: Infinity,
  });

/** A job on this device: what is held, what is under way, and the presses. */
export function useAlong(jobId: string, cards: number) {
  const client = useQueryClient();
  const held = useHeld(jobId).data ?? undefined;
  const work = useSyncExternalStore(subscribe, () => taking.get(jobId));
  const trouble = useSyncExternalStore(subscribe, () => troubles.get(jobId));
  return {
    held,
    work,
    trouble,
    take: (wanted?: Wanted) => void take(jobId, cards, client, wanted),
    away: () => void putAway(jobId).then(() => client.setQueryData<Along | null>(['along', jobId], null)),
  };
}

/** Whatever page is looked at, what is held of the job is brought up to date while there is a network. */
export function useKeptFresh(jobId?: string) {
  const client = useQueryClient();
  const isHeld = !!useHeld(jobId).data;
  useEffect(() => {
    if (!isHeld || !jobId) return;
    const renew = () => {
      if (!navigator.onLine || taking.has(jobId)) return;
      freshen(jobId)
        .then((n) => (n === undefined ? take(jobId, 0, client) : client.invalidateQueries({ queryKey: ['along', jobId] })))
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
}
