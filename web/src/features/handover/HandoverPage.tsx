import { Link } from '@tanstack/react-router';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Waiting } from '../walk/WalkPage';
import { Standing } from './Standing';
import { Signing } from './Signing';
import { Revisions } from './Revisions';
import { Cover } from './Cover';
import { TakeAlong } from './TakeAlong';
import '../cards/cardTexts';
import '../pageTexts';
import './packTexts';

/** Where the handover stands: what would be signed, the signing itself, every sealed revision, and the job to take along. */
export default function HandoverPage() {
  const { job, walk } = useJob();
  const client = useQueryClient();
  const handover = useQuery({
    queryKey: ['handover', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/handover', { params: { path: { jobId: job!.id } } })),
  });
  if (!job || !walk.data || !handover.data) return <Waiting error={handover.error ?? walk.error} again={() => void handover.refetch()} />;
  const again = () => void client.invalidateQueries({ queryKey: ['handover', job.id] });
  const stops = walk.data.areas.flatMap((a) => a.stops);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-title font-bold">{t('handover.title')}</h1>
        <Link to="/verify" className="ml-auto min-h-11 font-semibold underline">
          {t('verify.title')}
        </Link>
      </div>
      <Standing answer={handover.data} />
      <div className="grid grid-cols-[minmax(0,1fr)_400px] gap-x-12 max-[1023px]:grid-cols-1">
        <div className="min-w-0">
          <Signing key={job.id} jobId={job.id} answer={handover.data} stops={stops} onSealed={again} />
          <Revisions jobId={job.id} revisions={handover.data.revisions} zone={job.timeZone} />
        </div>
        <div className="min-w-0">
          <Cover jobId={job.id} cover={handover.data.cover} onKept={(answer) => client.setQueryData(['handover', job.id], answer)} />
          <TakeAlong jobId={job.id} fingerprint={handover.data.keyFingerprint} />
        </div>
      </div>
    </main>
  );
}
