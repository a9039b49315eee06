import { useSyncExternalStore } from 'react';

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
let current: Identity = read();
const listeners = new Set<() => void>();

function read(): Identity {
  try {
    return { night: false, leftHand: false, ...JSON.parse(localStorage.getItem(KEY) ?? '{}') };
  } catch {
    return { night: false, leftHand: false };
  }
}

export const identity = () => current;

export function setIdentity(change: Partial<Identity>) {
  current = { ...current, ...change };
  try {
    localStorage.setItem(KEY, JSON.stringify(current));
  } catch {
    // No room: it holds until this page is closed.
  }
  applyTheme();
  listeners.forEach((listener) => listener());
}

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
