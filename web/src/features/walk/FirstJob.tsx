import { lazy, Suspense } from 'react';
import { useMay } from '../../session/access';
import { t } from '../../texts';
import '../access/accessTexts';
import { JobForm } from '../jobs/JobForm';

const Import = lazy(() => import('../jobs/ImportPage').then((m) => ({ default: m.Import })));

/** An empty installation: a job and who works on it, then its schedule as it comes. */
export function FirstJob({ jobId }: { jobId?: string }) {
  if (!useMay('plan'))
    return (
      <main className="mx-auto w-full max-w-2xl overflow-y-auto p-6">
        <h1 className="text-title font-bold">{t(jobId ? 'first.no-schedule' : 'first.no-job')}</h1>
        <p className="mt-1 text-ink-2">{t(jobId ? 'first.no-schedule-hint' : 'first.no-job-hint')}</p>
      </main>
    );
  if (jobId)
    return (
      <Suspense fallback={<p className="p-6 text-ink-2">{t('ui.loading')}</p>}>
        <Import jobId={jobId} />
      </Suspense>
    );
  return (
    <main className="mx-auto w-full max-w-2xl overflow-y-auto p-6">
      <h1 className="text-title font-bold">{t('first.title')}</h1>
      <p className="mb-5 mt-1 text-ink-2">{t('first.hint')}</p>
      <JobForm />
    </main>
  );
}
