import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import type { SiteAnswer } from '../../api/types';
import { mayDo, useAccess } from '../../session/access';
import { t } from '../../texts';
import { clock, dayAndClock } from '../../ui/format';
import { Sheet } from '../../ui/Dialog';
import { Sign } from '../../ui/Marks';
import { Trouble } from '../../ui/Trouble';
import '../pageTexts';
import { Load } from './Load';
import './waitSigns';

type Line = SiteAnswer['presences'][number];

/** How something that rows wait for stands: not said, coming, here, or gone again. */
export function standingOf(stay: Line['stay'], now: number): 'unsaid' | 'coming' | 'here' | 'gone' {
  if (!stay) return 'unsaid';
  if (Date.parse(stay.from) > now) return 'coming';
  return stay.until && Date.parse(stay.until) <= now ? 'gone' : 'here';
}

interface OnSiteProps {
  jobId: string;
  zone: string;
  areas: string[];
  /** The area of the next Stop; empty where there is none. */
  at: string;
  onClose: () => void;
}

/** What is on site: when it is dark, and who or what is there that rows wait for. One press says that it is. */
export default function OnSite({ jobId, zone, areas, at, onClose }: OnSiteProps) {
  const path = { params: { path: { jobId } } };
  const client = useQueryClient();
  const access = useAccess().data;
  const site = useQuery({
    queryKey: ['site', jobId],
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/site', path)),
    refetchInterval: 300_000,
  }).data;
  const [asks, setAsks] = useState<string>();
  const kept = async (answer: SiteAnswer) => {
    setAsks(undefined);
    client.setQueryData(['site', jobId], answer);
    await client.invalidateQueries({ queryKey: ['walk', jobId] });
    await client.invalidateQueries({ queryKey: ['card'] });
  };
  const say = useMutation({
    mutationFn: (body: { presence: string; from?: string | null; until?: string | null; fromWall?: string; untilWall?: string }) =>
      answered(
        api.POST('/api/jobs/{jobId}/site/presences', {
          ...path,
          body: { from: null, until: null, fromWall: null, untilWall: null, ...body },
        }),
      ),
    onSuccess: kept,
  });
  const place = useMutation({
    mutationFn: (body: { latitudeDeg: number | null; longitudeDeg: number | null }) =>
      answered(api.PUT('/api/jobs/{jobId}/site/place', { ...path, body })),
    onSuccess: kept,
  });
  if (!site) return null;
  const maySay = !access?.me || mayDo(access, 'work');
  const mayPlace = !access?.me || mayDo(access, 'plan');
  const failed = say.error ?? place.error;
  const word = 'min-h-11 text-label font-semibold underline';
  const dark = site.darkFrom
    ? [t('onsite.dark', clock(site.darkFrom, zone)), site.darkUntil && t('wait.to', clock(site.darkUntil, zone))].filter(Boolean).join(' ')
    : t('onsite.dark-unknown');
  return (
    <Sheet title={t('onsite.title')} hint={t('onsite.hint')} onClose={onClose}>
      <div className="flex flex-wrap items-center gap-x-3">
        <Sign sign="wait.dark" />
        <span className="min-w-0 flex-1">
          {dark} {site.byZone && <span className="text-ink-2">{t('onsite.by-zone', site.byZone)}</span>}
        </span>
        {mayPlace && (
          <button className={word} onClick={() => setAsks(asks === 'place' ? undefined : 'place')}>
            {t('onsite.where')}
          </button>
        )}
      </div>
      {asks === 'place' && <Place site={site} onKeep={(latitudeDeg, longitudeDeg) => place.mutate({ latitudeDeg, longitudeDeg })} />}
      {site.presences.map((line) => {
        const stands = standingOf(line.stay, Date.now());
        return (
          <div key={line.id} role="group" aria-label={t(`presence.${line.id}`)}>
            <div className="flex flex-wrap items-center gap-x-3">
              <Sign sign={`presence.${line.id}`} />
              <span className="min-w-0 flex-1">
                {t(`presence.${line.id}`)}:{' '}
                <b className={stands === 'here' ? '' : 'font-normal text-ink-2'}>
                  {t(
                    `onsite.${stands}`,
                    line.stay ? dayAndClock(stands === 'gone' ? line.stay.until! : line.stay.from, zone) : '',
                    line.stay?.until ? t('wait.to', dayAndClock(line.stay.until, zone)) : '',
                  ).trim()}
                </b>
              </span>
              {maySay && (
                <span className="flex gap-3">
                  {stands === 'here' || stands === 'coming' ? (
                    <button className={word} disabled={say.isPending} onClick={() => say.mutate({ presence: line.id })}>
                      {t('onsite.not-here')}
                    </button>
                  ) : (
                    <button
                      className={word}
                      disabled={say.isPending}
                      onClick={() => say.mutate({ presence: line.id, from: new Date().toISOString() })}
                    >
                      {t('onsite.is-here')}
                    </button>
                  )}
                  <button className={word} onClick={() => setAsks(asks === line.id ? undefined : line.id)}>
                    {t('onsite.when')}
                  </button>
                </span>
              )}
            </div>
            {asks === line.id && <When onKeep={(fromWall, untilWall) => say.mutate({ presence: line.id, fromWall, untilWall })} />}
          </div>
        );
      })}
      <Trouble text={failed ? (failed instanceof ProblemError ? failed.problem.detail : t('ui.failed')) : null} className="mb-2" />
      <Load jobId={jobId} areas={areas} at={at} />
    </Sheet>
  );
}

