import type { OutboxItem } from './items';

/**
 * Entries after which what follows may be of another unit, run or port: a refused one holds back what was pressed after it on the same
 * Card.
 */
const CHANGES_WHAT_IS_READ = ['/acts', '/built'];

/** The next entry to send, in the order of pressing; null where nothing can go. */
export function nextToSend(items: OutboxItem[]): OutboxItem | null {
  const held = new Set<string>();
  for (const item of items) {
    if (item.refused) {
      if (CHANGES_WHAT_IS_READ.includes(item.path)) held.add(item.deviceId);
    } else if (!held.has(item.deviceId)) return item;
  }
  return null;
}

/** Entries that wait for somebody to settle a refused one before them. */
export const heldBack = (items: OutboxItem[]): OutboxItem[] => {
  const held = new Set<string>();
  return items.filter((item) => {
    if (item.refused && CHANGES_WHAT_IS_READ.includes(item.path)) held.add(item.deviceId);
    return !item.refused && held.has(item.deviceId);
  });
};

/** "another": it is somebody else's, and goes when that person is signed in here. "nobody": whoever it is, nobody is signed in. */
export type Outcome =
  | { kind: 'kept'; answer: unknown }
  | { kind: 'wait' }
  | { kind: 'another' }
  | { kind: 'nobody' }
  | { kind: 'refused'; status: number; body: unknown };

/** Waits after a failure: twice as long each time, and never so long that a network that came back goes unnoticed. */
export const waitAfter = (failures: number) => Math.min(1000 * 2 ** Math.max(0, failures - 1), 15000);

/** What somebody typed into an entry, to be shown before it is sent; empty where nothing was typed. */
export function textOf(item: OutboxItem | undefined): string {
  const typed = item && (item.body.text ?? item.body.title ?? item.body.reason);
  return typeof typed === 'string' || typeof typed === 'number' ? String(typed) : '';
}

const codeOf = (body: unknown) => (body && typeof body === 'object' && 'code' in body ? body.code : undefined);

/** Where an entry goes. */
export function addressOf(item: OutboxItem): string {
  const path = `/api/cards/${item.deviceId}${item.path}`;
  if (!item.file) return path;
  const said = Object.entries(item.body).filter(([, value]) => value !== undefined && value !== null);
  return `${path}?${new URLSearchParams(said.map(([key, value]) => [key, String(value)]))}`;
}

/**
 * Sends one entry and reads the whole of its answer. An answer that is cut off, late or not to be read is no answer: the entry goes
 * again, and the record knows it by its id. Never throws.
 */
export async function sendOne(item: OutboxItem, send: typeof fetch = fetch, patienceMs = item.file ? 60000 : 10000): Promise<Outcome> {
  const patience = new AbortController();
  const timer = setTimeout(() => patience.abort(), patienceMs);
  try {
    const response = await send(addressOf(item), {
      method: 'POST',
      headers: { 'content-type': item.file ? 'application/octet-stream' : 'application/json' },
      body: item.file ?? JSON.stringify(item.body),
      signal: patience.signal,
    });
    if (response.ok) return { kind: 'kept', answer: await response.json() };
    // A body that cannot be read does not make a refusal of something that may go through later.
    const body: unknown = await response.json().catch(() => null);
    if (response.status === 401) return { kind: 'nobody' };
    if (response.status === 403 && codeOf(body) === 'problem.in-anothers-name') return { kind: 'another' };
    if (response.status >= 500 || response.status === 408 || response.status === 425 || response.status === 429) return { kind: 'wait' };
    return body === null && response.status !== 413 ? { kind: 'wait' } : { kind: 'refused', status: response.status, body };
  } catch {
    return { kind: 'wait' };
  } finally {
    clearTimeout(timer);
  }
}
