import { Link, useParams } from '@tanstack/react-router';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { useCard } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { PictureLine, PictureMoment } from '../../api/types';
import { discard, keepPicture, useOutbox } from '../../outbox/outbox';
import { isPicture } from '../../outbox/picture';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { dayAndClock } from '../../ui/format';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import '../pageTexts';
import './packTexts';
import { Trouble } from '../../ui/Trouble';

/** Pictures of a Card: taken or chosen, told what they show, erased lawfully. The first two go into the report. */
export default function PicturesPage() {
  const { deviceId } = useParams({ from: '/pictures/$deviceId' });
  const { job } = useJob();
  const waiting = useOutbox().filter((item) => item.deviceId === deviceId && item.file);
  const card = useCard(deviceId);
  const pictures = useQuery({
    queryKey: ['pictures', deviceId],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/pictures', { params: { path: { deviceId } } })),
  });
  const [caption, setCaption] = useState('');
  const [moment, setMoment] = useState<PictureMoment>('general');
  const [personal, setPersonal] = useState(false);
  const [erasing, setErasing] = useState<PictureLine>();
  const add = useMutation({
    // Kept on this device first, and sent in its turn: without a network it waits there.
    mutationFn: async (file: File) => {
      if (!(await isPicture(file))) throw new Error(t('picture.not-a-picture'));
      if (!(await keepPicture(deviceId, file, { caption, moment, personal }))) throw new Error(t('ui.not-kept'));
    },
    onSuccess: () => {
      setCaption('');
      setMoment('general');
      setPersonal(false);
    },
  });
  if (!job || !card.data || !pictures.data) return <Waiting error={card.error ?? pictures.error} again={() => void pictures.refetch()} />;
  const { place } = card.data;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="font-read text-code font-bold">{place.label}</h1>
        <span className="text-lead font-bold">{t('pictures.title')}</span>
        <Link to="/card/$deviceId" params={{ deviceId }} className="ml-auto flex min-h-11 items-center font-semibold underline">
          {t('pictures.to-card')}
        </Link>
      </div>
      <div className="mt-2 grid max-w-4xl grid-cols-[minmax(0,1fr)_auto] items-end gap-x-6 border-t border-ink pt-3 max-sm:grid-cols-1">
        <div>
          <Labelled label={t('pictures.caption')}>
            <input className="field" maxLength={200} value={caption} onChange={(e) => setCaption(e.target.value)} />
          </Labelled>
          <fieldset className="flex flex-wrap items-center gap-x-6">
            <legend className="sr-only">{t('pictures.moment')}</legend>
            {(['general', 'before', 'after'] as const).map((m) => (
              <label key={m} className="flex min-h-11 items-center gap-2">
                <input type="radio" name="moment" className="h-5 w-5 accent-ink" checked={moment === m} onChange={() => setMoment(m)} />
                {t(`picture.moment.${m}`)}
              </label>
            ))}
          </fieldset>
          <label className="flex min-h-11 items-center gap-3">
            <input type="checkbox" className="h-5 w-5 accent-ink" checked={personal} onChange={(e) => setPersonal(e.target.checked)} />
            {t('pictures.personal')}
          </label>
        </div>
        <label className={`forward inline-flex cursor-pointer items-center justify-center ${add.isPending ? 'opacity-40' : ''}`}>
          {t(add.isPending ? 'pictures.sending' : 'pictures.add')}
          <input
            type="file"
            accept="image/jpeg,image/png"
            capture="environment"
            className="sr-only"
            disabled={add.isPending}
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) add.mutate(file);
            }}
          />
        </label>
      </div>
      <p className="mt-1 text-label text-noted">{t('pictures.caution')}</p>
      <Trouble text={add.error ? add.error.message : undefined} className="mt-2" />
      {waiting.map((item) => (
        <p key={item.id} className="mt-2 flex flex-wrap items-center gap-x-4" role={item.refused ? 'alert' : undefined}>
          <span className={item.refused ? 'font-semibold text-refused' : 'text-ink-2'}>
            {item.refused ? item.refused.detail : t('pictures.waiting')}
          </span>
          {item.refused && (
            <button className="min-h-11 font-semibold underline" onClick={() => void discard(item)}>
              {t('button.discard')}
            </button>
          )}
        </p>
      ))}
      {pictures.data.length === 0 && <p className="py-6 text-ink-2">{t('pictures.none')}</p>}
      <ul className="mt-4 grid grid-cols-3 gap-6 max-[1023px]:grid-cols-2 max-sm:grid-cols-1">
        {pictures.data.map((p) => (
          <li key={p.id} className="min-w-0">
            {p.erased ? (
              <p className="flex aspect-[8/5] items-center border border-dashed border-ink-2 p-4 text-label">
                {t('pack.picture.erased', p.erased.by, dayAndClock(p.erased.at, job.timeZone), p.erased.reason)}
              </p>
            ) : (
              <img
                src={`/api/cards/${deviceId}/pictures/${p.id}.jpg`}
                alt={p.caption || t('pictures.unnamed')}
                loading="lazy"
                className="aspect-[8/5] w-full border border-hairline bg-paper-lo object-contain"
              />
            )}
            <p className="mt-1">
              {p.moment !== 'general' && <span className="text-ink-2">{t(`picture.moment.${p.moment}`)}: </span>}
              <b>{p.caption || t('pictures.unnamed')}</b>
              {p.inReport && <span className="ml-2 text-label text-ink-2">{t('pictures.in-report')}</span>}
            </p>
            <p className="text-label text-ink-2">
              {p.by}, {dayAndClock(p.takenAt, job.timeZone)}, <span className="font-read">{p.hash.slice(0, 8)}</span>
              {p.personal && <span className="text-noted"> {t('pictures.is-personal')}</span>}
            </p>
            {!p.erased && (
              <button className="min-h-11 text-label font-semibold underline" onClick={() => setErasing(p)}>
                {t('pictures.erase')}
              </button>
            )}
          </li>
        ))}
      </ul>
      {erasing && <EraseSheet picture={erasing} onClose={() => setErasing(undefined)} />}
    </main>
  );
}