/** From when, and until when, by the clock on the site's wall. */
function When({ onKeep }: { onKeep: (from: string, until?: string) => void }) {
  const [from, setFrom] = useState('');
  const [until, setUntil] = useState('');
  return (
    <div className="flex flex-wrap items-end gap-2 pb-2">
      <label className="block">
        <span className="block text-tick text-ink-2">{t('onsite.from')}</span>
        <input type="datetime-local" className="field !w-52" value={from} onChange={(e) => setFrom(e.target.value)} />
      </label>
      <label className="block">
        <span className="block text-tick text-ink-2">{t('onsite.until')}</span>
        <input type="datetime-local" className="field !w-52" value={until} onChange={(e) => setUntil(e.target.value)} />
      </label>
      <button className="plain" disabled={!from} onClick={() => onKeep(from, until || undefined)}>
        {t('button.save')}
      </button>
    </div>
  );
}

/** Degrees as they are typed, with a comma or a point; null where it is no number. */
export const degreesOf = (text: string) => {
  const typed = text.trim().replace(',', '.');
  return /^-?\d{1,3}(\.\d{1,8})?$/.test(typed) ? Number(typed) : null;
};

/** Where the site is: for the hour of dusk. */
function Place({ site, onKeep }: { site: SiteAnswer; onKeep: (latitude: number | null, longitude: number | null) => void }) {
  const [latitude, setLatitude] = useState(site.latitudeDeg === null ? '' : String(site.latitudeDeg));
  const [longitude, setLongitude] = useState(site.longitudeDeg === null ? '' : String(site.longitudeDeg));
  const [lat, long] = [degreesOf(latitude), degreesOf(longitude)];
  const isEmpty = !latitude.trim() && !longitude.trim();
  return (
    <div className="flex flex-wrap items-end gap-2 pb-2">
      <label className="block">
        <span className="block text-tick text-ink-2">{t('onsite.latitude')}</span>
        <input
          className="field font-read !w-28"
          inputMode="decimal"
          maxLength={14}
          value={latitude}
          onChange={(e) => setLatitude(e.target.value)}
        />
      </label>
      <label className="block">
        <span className="block text-tick text-ink-2">{t('onsite.longitude')}</span>
        <input
          className="field font-read !w-28"
          inputMode="decimal"
          maxLength={14}
          value={longitude}
          onChange={(e) => setLongitude(e.target.value)}
        />
      </label>
      <button
        className="plain"
        disabled={!isEmpty && (lat === null || long === null)}
        onClick={() => onKeep(isEmpty ? null : lat, isEmpty ? null : long)}
      >
        {t('button.save')}
      </button>
    </div>
  );
}
