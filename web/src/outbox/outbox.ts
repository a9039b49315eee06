import { useSyncExternalStore } from 'react';
import { v7 } from 'uuid';
import { asProblem, tellSignedOut } from '../api/client';
import { evict } from '../api/cache';
import { clockOffsetMs } from '../api/clock';
import type { PictureLine, PictureMoment, SavedAnswer } from '../api/types';
import { identity } from '../session/identity';
import type { OutboxItem } from './items';
import { store } from './store';
import { nextToSend, sendOne, waitAfter } from './line';
import { useLiveQuery } from './useLiveQuery';

type Listener = (deviceId: string, answer: SavedAnswer) => unknown;
let listener: Listener = () => {};
let sending = false;
/** Something was kept, or a network came back, while it was sending: it looks once more before it rests. */
let again = false;
let retry: ReturnType<typeof setTimeout> | undefined;
let failures = 0;
/** More tries than this of one entry let the others go before it. */
const PATIENCE = 12;

/** Hears what each sent entry changed of its Card; where that has to be asked for, it says when it is there. */
export const onAnswer = (l: Listener) => {
  listener = l;
};

let pictureListener: (deviceId: string, pictures: PictureLine[]) => void = () => {};

/** Hears the pictures of a Card after one of them was sent. */
export const onPictures = (l: typeof pictureListener) => {
  pictureListener = l;
};

let full = false;
const fullListeners = new Set<() => void>();
const setFull = (value: boolean) => {
  if (full === value) return;
  full = value;
  fullListeners.forEach((l) => l());
};

/** True where this device has no room left: what is pressed cannot be kept, and that is said. */
export const useStorageFull = () =>
  useSyncExternalStore(
    (l) => {
      fullListeners.add(l);
      return () => fullListeners.delete(l);
    },
    () => full,
  );

/**
 * Keeps an entry and starts sending. Resolves when it is safe on this device, not when it is sent; null where there is no room for it,
 * which is told.
 */
export async function keep(
  deviceId: string,
  path: string,
  body: Record<string, unknown>,
  row?: string,
  file?: Blob,
): Promise<string | null> {
  const id = v7();
  const item: OutboxItem = {
    id,
    deviceId,
    path,
    row,
    file,
    keptAt: Date.now(),
    body: { ...body, id, by: identity().personId, takenAt: new Date().toISOString(), clockOffsetMs: clockOffsetMs() },
  };
  try {
    await (await store()).outbox.add(item);
  } catch {
    // Answers that are only kept to be shown again give way to what somebody pressed.
    await evict(0).catch(() => {});
    try {
      await (await store()).outbox.add(item);
    } catch {
      setFull(true);
      return null;
    }
  }
  setFull(false);
  void send();
  return id;
}

/** Keeps a picture of a place, in its turn among the entries: a reading that cites it comes after it. Null where there is no room. */
export const keepPicture = (
  deviceId: string,
  file: Blob,
  said: { caption?: string; moment?: PictureMoment; personal?: boolean } = {},
  row?: string,
): Promise<string | null> => keep(deviceId, '/pictures', { caption: '', moment: 'general', personal: false, ...said }, row, file);

/** What a page has to ask for is waited for, but never for long: the next entry is not held up by a slow Card. */
const SHOWN_MS = 3000;
const shown = (told: unknown): Promise<unknown> =>
  told instanceof Promise ? Promise.race([told, new Promise((done) => setTimeout(done, SHOWN_MS))]) : Promise.resolve();

/** Of several tabs one sends at a time; without locks the record's own memory of ids does. */
const alone = (work: () => Promise<void>): Promise<void> =>
  typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request('walkdown-outbox', work).then(() => {}) : work();

/** Sends in the order of pressing. No network and a busy record are waited for; a refusal is set aside with its sentence. Never throws. */
export async function send(): Promise<void> {
  if (sending) {
    again = true;
    return;
  }
  sending = true;
  clearTimeout(retry);
  let waits = false;
  try {
    do {
      again = false;
      await alone(async () => {
        waits = !(await sendAll());
      });
    } while (again && !waits);
  } catch {
    waits = true;
  } finally {
    sending = false;
  }
  if (!waits) failures = 0;
  else retry = setTimeout(() => void send(), waitAfter(++failures));
}

/** False where something has to wait. */
async function sendAll(): Promise<boolean> {
  const late: number[] = [];
  for (;;) {
    const next = nextToSend((await (await store()).outbox.orderBy('seq').toArray()).filter((item) => !late.includes(item.seq!)));
    if (!next) return late.length === 0;
    const outcome = await sendOne(next);
    if (outcome.kind === 'nobody') {
      // Nothing is lost by that, and nothing counts as a failure: it goes when somebody is signed in.
      tellSignedOut();
      return false;
    }
    if (outcome.kind === 'another') {
      late.push(next.seq!);
      continue;
    }
    if (outcome.kind === 'wait') {
      const tries = (next.tries ?? 0) + 1;
      await (await store()).outbox.update(next.seq, { tries });
      // What fails again and again while the record answers others must not hold them up; of its own Card nothing goes before it.
      if (tries < PATIENCE) return false;
      for (const item of await (await store()).outbox.where('deviceId').equals(next.deviceId).toArray()) late.push(item.seq!);
      continue;
    }
    if (outcome.kind === 'refused') await (await store()).outbox.update(next.seq, { refused: asProblem(outcome.body, outcome.status) });
    else {
      try {
        if (next.file) pictureListener(next.deviceId, outcome.answer as PictureLine[]);
        else await shown(listener(next.deviceId, outcome.answer as SavedAnswer));
      } catch {
        // It is kept; a page that cannot show it asks again.
      }
      // Not before its Card shows it: in between its row would ask for it again.
      await (await store()).outbox.delete(next.seq);
    }
  }
}

export const discard = async (item: OutboxItem) => {
  await (await store()).outbox.delete(item.seq);
  // What waited for it may go now.
  void send();
};

/** What is not sent, in order; undefined until it was read. */
export const useReadOutbox = (): OutboxItem[] | undefined => useLiveQuery((kept) => kept.outbox.orderBy('seq').toArray(), []);

/** What is not sent, in order. */
export const useOutbox = (): OutboxItem[] => useReadOutbox() ?? [];

/** A closing page, a network that returns and a page that comes to the front all try again. */
export function startOutbox() {
  const now = () => {
    failures = 0;
    void send();
  };
  window.addEventListener('online', now);
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') now();
  });
  void send();
}