function EraseSheet({ picture, onClose }: { picture: PictureLine; onClose: () => void }) {
  const client = useQueryClient();
  const [by, setBy] = useState('');
  const [reason, setReason] = useState('');
  const erase = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/cards/{deviceId}/pictures/{pictureId}/erase', {
          params: { path: { deviceId: picture.deviceId, pictureId: picture.id } },
          body: { id: v7(), by, reason },
        }),
      ),
    onSuccess: (lines) => {
      client.setQueryData(['pictures', picture.deviceId], lines);
      onClose();
    },
    // It may be erased here and still lie in a pack: the sheet says so and stays, the page behind it shows what is.
    onError: () => void client.invalidateQueries({ queryKey: ['pictures', picture.deviceId] }),
  });
  return (
    <Sheet title={t('pictures.erase-title')} hint={t('pictures.erase-hint')} onClose={onClose}>
      <Labelled label={t('pictures.erase-by')}>
        <input className="field" autoFocus maxLength={120} value={by} onChange={(e) => setBy(e.target.value)} />
      </Labelled>
      <Labelled label={t('pictures.erase-reason')}>
        <input className="field" maxLength={400} value={reason} onChange={(e) => setReason(e.target.value)} />
      </Labelled>
      <Trouble text={erase.error ? troubleOf(erase.error) : undefined} className="mb-2" />
      <button
        className="forward disabled:opacity-40"
        disabled={!by.trim() || !reason.trim() || erase.isPending}
        onClick={() => erase.mutate()}
      >
        {t('pictures.erase-now')}
      </button>
    </Sheet>
  );
}
