import { useLiveQuery } from './useLiveQuery';
import { v7 } from 'uuid';
import { asProblem, clockOffsetMs } from '../api/client';
import type { CardAnswer } from '../api/types';
import { identity } from '../session/identity';
import { db, type OutboxItem } from './db';

type Listener = (deviceId: string, answer: CardAnswer) => void;
let listener: Listener = () => {};
let sending = false;
let retry: ReturnType<typeof setTimeout> | undefined;
let wait = 1000;

/** Hears each judged Card that a sent entry is answered with. */
export const onAnswer = (l: Listener) => {
  listener = l;
};

/** Keeps an entry and starts sending. Resolves when it is safe on this device, not when it is sent. */
export async function keep(deviceId: string, path: string, body: Record<string, unknown>, row?: string): Promise<string> {
  const id = v7();
  await db.outbox.add({
    id,
    deviceId,
    path,
    row,
    keptAt: Date.now(),
    body: { ...body, id, by: identity().personId, takenAt: new Date().toISOString(), clockOffsetMs: clockOffsetMs() },
  });
  void send();
  return id;
}

/** Sends in the order of pressing. No network and a busy record are waited for; a refusal is set aside with its sentence. */
export async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  clearTimeout(retry);
  try {
    for (;;) {
      const next = (await db.outbox.orderBy('seq').toArray()).find((item) => !item.refused);
      if (!next) {
        wait = 1000;
        return;
      }
      const sent = await sendOne(next);
      if (!sent) {
        retry = setTimeout(() => void send(), wait);
        wait = Math.min(wait * 2, 15000);
        return;
      }
      wait = 1000;
    }
  } finally {
    sending = false;
  }
}

async function sendOne(item: OutboxItem): Promise<boolean> {
  let response: Response;
  try {
    response = await fetch(`/api/cards/${item.deviceId}${item.path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(item.body),
      signal: AbortSignal.timeout(10000),
    });
  } catch {
    return false;
  }
  if (response.ok) {
    const answer = (await response.json()) as CardAnswer;
    listener(item.deviceId, answer);
    await db.outbox.delete(item.seq!);
    return true;
  }
  const refused = asProblem(await response.json().catch(() => null), response.status);
  if (response.status >= 500 || response.status === 408 || response.status === 429) {
    // What the record fails at again and again must not hold up what was pressed after it.
    const tries = (item.tries ?? 0) + 1;
    if (refused.code !== 'problem.unexpected' || tries < 4) {
      await db.outbox.update(item.seq!, { tries });
      return false;
    }
  }
  await db.outbox.update(item.seq!, { refused });
  return true;
}

export const discard = (item: OutboxItem) => db.outbox.delete(item.seq!);

/** What is not sent, in order. */
export const useOutbox = (): OutboxItem[] => useLiveQuery(() => db.outbox.orderBy('seq').toArray(), []) ?? [];

/** A closing page, a network that returns and a page that comes to the front all try again. */
export function startOutbox() {
  window.addEventListener('online', () => {
    wait = 1000;
    void send();
  });
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') void send();
  });
  void send();
}
