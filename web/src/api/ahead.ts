import { answered, api } from './client';
import { definitionsOf, whole } from './definitions';
import type { CardAnswer } from './types';

/**
 * A phone that is opened on a Card has the Card first: it is asked for while the page's own code is still fetched, what its
 * checks say beside it, and the Walk, which of a large site is most of the work, once the Card is drawn.
 */
const ahead = new Map<string, Promise<CardAnswer>>();

/** The walk waits no longer than that for a Card that does not come. */
const PATIENCE_MS = 3000;

const ask = async (deviceId: string): Promise<CardAnswer> => {
  // Beside the Card, not after it; what goes wrong there is told where they are needed.
  definitionsOf().catch(() => {});
  return whole(await answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId } } })));
};

/** A Card, from the record or from what is kept here: what was asked for ahead is answered once. */
export function cardOf(deviceId: string): Promise<CardAnswer> {
  const asked = ahead.get(deviceId);
  ahead.delete(deviceId);
  return asked ?? ask(deviceId);
}

let release = () => {};
let held: Promise<void> | undefined;

/** Resolves when what the page is opened for is drawn; at once where it is no Card. */
export const firstDrawn = (): Promise<void> => held ?? Promise.resolve();

/** What the page was opened for is drawn. */
export const drawn = () => release();

/** Begins with what an address is opened for. */
export function beginAt(pathname: string) {
  const card = /^\/card\/([^/]+)/.exec(pathname)?.[1];
  if (!card) return;
  const deviceId = decodeURIComponent(card);
  const asked = ask(deviceId);
  asked.catch(() => {});
  ahead.set(deviceId, asked);
  held = new Promise((done) => {
    release = done;
    setTimeout(done, PATIENCE_MS);
  });
}
