/** One look at the record's clock: sent, answered, both by this device's clock, and what the record's said between. */
export interface ClockLook {
  sent: number;
  heard: number;
  served: number;
}

/** Slower answers say nothing of a clock. */
const MOST_ROUND_TRIP = 1500;
/** Beneath this nobody can tell a clock that is off from a network that is slow one way. */
const LEAST_OFFSET = 250;

/**
 * What to add to this device's clock to get the record's: of several looks the one that took least, since its answer can be off by no
 * more than half of what it took.
 * Zero where no look says more; nothing is invented.
 */
export function offsetOf(looks: ClockLook[]): number | null {
  const usable = looks.filter((l) => l.heard >= l.sent && l.heard - l.sent <= MOST_ROUND_TRIP && Number.isFinite(l.served));
  if (usable.length === 0) return null;
  const best = usable.reduce((a, b) => (b.heard - b.sent < a.heard - a.sent ? b : a));
  const offset = best.served - (best.sent + best.heard) / 2;
  return Math.abs(offset) > Math.max(LEAST_OFFSET, (best.heard - best.sent) / 2) ? Math.round(offset) : 0;
}

let clockOffset = 0;
/** Milliseconds to add to this device's clock to get the record's, measured by looks of its own. */
export const clockOffsetMs = () => clockOffset;

async function look(): Promise<ClockLook | null> {
  const sent = Date.now();
  try {
    const response = await fetch('/api/time', { cache: 'no-store', signal: AbortSignal.timeout(2 * MOST_ROUND_TRIP) });
    const heard = Date.now();
    const { now } = (await response.json()) as { now: string };
    return { sent, heard, served: Date.parse(now) };
  } catch {
    return null;
  }
}

/** Five looks, one after the other; what was known stays where none is of use. */
export async function measureClock(): Promise<void> {
  const looks: ClockLook[] = [];
  for (let i = 0; i < 5; i++) {
    const one = await look();
    if (!one) break;
    looks.push(one);
  }
  clockOffset = offsetOf(looks) ?? clockOffset;
}

/** At the start, when the page comes to the front, when a network comes back, and every ten minutes. */
export function startClock() {
  const now = () => void measureClock();
  now();
  setInterval(now, 600_000);
  window.addEventListener('online', now);
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') now();
  });
}
