import { useKeptFresh } from '../../session/useAlong';
import './waitSigns';
import { useWaitsEnd } from './waits';

/** Keeps a job that was taken along fresh, and brings back what waited, on whichever page one is; draws nothing, and is fetched after what is drawn. */
export function KeptFresh({ jobId }: { jobId: string }) {
  useKeptFresh(jobId);
  useWaitsEnd(jobId);
  return null;
}
