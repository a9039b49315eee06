import { useSyncExternalStore } from 'react';
import { currentJob, onJobChange } from './job';

/** Who this browser belongs to, and how it is set: chosen once, kept here. */
export interface Identity {
  personId?: string;
  instrumentId?: string;
  night: boolean;
  leftHand: boolean;
  /** No single letter or digit acts: for whoever speaks to the machine, or whose hand trembles (WCAG 2.1.4). */
  lettersOff?: boolean;
}

const KEY = 'walkdown.identity';
/** Who and what with are of a job; the rest is of this browser. */
type OfJob = Pick<Identity, 'personId' | 'instrumentId'>;
interface Kept extends Identity {
  byJob?: Record<string, OfJob>;
}
let kept: Kept = read();
let current: Identity = inJob();
const listeners = new Set<() => void>();

/** As it is in the job at hand; in a job that was never entered here, nobody is chosen yet. */
function inJob(): Identity {
  const { byJob, personId, instrumentId, ...rest } = kept;
  const job = currentJob();
  // What was chosen before there was more than one job holds for the first that is entered.
  return { ...rest, ...(job && byJob ? byJob[job] : { personId, instrumentId }) };
}

function read(): Kept {
  try {
    return { night: false, leftHand: false, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>) };
  } catch {
    return { night: false, leftHand: false };
  }
}

export const identity = () => current;

export function setIdentity(change: Partial<Identity>) {
  const { personId, instrumentId, ...rest } = { ...current, ...change };
  const job = currentJob();
  kept = { ...kept, ...rest, ...(job ? { byJob: { ...kept.byJob, [job]: { personId, instrumentId } } } : { personId, instrumentId }) };
  current = inJob();
  try {
    localStorage.setItem(KEY, JSON.stringify(kept));
  } catch {
    // No room: it holds until this page is closed.
  }
  applyTheme();
  listeners.forEach((listener) => listener());
}

onJobChange(() => {
  current = inJob();
  listeners.forEach((listener) => listener());
});

export function applyTheme() {
  document.documentElement.dataset.theme = current.night ? 'night' : 'day';
}

export const useIdentity = (): Identity =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => current,
  );
