import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { BYTES_PER_CARD, room } from '../../api/along';
import { answered, api } from '../../api/client';
import { useAlong } from '../../session/useAlong';
import { t } from '../../texts';
import { clock, megabytes } from '../../ui/format';
import '../access/accessTexts';
import { Trouble } from '../../ui/Trouble';

/** The job on this device, for a day without a network: taken along by one press, kept fresh while there is one. */
export function Along({ jobId, zone, areas }: { jobId: string; zone: string; areas: { name: string; cards: number }[] }) {
  const [area, setArea] = useState('');
  const [pictures, setPictures] = useState(false);
  const all = areas.reduce((sum, a) => sum + a.cards, 0);
  const cards = areas.find((a) => a.name === area)?.cards ?? all;
  const { held, work, trouble, take, away } = useAlong(jobId, cards);
  const shown = useQuery({
    queryKey: ['pictures-of', jobId, area],
    enabled: !held && !work,
    queryFn: () =>
      answered(api.GET('/api/jobs/{jobId}/pictures', { params: { path: { jobId }, query: { lines: false, ...(area ? { area } : {}) } } })),
  }).data;
  const space = useQuery({ queryKey: ['room', jobId, held?.at], queryFn: async () => (await room()) ?? null }).data;
  const need = cards * BYTES_PER_CARD + (pictures ? (shown?.bytes ?? 0) : 0);
  const word = 'min-h-11 text-label font-semibold underline';
  return (
    <div className="border-t border-hairline px-5 py-1 text-label" data-screen-only>
      {work ? (
        <p className="flex items-center gap-4" role="status">
          <span>{t('along.taking', work.done, work.of)}</span>
          <button className={word} onClick={() => work.stop.abort()}>
            {t('ui.cancel')}
          </button>
        </p>
      ) : held ? (
        <p className="flex flex-wrap items-center gap-x-4">
          <span>
            {t('along.held', held.cards, megabytes(held.bytes), clock(held.at, zone))}
            {held.area && ` ${t('along.only', held.area)}`}
            {held.pictures !== undefined && ` ${t('along.pictures-held', held.pictures)}`}
          </span>
          <button className={word} onClick={() => take()}>
            {t('along.again')}
          </button>
          <button className={word} onClick={away}>
            {t('along.away')}
          </button>
        </p>
      ) : (
        <div className="flex flex-wrap items-center gap-x-4">
          <button className={word} onClick={() => take({ area: area || undefined, pictures })}>
            {t('along.take', cards, megabytes(need))}
          </button>
          {areas.length > 1 && (
            <label className="flex min-h-11 items-center gap-2">
              <span className="sr-only">{t('along.area')}</span>
              <select className="min-h-11 max-w-48 bg-transparent underline" value={area} onChange={(e) => setArea(e.target.value)}>
                <option value="">{t('along.all')}</option>
                {areas.map((a) => (
                  <option key={a.name} value={a.name}>
                    {a.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          {!!shown?.count && (
            <label className="flex min-h-11 items-center gap-2">
              <input type="checkbox" className="size-5 accent-ink" checked={pictures} onChange={(e) => setPictures(e.target.checked)} />
              {t('along.pictures', shown.count, megabytes(shown.bytes))}
            </label>
          )}
        </div>
      )}
      {!held && typeof space === 'number' && space < need * 2 && (
        <p className="font-semibold text-noted">{t('along.tight', megabytes(space))}</p>
      )}
      <Trouble text={trouble} className="" />
    </div>
  );
}
