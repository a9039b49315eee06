import { useEffect, useState, useSyncExternalStore } from 'react';

/** How long a press can be taken back by one press, milliseconds. */
export const UNDO_MS = 60_000;

/** What was just saved on a Card: the entry, its row, and when. */
export interface Lately {
  deviceId: string;
  rowId: string;
  readingId: string;
  at: number;
}

let last: Lately | null = null;
const listeners = new Set<() => void>();

const tell = (next: Lately | null) => {
  last = next;
  listeners.forEach((l) => l());
};

/** A reading was kept. */
export const savedNow = (deviceId: string, rowId: string, readingId: string) => tell({ deviceId, rowId, readingId, at: Date.now() });

/** It was taken back, or is taken back no longer. */
export const forgotten = () => tell(null);

/** Whether something can still be taken back. */
export const isLate = (saved: Lately | null, now: number) => !saved || now - saved.at >= UNDO_MS;

/** What was saved on a Card less than a minute ago; null when the minute is over. */
export function useLately(deviceId: string): Lately | null {
  const saved = useSyncExternalStore(
    (listen) => (listeners.add(listen), () => void listeners.delete(listen)),
    () => last,
  );
  const [, tick] = useState(0);
  useEffect(() => {
    if (!saved) return;
    const timer = setTimeout(() => tick((n) => n + 1), Math.max(0, saved.at + UNDO_MS - Date.now()) + 20);
    return () => clearTimeout(timer);
  }, [saved]);
  return saved && saved.deviceId === deviceId && !isLate(saved, Date.now()) ? saved : null;
}
