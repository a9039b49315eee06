import type { TakenAnswer } from '../outbox/items';
import { store } from '../outbox/store';

/** Answers that were taken along with a job, gzipped where the browser can. */
const canPack = typeof CompressionStream !== 'undefined';

export async function pack(value: unknown): Promise<Uint8Array | string> {
  const text = JSON.stringify(value);
  if (!canPack) return text;
  return new Uint8Array(await new Response(new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'))).arrayBuffer());
}

export async function unpack(body: Uint8Array | string): Promise<unknown> {
  if (typeof body === 'string') return JSON.parse(body);
  return new Response(new Blob([body as BlobPart]).stream().pipeThrough(new DecompressionStream('gzip'))).json();
}

/** An answer that was taken along, as it is packed; undefined where none was. */
export async function packedAnswer(address: string): Promise<TakenAnswer | undefined> {
  try {
    return await (await store()).along.get(address);
  } catch {
    return undefined;
  }
}

/** The same unpacked; undefined where it cannot be. */
export async function unpacked({ body, at }: TakenAnswer): Promise<{ body: unknown; at: number } | undefined> {
  try {
    return { body: await unpack(body), at };
  } catch {
    return undefined;
  }
}

/** An answer that was taken along; undefined where none was. */
export async function takenAnswer(address: string): Promise<{ body: unknown; at: number } | undefined> {
  const taken = await packedAnswer(address);
  return taken && unpacked(taken);
}

/** Where pictures are kept, by their address; the page's own keeper shows them where there is no network. */
export const PICTURES = 'pictures';

/** Pictures show people: they go with what was taken along. */
export async function forgetPictures(): Promise<void> {
  if (typeof caches !== 'undefined') await caches.delete(PICTURES);
}
