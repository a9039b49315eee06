import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import { useDemo } from '../../api/queries';
import { keep, useOutbox } from '../../outbox/outbox';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';

import { call } from '../demo/call';
import { clock } from '../../ui/format';
import { eventLines } from './pressed';

/** Rows that a clip of somebody's moving before the camera answers. */
const clips = new Set(['recorder.clip', 'recorder.clip-after']);

const ways = ['walk', 'hand', 'lamp'] as const;

/**
 * Somebody moves before the camera and presses here, with a network or without: the moment is kept with the press, and its clip is
 * looked for by whoever is at the recorder's page.
 */
export function Pressed({ check, deviceId, className = '' }: { check: string; deviceId: string; className?: string }) {
  return clips.has(check) ? <Events deviceId={deviceId} className={className} /> : null;
}

function Events({ deviceId, className }: { deviceId: string; className: string }) {
  const { job } = useJob();
  const demo = useDemo().data?.demo;
  const [trouble, setTrouble] = useState('');
  const outbox = useOutbox();
  const query = useQuery({
    queryKey: ['card', deviceId, 'events'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/events', { params: { path: { deviceId } } })),
  });
  const lines = eventLines(outbox, deviceId, query.data?.events ?? []);
  const unsent = lines.filter((l) => l.stands === 'unsent' || l.stands === 'leaving').length;
  const { refetch } = query;
  // What was sent is told by the record from then on.
  useEffect(() => {
    if (unsent === 0) void refetch();
  }, [unsent, refetch]);
  const press = async (way: (typeof ways)[number]) => {
    const at = performance.now();
    const id = await keep(deviceId, '/events', { way });
    setTrouble(id ? '' : t('ui.not-kept'));
    // In the made-up world somebody must walk there, too.
    if (demo && job?.simulated && query.data?.recorder)
      await call(`recorders/${encodeURIComponent(query.data.recorder)}/events`, {
        channels: query.data.channels,
        secondsAgo: (performance.now() - at) / 1000,
      }).catch(() => {});
  };
  const takeBack = async (of: string) =>
    setTrouble((await keep(deviceId, '/withdrawals', { of, reason: t('withdraw.slip') })) ? '' : t('ui.not-kept'));
  return (
    <section className={className} aria-label={t('pressed.title')}>
      <p className="text-label font-semibold">{t('pressed.title')}</p>
      <p className="text-label text-ink-2">{t('pressed.hint')}</p>
      <div className="mt-1 grid grid-cols-3 gap-2">
        {ways.map((way) => (
          <button key={way} type="button" className="plain !min-h-14 !px-1 leading-tight" onClick={() => void press(way)}>
            {t(`pressed.way.${way}`)}
          </button>
        ))}
      </div>
      {trouble && (
        <p role="alert" className="mt-1 text-label font-semibold text-refused">
          {trouble}
        </p>
      )}
      <ul aria-live="polite">
        {lines.map((line) => (
          <li key={line.id} className="flex min-h-11 items-center gap-3 border-b border-dotted border-hairline text-label last:border-0">
            <span className="font-read font-bold">{job ? clock(line.at, job.timeZone) : ''}</span>
            <span className={`min-w-0 flex-1 ${line.stands === 'refuted' ? 'font-semibold text-refused' : ''}`}>
              {`${t(`pressed.way.${line.way}`)}: ${t(`pressed.${line.stands}`, query.data?.recorder ?? '')}`}
            </span>
            {line.stands === 'waits' && (
              <button type="button" className="min-h-11 shrink-0 font-semibold underline" onClick={() => void takeBack(line.id)}>
                {t('pressed.take-back')}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
