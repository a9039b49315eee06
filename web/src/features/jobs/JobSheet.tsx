import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { useJobs } from '../../api/queries';
import { useMay } from '../../session/access';
import { setCurrentJob } from '../../session/job';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import '../access/accessTexts';
import { JobChange, JobForm } from './JobForm';

/** All jobs on record here, newest first: one press opens one. */
export function JobSheet({ onClose }: { onClose: () => void }) {
  const jobs = useJobs();
  const { job } = useJob();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const [changing, setChanging] = useState(false);
  const mayPlan = useMay('plan');
  const mayAdmit = useMay('admit');
  const made = () => {
    onClose();
    void navigate({ to: '/' });
  };
  if (making)
    return (
      <Sheet title={t('jobs.new')} hint={t('first.hint')} onClose={onClose}>
        <JobForm onMade={made} />
      </Sheet>
    );
  const here = jobs.data?.find((j) => j.id === job?.id);
  if (changing && here)
    return (
      <Sheet title={t('jobs.change')} onClose={onClose}>
        <JobChange job={here} onDone={onClose} />
      </Sheet>
    );
  return (
    <Sheet title={t('jobs.choose')} hint={t('jobs.choose-hint')} onClose={onClose}>
      <ul>
        {[...(jobs.data ?? [])].reverse().map((j) => (
          <li key={j.id}>
            <button
              className={`flex min-h-14 w-full items-center justify-between gap-4 border-b border-hairline px-2 text-left ${j.id === job?.id ? 'bg-paper-hi font-bold' : ''}`}
              aria-current={j.id === job?.id || undefined}
              onClick={() => {
                setCurrentJob(j.id);
                onClose();
                // What was open is of another job.
                void navigate({ to: '/' });
              }}
            >
              <span className="min-w-0">
                <span className="block truncate">{j.name}</span>
                <span className="block text-label font-normal text-ink-2">
                  {[j.timeZone, j.simulated && t('jobs.simulated'), j.setAside && t('jobs.set-aside')].filter(Boolean).join(', ')}
                </span>
              </span>
              {j.id === job?.id && <span className="text-label font-semibold">{t('jobs.here')}</span>}
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        {mayPlan && (
          <button className="plain" onClick={() => setMaking(true)}>
            {t('jobs.new')}
          </button>
        )}
        {mayPlan && here && (
          <button className="min-h-11 font-semibold underline" onClick={() => setChanging(true)}>
            {t('jobs.change')}
          </button>
        )}
        {mayAdmit && (
          <Link to="/access" className="flex min-h-11 items-center font-semibold underline" onClick={onClose}>
            {t('access.title')}
          </Link>
        )}
      </div>
    </Sheet>
  );
}
