import { useSyncExternalStore } from 'react';

/**
 * The job that this page is in. Every address carries it (`/job/ID/...`), so that a link says what it is of; without one it is the job that
 * was used here last, else the newest.
 */
const KEY = 'walkdown.job';
const PREFIX = /^\/job\/([0-9a-fA-F-]{36})(?=\/|$)/;
const listeners = new Set<() => void>();
let current = read();

function read(): string | undefined {
  try {
    return localStorage.getItem(KEY) ?? undefined;
  } catch {
    return undefined;
  }
}

export const currentJob = () => current;

export function setCurrentJob(id: string | undefined) {
  if (id === current) return;
  current = id;
  try {
    if (id) localStorage.setItem(KEY, id);
    else localStorage.removeItem(KEY);
  } catch {
    // No room: it holds until this page is closed.
  }
  listeners.forEach((listener) => listener());
}

export const onJobChange = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useCurrentJob = () => useSyncExternalStore(onJobChange, currentJob);

/** The address within the job; the job that it names is the one at hand from now on. */
export function withoutJob(url: URL): URL {
  const named = PREFIX.exec(url.pathname);
  if (!named) return url;
  const id = named[1].toLowerCase();
  if (id !== current) queueMicrotask(() => setCurrentJob(id));
  url.pathname = url.pathname.slice(named[0].length) || '/';
  return url;
}

/** The address as it is shown and shared: with the job at hand. */
export function withJob(url: URL): URL {
  if (current && !PREFIX.test(url.pathname)) url.pathname = `/job/${current}${url.pathname === '/' ? '' : url.pathname}`;
  return url;
}
