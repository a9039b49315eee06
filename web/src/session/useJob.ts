import { useEffect } from 'react';
import { useJobs, useWalk } from '../api/queries';
import { setCurrentJob, useCurrentJob } from './job';

/** The job at hand: the one that the address names, else the newest. */
export function useJob() {
  const jobs = useJobs();
  const current = useCurrentJob();
  const named = jobs.data?.find((j) => j.id === current);
  const job = named ?? jobs.data?.at(-1);
  useEffect(() => {
    // Where none was named, from now on this is.
    if (!current && job) setCurrentJob(job.id);
  }, [current, job]);
  const walk = useWalk(job?.id);
  return { job, jobs, walk, isUnknown: !!current && !!jobs.data && jobs.data.length > 0 && !named };
}
