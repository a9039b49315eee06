/** What this device keeps of a window that was opened: when, and how often. */
export interface Opened {
  since: number;
  tries: number;
}

/** Tries of another visit are none of this one. */
const VISIT_MS = 3_600_000;

/** How the window stands: seconds that are left, whether it closed, and how often it was opened. */
export function standing(opened: Opened | null, seconds: number, now: number) {
  // A clock that was set back does not keep it open for ever.
  if (!opened || now - opened.since > VISIT_MS || opened.since > now + 1000) return { left: 0, tries: 0, closed: false };
  const left = Math.max(0, Math.ceil(seconds - (now - opened.since) / 1000));
  return { left, tries: opened.tries, closed: left === 0 };
}

/** The window is opened, for the first time or once more. */
export const opening = (opened: Opened | null, seconds: number, now: number): Opened => ({
  since: now,
  tries: standing(opened, seconds, now).tries + 1,
});

/** As it was kept; null where nothing can be read of it. */
export function readOpened(text: string | null): Opened | null {
  try {
    const kept = JSON.parse(text ?? 'null') as Partial<Opened> | null;
    return kept && Number.isFinite(kept.since) && Number.isInteger(kept.tries) && kept.tries! > 0 ? (kept as Opened) : null;
  } catch {
    return null;
  }
}
