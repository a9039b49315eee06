import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { answered, api } from '../../api/client';
import { say, t } from '../../texts';
import { stateColour } from '../../ui/Marks';

/** The event link of each plate camera: what it is for, by which identifier both sides know it, and which side lacks what. */
export function EventLinks({ jobId }: { jobId: string }) {
  const links = useQuery({
    queryKey: ['recorders', jobId, 'links'],
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/recorders/links', { params: { path: { jobId } } })),
  });
  if (links.isError) return <p className="mt-4 text-label text-refused">{t('rec.links-failed')}</p>;
  if (!links.data || links.data.links.length === 0) return null;
  return (
    <section className="mt-4 border-t border-hairline pt-2" aria-labelledby="event-links">
      <h2 id="event-links" className="font-bold">
        {t('rec.links')}
      </h2>
      {links.data.length === null ? (
        <p className="font-semibold text-refused">{t('link.rule')}</p>
      ) : (
        <p className="text-label text-ink-2">{t('rec.links-hint', links.data.length)}</p>
      )}
      <ul>
        {links.data.links.map((line) => (
          <li
            key={line.deviceId}
            className="grid grid-cols-[9rem_1fr] gap-x-4 border-b border-dotted border-hairline py-1.5 max-sm:grid-cols-1"
          >
            <span>
              <Link
                to="/card/$deviceId"
                params={{ deviceId: line.deviceId }}
                search={{ row: line.rowId }}
                className="font-read inline-flex min-h-6 items-center font-bold underline underline-offset-4 max-sm:min-h-11"
              >
                {line.label}
              </Link>{' '}
              <span className="text-label text-ink-2">{line.recorder}</span>
            </span>
            <span className="min-w-0">
              <span className={`font-semibold ${line.state ? stateColour[line.state] : 'text-open'}`}>
                {line.state ? t(`state.${line.state}`) : t('rec.links-unread')}
              </span>
              {line.role && (
                <span className="font-read ml-3 text-label">
                  {[
                    t(`field.plates.link.role.${line.role}`),
                    line.idAtCamera || t('rec.links-none'),
                    line.idAtRecorder || t('rec.links-none'),
                  ].join(' / ')}
                </span>
              )}
              {line.because.length > 0 && <span className="block text-label">{line.because.map(say).join(' ')}</span>}
              {line.proposed && (
                <span className="block text-label">
                  {t('rec.links-proposed')} <b className="font-read">{line.proposed}</b>
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
