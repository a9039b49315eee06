import type { TakenAnswer } from '../outbox/items';
import { store } from '../outbox/store';
import { cardAddress } from './cache';
import { answered, api } from './client';
import { walkChanges } from './queries';
import { pack, PICTURES, takenAnswer } from './taken';
import type { WalkChanges } from './types';

/** What a device holds of a job for a day without a network. */
export interface Along {
  cards: number;
  bytes: number;
  /** Milliseconds since 1970, by this device. */
  at: number;
  /** The newest entry that is in it. */
  sequence: number;
  area?: string;
  /** Pictures that are held too; undefined where they were left. */
  pictures?: number;
}

/** What of a job is taken along. */
export interface Wanted {
  area?: string;
  pictures?: boolean;
}

/** Cards asked for at once; where more changed than that, all of them are. */
const PAGE = 100;
/** About what a Card takes here, gzipped; said before there is any. */
export const BYTES_PER_CARD = 4_000;

const picturesOf = (deviceId: string) => `${cardAddress(deviceId)}/pictures`;
const pictureAddress = (deviceId: string, id: string) => `${picturesOf(deviceId)}/${id}.jpg`;

const noteOf = (jobId: string) => `along:${jobId}`;

/** What is held of a job; undefined where it was not taken along. */
export async function alongOf(jobId: string): Promise<Along | undefined> {
  const taken = await takenAnswer(noteOf(jobId));
  return taken?.body as Along | undefined;
}

const walkOf = (jobId: string) => `/api/jobs/${jobId}/walk`;

/** Pages besides the Cards and the Walk that a day needs: who and with what, what checks say. The demo's is there in the demo alone. */
const besides = (jobId: string) => [
  '/api/jobs',
  `/api/jobs/${jobId}/kit`,
  '/api/catalogue',
  '/api/catalogue/definitions',
  '/api/texts',
  '/api/demo',
];

/** Bytes that this device has left for the page; undefined where it does not say. */
export async function room(): Promise<number | undefined> {
  try {
    const { quota, usage } = await navigator.storage.estimate();
    return quota === undefined ? undefined : quota - (usage ?? 0);
  } catch {
    return undefined;
  }
}

/** There is no room for the rest; what was held before is still there. */
export class NoRoomError extends Error {}

/**
 * Takes a job, or one area of it, along. Everything is put down at the end, in one piece: broken off, what was held before still holds.
 * @param tell how many Cards of how many are here
 * @throws NoRoomError where the device is full
 */
export async function takeAlong(
  jobId: string,
  { area, pictures }: Wanted,
  tell: (done: number, of: number) => void,
  signal: AbortSignal,
): Promise<Along> {
  const at = Date.now();
  const taken: TakenAnswer[] = [];
  let sequence = Infinity;
  let bytes = 0;
  const put = async (url: string, value: unknown) => {
    const body = await pack(value);
    bytes += body.length;
    taken.push({ url, jobId, at, body });
  };
  for (let of = Infinity, done = 0; done < of;) {
    const page = await answered(
      api.GET('/api/jobs/{jobId}/cards', {
        params: { path: { jobId }, query: { skip: done, take: PAGE, ...(area ? { area } : {}) } },
        signal,
      }),
    );
    of = page.of;
    sequence = Math.min(sequence, page.sequence);
    for (const card of page.cards) await put(cardAddress(card.place.id), card);
    // A page may hold fewer than were asked for, where a device went meanwhile.
    done = Math.min(of, done + PAGE);
    tell(done, of);
  }
  const cards = taken.length;
  const shown = pictures ? await takePictures(jobId, area, put, (done, of) => tell(cards + done, cards + of), signal) : undefined;
  bytes += shown?.bytes ?? 0;
  for (const address of besides(jobId)) {
    const response = await fetch(address, { signal });
    if (response.ok) await put(address, await response.json());
  }
  const walk = await answered(api.GET('/api/jobs/{jobId}/walk', { params: { path: { jobId } }, signal }));
  await put(walkOf(jobId), walk);
  // A drawing is kept by the page's own keeper as soon as it is asked for.
  if (walk.drawing) await fetch(`/api/jobs/${jobId}/plan/${walk.drawing.hash}`, { signal });
  const note: Along = { cards, bytes, at, sequence: Number.isFinite(sequence) ? sequence : 0, area, pictures: shown?.count };
  taken.push({ url: noteOf(jobId), jobId, at, body: JSON.stringify(note) });
  try {
    const { along } = await store();
    await along.db.transaction('rw', along, async () => {
      await along.where('jobId').equals(jobId).delete();
      await along.bulkPut(taken);
    });
  } catch (error) {
    throw new NoRoomError(String(error));
  }
  // Asked for, not relied on: the browser may say no.
  void navigator.storage?.persist?.();
  return note;
}

