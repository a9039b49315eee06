import { useQuery } from '@tanstack/react-query';
import { BYTES_PER_CARD, room } from '../../api/along';
import { useAlong } from '../../session/useAlong';
import { t } from '../../texts';
import { clock, megabytes } from '../../ui/format';

/** The job on this device, for a day without a network: taken along by one press, kept fresh while there is one. */
export function Along({ jobId, zone, cards }: { jobId: string; zone: string; cards: number }) {
  const { held, work, trouble, take, away } = useAlong(jobId, cards);
  const space = useQuery({ queryKey: ['room', jobId, held?.at], queryFn: async () => (await room()) ?? null }).data;
  const need = cards * BYTES_PER_CARD;
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
          <span>{t('along.held', held.cards, megabytes(held.bytes), clock(held.at, zone))}</span>
          <button className={word} onClick={take}>
            {t('along.again')}
          </button>
          <button className={word} onClick={away}>
            {t('along.away')}
          </button>
        </p>
      ) : (
        <button className={word} onClick={take}>
          {t('along.take', cards, megabytes(need))}
        </button>
      )}
      {!held && typeof space === 'number' && space < need * 2 && (
        <p className="font-semibold text-noted">{t('along.tight', megabytes(space))}</p>
      )}
      {trouble && (
        <p role="alert" className="font-semibold text-refused">
          {trouble}
        </p>
      )}
    </div>
  );
}
