import { keepPreviousData, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { onAnswer, onPictures } from '../outbox/outbox';
import { addTexts } from '../texts';
import { cardOf, firstDrawn } from './ahead';
import { cardAddress, keepAnswer } from './cache';
import { answered, api } from './client';
import { bare } from './definitions';
import { afterEntry, merged } from './merge';
import type { CardAnswer, KitAnswer, WalkAnswer, WalkChanges } from './types';

/** Stops that changed since a moment of the journal; undefined where the register has changed, so that the whole has to be asked for. */
export async function walkChanges(jobId: string, after: number): Promise<WalkChanges | undefined> {
  const changes = await answered(api.GET('/api/jobs/{jobId}/walk/changes', { params: { path: { jobId }, query: { after } } }));
  return changes.askWhole ? undefined : changes;
}

export const useJobs = () => useQuery({ queryKey: ['jobs'], queryFn: () => answered(api.GET('/api/jobs')) });

export const useWalk = (jobId?: string) =>
  useQuery({
    queryKey: ['walk', jobId],
    enabled: !!jobId,
    placeholderData: keepPreviousData,
    // Dates and numbers are compared by content: a Stop that did not change keeps its identity, and is not drawn again.
    queryFn: async ({ client }) => {
      await firstDrawn();
      return freshWalk(jobId!, client.getQueryData<WalkAnswer>(['walk', jobId]));
    },
  });

/** Only what changed since the Walk that is here; the whole where the register has changed. */
async function freshWalk(jobId: string, known?: WalkAnswer): Promise<WalkAnswer> {
  const whole = () => answered(api.GET('/api/jobs/{jobId}/walk', { params: { path: { jobId } } }));
  if (!known) return whole();
  const changes = await walkChanges(jobId, known.sequence);
  return changes ? merged(known, changes) : whole();
}

export const useRegister = (jobId?: string) =>
  useQuery({
    queryKey: ['register', jobId],
    enabled: !!jobId,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/register', { params: { path: { jobId: jobId! } } })),
  });

export const useCardRegister = (deviceId: string) =>
  useQuery({
    queryKey: ['card-register', deviceId],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/register', { params: { path: { deviceId } } })),
  });

export const useFind = (jobId: string | undefined, q: string) =>
  useQuery({
    queryKey: ['find', jobId, q],
    enabled: !!jobId && q.length > 1,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/find', { params: { path: { jobId: jobId! }, query: { q } } })),
  });

/** Long work, asked for until it is over. */
export const useWork = (id?: string) =>
  useQuery({
    queryKey: ['work', id],
    enabled: !!id,
    queryFn: () => answered(api.GET('/api/progress/{id}', { params: { path: { id: id! } } })),
    refetchInterval: (query) => (query.state.data && query.state.data.state !== 'running' ? false : 300),
  });

export const useCard = (deviceId: string) =>
  useQuery({
    queryKey: ['card', deviceId],
    queryFn: () => cardOf(deviceId),
  });

export const useKit = (jobId?: string) =>
  useQuery({
    queryKey: ['kit', jobId],
    enabled: !!jobId,
    queryFn: (): Promise<KitAnswer> => answered(api.GET('/api/jobs/{jobId}/kit', { params: { path: { jobId: jobId! } } })),
  });

export const useCatalogue = () => useQuery({ queryKey: ['catalogue'], queryFn: () => answered(api.GET('/api/catalogue')) });

export const useDemo = () => useQuery({ queryKey: ['demo'], queryFn: () => answered(api.GET('/api/demo')) });

/** Texts that catalogue files add; until they are here the shipped ones serve. */
export const useTexts = () =>
  useQuery({
    queryKey: ['texts'],
    queryFn: async () => {
      addTexts(await answered(api.GET('/api/texts')));
      return true;
    },
  });

interface LiveEvent {
  deviceId?: string;
  kind: string;
  reached?: string[];
  sequence: number;
}

/** So long an answer to one's own entry may come after the stream has told of it. */
const OWN_ENTRY_MS = 400;

/**
 * One stream a browser: what others keep is asked for again. The browser resumes it by the last event's id.
 * @param session who listens; a stream that was cut because it ended is begun again by the next
 */
export function useLive(jobId?: string, session?: string) {
  const client = useQueryClient();
  useEffect(() => {
    if (!jobId) return;
    const stream = new EventSource(`/api/jobs/${jobId}/live`);
    stream.addEventListener('kept', (event) => {
      const { deviceId, kind, reached, sequence } = JSON.parse((event as MessageEvent<string>).data) as LiveEvent;
      if (kind === 'network') return void client.invalidateQueries({ queryKey: ['network'] });
      if (kind === 'ground') return void client.invalidateQueries({ queryKey: ['coverage'] });
      // Whoever shares a run, a supply or a recorder is judged anew too.
      for (const id of reached ?? []) void client.invalidateQueries({ queryKey: ['card', id] });
      // One's own entry is answered with what it changed, a moment before or after it is told here: only who did not hear it asks.
      if (deviceId)
        setTimeout(() => {
          const known = client.getQueryData<CardAnswer>(['card', deviceId]);
          if (!known || known.sequence < sequence) void client.invalidateQueries({ queryKey: ['card', deviceId] });
        }, OWN_ENTRY_MS);
      if (deviceId || reached?.length) {
        // Told above.
      } else if (kind === 'person-added' || kind === 'kit') void client.invalidateQueries({ queryKey: ['kit'] });
      else void client.invalidateQueries({ queryKey: ['card'] });
      if (['register', 'schedule-taken', 'summaries-rebuilt', 'bundle-in', 'act', 'plan'].includes(kind))
        for (const key of ['register', 'network', 'coverage']) void client.invalidateQueries({ queryKey: [key] });
      if (kind === 'view') void client.invalidateQueries({ queryKey: ['coverage'] });
      if (kind === 'catalogue' || kind === 'practice')
        for (const key of ['catalogue', 'own', 'practice', 'texts']) void client.invalidateQueries({ queryKey: [key] });
      void client.invalidateQueries({ queryKey: ['walk'] });
    });
    // A stream that was broken off says hello again: whom it missed is not known, so everything that is shown is asked for.
    let greeted = false;
    stream.addEventListener('hello', () => {
      if (greeted)
        for (const key of ['card', 'walk', 'kit', 'register', 'network', 'coverage']) void client.invalidateQueries({ queryKey: [key] });
      greeted = true;
    });
    return () => stream.close();
  }, [jobId, session, client]);
}

/** What the record answers to a sent entry makes the Card here the newest there is, also for when the network is gone. */
export function hearAnswers(client: QueryClient) {
  onPictures((deviceId, pictures) => client.setQueryData(['pictures', deviceId], pictures));
  onAnswer((deviceId, answers) => {
    void client.invalidateQueries({ queryKey: ['walk'] });
    const known = client.getQueryData<CardAnswer>(['card', deviceId]);
    const next = answers.reduce<CardAnswer | undefined>(afterEntry, known);
    if (!next) return client.invalidateQueries({ queryKey: ['card', deviceId] });
    client.setQueryData<CardAnswer>(['card', deviceId], next);
    void keepAnswer(cardAddress(deviceId), bare(next), Date.now());
    // What stands beside its rows was not part of the answer.
    return client.invalidateQueries({ queryKey: ['card', deviceId], predicate: (q) => q.queryKey.length > 2 });
  });
}