/**
 * Pictures show people: those of a job go with it.
 * @param lists addresses of the lists that name them
 * @param but addresses of pictures that stay
 */
async function dropPictures(lists: ReadonlySet<string>, but: ReadonlySet<string> = new Set()): Promise<void> {
  if (typeof caches === 'undefined') return;
  const kept = await caches.open(PICTURES);
  for (const request of await kept.keys()) {
    const path = new URL(request.url).pathname;
    if (lists.has(path.slice(0, path.lastIndexOf('/'))) && !but.has(path)) await kept.delete(request);
  }
}

/** The lists of pictures that are held of a job. */
async function listsOf(jobId: string): Promise<ReadonlySet<string>> {
  const held: string[] = await (await store()).along.where('jobId').equals(jobId).primaryKeys();
  return new Set(held.filter((address) => address.endsWith('/pictures') && address.startsWith('/api/cards/')));
}

/** Brings the pictures of what is taken along; those that were erased since go. */
async function takePictures(
  jobId: string,
  area: string | undefined,
  put: (url: string, value: unknown) => Promise<void>,
  tell: (done: number, of: number) => void,
  signal: AbortSignal,
): Promise<{ count: number; bytes: number }> {
  const all = await answered(api.GET('/api/jobs/{jobId}/pictures', { params: { path: { jobId }, query: area ? { area } : {} }, signal }));
  const kept = await caches.open(PICTURES);
  const wanted = new Set(
    all.places.flatMap((place) => place.pictures.filter((p) => !p.erased).map((p) => pictureAddress(place.deviceId, p.id))),
  );
  // Of this job alone: another that was taken along keeps its own.
  await dropPictures(new Set([...(await listsOf(jobId)), ...all.places.map((p) => picturesOf(p.deviceId))]), wanted);
  for (const place of all.places) await put(picturesOf(place.deviceId), place.pictures);
  let done = 0;
  let bytes = 0;
  for (const address of wanted) {
    let response = await kept.match(address);
    if (!response) {
      const fetched = await fetch(address, { signal });
      // Erased in the same moment: it is to be nowhere.
      if (!fetched.ok) continue;
      try {
        await kept.put(address, fetched.clone());
      } catch (error) {
        throw new NoRoomError(String(error));
      }
      response = fetched;
    }
    bytes += (await response.blob()).size;
    tell(++done, wanted.size);
  }
  return { count: done, bytes };
}

/** Which Cards have to be fetched anew: those whose Stops changed and that are held. */
export const toFreshen = (changes: WalkChanges, held: ReadonlySet<string>): string[] =>
  changes.stops.map((stop) => stop.id).filter((id) => held.has(cardAddress(id)));

/**
 * Brings what is held up to date while there is a network.
 * @returns how many Cards were fetched anew; undefined where the job has to be taken along as a whole again
 */
export async function freshen(jobId: string): Promise<number | undefined> {
  const note = await alongOf(jobId);
  if (!note) return 0;
  const changes = await walkChanges(jobId, note.sequence);
  if (!changes) return undefined;
  const { along } = await store();
  const held = new Set<string>(await along.where('jobId').equals(jobId).primaryKeys());
  const ids = toFreshen(changes, held);
  if (ids.length > PAGE) return undefined;
  const at = Date.now();
  const fresh: TakenAnswer[] = [];
  const put = async (url: string, value: unknown) => fresh.push({ url, jobId, at, body: await pack(value) });
  for (const deviceId of ids)
    await put(cardAddress(deviceId), await answered(api.GET('/api/cards/{deviceId}', { params: { path: { deviceId } } })));
  // The Walk says how they stand.
  if (ids.length > 0) await put(walkOf(jobId), await answered(api.GET('/api/jobs/{jobId}/walk', { params: { path: { jobId } } })));
  fresh.push({ url: noteOf(jobId), jobId, at, body: JSON.stringify({ ...note, at, sequence: changes.sequence } satisfies Along) });
  await along.bulkPut(fresh);
  return ids.length;
}

/** Lets go of what is held of a job. */
export async function putAway(jobId: string): Promise<void> {
  await dropPictures(await listsOf(jobId));
  await (await store()).along.where('jobId').equals(jobId).delete();
}
