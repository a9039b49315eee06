import { useRegister } from '../../api/queries';
import { useJob } from '../../session/useJob';
import { Waiting } from '../walk/WalkPage';
import { Table } from './RegisterTable';
import '../cards/cardTexts';
import '../pageTexts';

export default function RegisterPage() {
  const { job, jobs } = useJob();
  const register = useRegister(job?.id);
  if (!job || !register.data)
    return <Waiting error={jobs.error ?? register.error} again={() => void (jobs.error ? jobs.refetch() : register.refetch())} />;
  return <Table jobId={job.id} register={register.data} />;
}
