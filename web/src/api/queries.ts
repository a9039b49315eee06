import { keepPreviousData, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { onAnswer } from '../outbox/outbox';
import { addTexts } from '../texts';
import { answered, api } from './client';
import type { CardAnswer, KitAnswer } from './types';

export const useJobs = () => useQuery({ queryKey: ['jobs'], queryFn: () => answered(api.GET('/api/jobs')) });

export const useWalk = (jobId?: string) =>
  useQuery({
    queryKey: ['walk', jobId],
    enabled: !!jobId,
    placeholderData: keepPreviousData,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/walk', { params: { path: { jobId: jobId! } } })),
  });

export const useCard = (deviceId: string) =>
  useQuery({ queryKey: ['card', deviceId], queryFn: () => answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId } } })) });

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
      addTexts((await answered(api.GET('/api/texts'))) as Record<string, string>);
      return true;
    },
  });

/** One stream a browser: what others keep is asked for again. The browser resumes it by the last event's id. */
export function useLive(jobId?: string) {
  const client = useQueryClient();
  useEffect(() => {
    if (!jobId) return;
    const stream = new EventSource(`/api/jobs/${jobId}/live`);
    stream.addEventListener('kept', (event) => {
      const { deviceId, kind } = JSON.parse((event as MessageEvent<string>).data) as { deviceId?: string; kind: string };
      if (deviceId) void client.invalidateQueries({ queryKey: ['card', deviceId] });
      else void client.invalidateQueries({ queryKey: kind === 'person-added' ? ['kit'] : ['card'] });
      void client.invalidateQueries({ queryKey: ['walk'] });
    });
    return () => stream.close();
  }, [jobId, client]);
}

/** What the record answers to a sent entry is the newest Card there is. */
export function hearAnswers(client: QueryClient) {
  onAnswer((deviceId, answer) => {
    client.setQueryData<CardAnswer>(['card', deviceId], (known) => (known && known.sequence > answer.sequence ? known : answer));
    void client.invalidateQueries({ queryKey: ['walk'] });
  });
}
