import { Link } from '@tanstack/react-router';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { t } from '../../texts';

/** The order in which the site is switched on, what to wait for, and how each device came up. */
export function StartUp({ jobId }: { jobId: string }) {
  const start = useQuery({
    queryKey: ['power', jobId, 'start'],
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/power/start', { params: { path: { jobId } } })),
  });
  const [open, setOpen] = useState<number>();
  if (!start.data || start.data.stages.every((s) => s.devices.length === 0)) return null;
  return (
    <section className="mt-4 border-t border-ink py-3" aria-labelledby="start-up">
      <h2 id="start-up" className="text-lead font-bold">
        {t('start.title')}
      </h2>
      <p className="text-label text-ink-2">{t(start.data.switchFirst ? 'start.switch-first' : 'start.recorder-first')}</p>
      <p className="text-label text-noted">{t('start.caution')}</p>
      <ol className="mt-2">
        {start.data.stages.map((stage, i) => {
          const timed = stage.devices.filter((d) => d.timing !== 'notTimed');
          const shown = open === i ? stage.devices : stage.devices.slice(0, 10);
          return (
            <li
              key={i}
              className="grid grid-cols-[28px_150px_minmax(0,1fr)] gap-x-3 border-b border-dotted border-hairline py-2 max-sm:grid-cols-[28px_minmax(0,1fr)]"
            >
              <span className="font-read font-bold">{i + 1}</span>
              <span className="font-bold">{t(`start.stage.${stage.kind}`, stage.cabinet ?? '')}</span>
              <span className="text-label max-sm:col-start-2">
                <span className="block text-ink-2">
                  {stage.waitMostSeconds === null ? t('start.no-wait') : t('start.wait', stage.waitLeastSeconds!, stage.waitMostSeconds)}
                  {timed.length > 0 && ` ${t('start.timed', timed.length, stage.devices.length)}.`}
                </span>
                <span className="flex flex-wrap items-baseline gap-x-4">
                  {shown.map((d) => (
                    <Link key={d.id} to="/card/$deviceId" params={{ deviceId: d.id }} className="inline-flex min-h-9 items-center gap-1.5">
                      <span className="font-read font-bold underline">{d.label}</span>
                      {d.timing !== 'notTimed' && (
                        <span
                          className={
                            d.timing === 'tooLate'
                              ? 'font-bold text-refused'
                              : d.timing === 'tooEarly'
                                ? 'font-bold text-noted'
                                : 'text-ink-2'
                          }
                        >
                          {t('start.seconds', d.seconds!)}, {t(`start.timing.${d.timing}`)}
                        </span>
                      )}
                    </Link>
                  ))}
                  {stage.devices.length > 10 && (
                    <button className="min-h-9 font-semibold underline" onClick={() => setOpen(open === i ? undefined : i)}>
                      {open === i ? t('power.fold') : t('start.more', stage.devices.length - 10)}
                    </button>
                  )}
                </span>
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
