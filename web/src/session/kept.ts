import { useCallback, useSyncExternalStore } from 'react';
import { currentJob } from './job';
import { readStored, writeStored } from './stored';

/**
 * What somebody typed, drew or placed and has not handed on yet. It is kept on this device, of the job at hand, until it is handed on or
 * put away by its owner: another page, a turned phone, an empty battery do not take it.
 */
const PREFIX = 'walkdown.kept.';
const listeners = new Map<string, Set<() => void>>();
const known = new Map<string, unknown>();

const keyOf = (name: string) => `${PREFIX}${currentJob() ?? ''}.${name}`;

/** What is kept under a name; undefined where nothing is, or what is there cannot be read. */
export function readKept<T>(name: string): T | undefined {
  const key = keyOf(name);
  if (known.has(key)) return known.get(key) as T | undefined;
  const value = readStored(key) as T | undefined;
  known.set(key, value);
  return value;
}

/** Keeps a value, or puts it away; where there is no room it holds until the page is closed. */
export function writeKept(name: string, value: unknown) {
  const key = keyOf(name);
  known.set(key, value);
  writeStored(key, value);
  listeners.get(key)?.forEach((listener) => listener());
}

/** Forgets what is known from the browser's own store: for tests, and where another page wrote it. */
export const forgetKept = () => known.clear();

/** Another page of this browser kept or put away something. */
if (typeof window !== 'undefined')
  window.addEventListener('storage', (event) => {
    if (!event.key?.startsWith(PREFIX)) return;
    known.delete(event.key);
    listeners.get(event.key)?.forEach((listener) => listener());
  });

/**
 * A piece of state that outlives its page.
 * @returns what is kept, else `initial`; how to change it (undefined puts it away); and whether anything is kept.
 */
export function useKept<T>(name: string, initial: T): [T, (next: T | undefined) => void, boolean] {
  const key = keyOf(name);
  const subscribe = useCallback(
    (listener: () => void) => {
      const of = listeners.get(key) ?? new Set();
      listeners.set(key, of.add(listener));
      return () => void of.delete(listener);
    },
    [key],
  );
  const kept = useSyncExternalStore(subscribe, () => readKept<T>(name));
  return [kept ?? initial, useCallback((next: T | undefined) => writeKept(name, next), [name]), kept !== undefined];
}
