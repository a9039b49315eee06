import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { useMay } from '../../session/access';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Waiting } from '../walk/WalkPage';
import { School } from './School';
import { CatalogueEditor } from './CatalogueEditor';

import '../cards/cardTexts';
import '../pageTexts';
import './schoolTexts';

export default function PracticePage() {
  const { job, jobs } = useJob();
  const practice = useQuery({
    queryKey: ['practice', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/practice', { params: { path: { jobId: job!.id } } })),
  });
  const may = useMay('practise');
  const own = useQuery({ queryKey: ['own'], queryFn: () => answered(api.GET('/api/catalogue/own')) });
  if (!job || !practice.data || !own.data)
    return <Waiting error={jobs.error ?? practice.error ?? own.error} again={() => (void practice.refetch(), void own.refetch())} />;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('practice.title')}</h1>
      {!may && <p className="mt-2 border-l-4 border-hairline pl-3 text-label text-ink-2">{t('access.reads-here')}</p>}
      <fieldset
        disabled={!may}
        className="mt-4 grid min-w-0 grid-cols-1 gap-x-12 gap-y-8 min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,1.9fr)]"
      >
        <School
          key={JSON.stringify(practice.data.settings)}
          jobId={job.id}
          zone={job.timeZone}
          answer={practice.data}
          kinds={own.data.kinds.map((k) => k.id)}
        />
        <CatalogueEditor key={own.data.own.edition ?? 0} jobId={job.id} zone={job.timeZone} answer={own.data} />
      </fieldset>
    </main>
  );
}
