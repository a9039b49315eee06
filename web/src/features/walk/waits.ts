import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useWalk } from '../../api/queries';
import type { WalkAnswer } from '../../api/types';

/** Longest that a browser's timer can be, milliseconds. */
const LONGEST = 2 ** 31 - 1;

/** When the first of the Stops that wait can be gone on with, milliseconds since 1970; undefined where none waits. */
export const firstToEnd = (walk: WalkAnswer, now: number): number | undefined =>
  walk.areas
    .flatMap((area) => area.stops)
    .map((stop) => (stop.waitsUntil ? Date.parse(stop.waitsUntil) : 0))
    .filter((until) => until > now)
    .sort((a, b) => a - b)[0];

/** The Walk without the waits that are over; Stops that go on as before keep their identity, and are not drawn again. */
export const withoutEnded = (walk: WalkAnswer, now: number): WalkAnswer => ({
  ...walk,
  areas: walk.areas.map((area) => ({
    ...area,
    stops: area.stops.map((stop) => (stop.waitsUntil && Date.parse(stop.waitsUntil) <= now ? { ...stop, waitsUntil: null } : stop)),
  })),
});

/** What waited comes back on the Walk by itself, whichever page is looked at. */
export function useWaitsEnd(jobId: string) {
  const client = useQueryClient();
  const walk = useWalk(jobId).data;
  useEffect(() => {
    const until = walk && firstToEnd(walk, Date.now());
    if (!until) return;
    const timer = setTimeout(
      () => {
        client.setQueryData<WalkAnswer>(['walk', jobId], (known) => known && withoutEnded(known, Date.now()));
        // Which Stop is next, the record says.
        void client.invalidateQueries({ queryKey: ['walk', jobId] });
      },
      Math.min(LONGEST, until - Date.now() + 50),
    );
    return () => clearTimeout(timer);
  }, [walk, jobId, client]);
}
