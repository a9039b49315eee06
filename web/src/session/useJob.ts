import { useJobs, useWalk } from '../api/queries';

/** The job at hand: the newest one. */
export function useJob() {
  const jobs = useJobs();
  const job = jobs.data?.at(-1);
  const walk = useWalk(job?.id);
  return { job, jobs, walk };
}
