import { useKeptFresh } from '../../session/useAlong';

/** Keeps a job that was taken along fresh, on whichever page one is; draws nothing, and is fetched after what is drawn. */
export function KeptFresh({ jobId }: { jobId: string }) {
  useKeptFresh(jobId);
  return null;
}
