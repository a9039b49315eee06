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

type Listener = (deviceId: string, answers: SavedAnswer[]) => unknown;
let listener: Listener = () => {};
let sending = false;
/** Something was kept, or a network came back, while it was sending: it looks once more before it rests. */
let again = false;
let retry: ReturnType<typeof setTimeout> | undefined;
let failures = 0;
/** More tries than this of one entry let the others go before it. */
const PATIENCE = 12;

/** Hears what entries that were sent changed of their Card, in their order; what has to be asked for is there when it says so. */
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

/** Something that somebody pressed or took. */
interface Entry {
  path: string;
  body: Record<string, unknown>;
  row?: string;
  file?: Blob;
}

/**
 * Keeps entries of one Card, all or none, and starts sending. Resolves when they are safe on this device, not when they are sent; null
 * where there is no room for them, which is told.
 */
export async function keepAll(deviceId: string, entries: Entry[]): Promise<string[] | null> {
  const said = { by: identity().personId, takenAt: new Date().toISOString(), clockOffsetMs: clockOffsetMs() };
  const items = entries.map(({ body, ...entry }): OutboxItem => {
    const id = v7();
    return { ...entry, id, deviceId, keptAt: Date.now(), body: { ...body, id, ...said } };
  });
  const add = async () => {
    const kept = await store();
    await kept.transaction('rw', kept.outbox, () => kept.outbox.bulkAdd(items));
  };
  try {
    // Answers that are only kept to be shown again give way to what somebody pressed.
    await add().catch(() =>
      evict(0)
        .catch(() => {})
        .then(add),
    );
  } catch {
    setFull(true);
    return null;
  }
  setFull(false);
  void send();
  return items.map(({ id }) => id);
}

/** Keeps one entry (see keepAll). */
export const keep = async (
  deviceId: string,
  path: string,
  body: Record<string, unknown>,
  row?: string,
  file?: Blob,
): Promise<string | null> => (await keepAll(deviceId, [{ path, body, row, file }]))?.[0] ?? null;

/** Keeps a picture of a place, in its turn among the entries: a reading that cites it comes after it. Null where there is no room. */
export const keepPicture = (
  deviceId: string,
  file: Blob,
  said: { caption?: string; moment?: PictureMoment; personal?: boolean } = {},
  row?: string,
): Promise<string | null> => keep(deviceId, '/pictures', { caption: '', moment: 'general', personal: false, ...said }, row, file);

/** A long line of entries is shown as often as this while it goes: not after each of them, or a day of one Card would take minutes. */
const TOGETHER_MS = 800;

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

/** Entries that the record has and no page shows yet. */
interface Sent {
  item: OutboxItem;
  answer: unknown;
}

/** Pages show what was sent, then it leaves: not before, or in between its row would ask for it again. */
async function leave(sent: Sent[]): Promise<void> {
  const cards = new Map<string, SavedAnswer[]>();
  const told: unknown[] = [];
  const tell = (work: () => unknown) => {
    try {
      told.push(work());
    } catch {
      // It is kept; a page that cannot show it asks again.
    }
  };
  for (const { item, answer } of sent)
    if (item.file) tell(() => pictureListener(item.deviceId, answer as PictureLine[]));
    else cards.set(item.deviceId, [...(cards.get(item.deviceId) ?? []), answer as SavedAnswer]);
  for (const [deviceId, answers] of cards) tell(() => listener(deviceId, answers));
  await shown(Promise.allSettled(told));
  await (await store()).outbox.bulkDelete(sent.map(({ item }) => item.seq!));
}

/** False where something has to wait. */
async function sendAll(): Promise<boolean> {
  const late = new Set<number>();
  let sent: Sent[] = [];
  let since = 0;
  const settle = async () => {
    const gone = sent;
    sent = [];
    if (gone.length > 0) await leave(gone);
  };
  try {
    for (;;) {
      const gone = new Set(sent.map(({ item }) => item.seq));
      const next = nextToSend((await (await store()).outbox.orderBy('seq').toArray()).filter((i) => !late.has(i.seq!) && !gone.has(i.seq)));
      if (!next && sent.length > 0) {
        // While it was shown something more may have been pressed.
        await settle();
        continue;
      }
      if (!next) return late.size === 0;
      const outcome = await sendOne(next);
      if (outcome.kind === 'nobody') {
        // Nothing is lost by that, and nothing counts as a failure: it goes when somebody is signed in.
        tellSignedOut();
        return false;
      }
      if (outcome.kind === 'another') {
        late.add(next.seq!);
        continue;
      }
      if (outcome.kind === 'wait') {
        const tries = (next.tries ?? 0) + 1;
        await (await store()).outbox.update(next.seq, { tries });
        // What fails again and again while the record answers others must not hold them up; of its own Card nothing goes before it.
        if (tries < PATIENCE) return false;
        for (const item of await (await store()).outbox.where('deviceId').equals(next.deviceId).toArray()) late.add(item.seq!);
        continue;
      }
      if (outcome.kind === 'refused') {
        await (await store()).outbox.update(next.seq, { refused: asProblem(outcome.body, outcome.status) });
        continue;
      }
      if (sent.length === 0) since = performance.now();
      sent.push({ item: next, answer: outcome.answer });
      if (performance.now() - since > TOGETHER_MS) await settle();
    }
  } finally {
    await settle();
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
