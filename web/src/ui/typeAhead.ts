import { flushSync } from 'react-dom';
import { nameOfKey } from './keys';

/**
 * Keys that come while something is being kept are of what comes next: they wait until it is there. Without this a key that was pressed
 * right after Enter went to the row that was just leaving.
 */
let works = 0;
let settling: ReturnType<typeof setTimeout> | undefined;
const held: string[] = [];

/**
 * Where nothing comes that takes the keys, they go to what is there after so many milliseconds. Long enough for a slow machine to draw what
 * comes: whoever stays where it is says so at once.
 */
const AT_MOST = 1500;

/** Does the work; what is typed meanwhile, and until what comes next has the keys, is handed to that. */
export async function keysWaitFor<T>(work: () => Promise<T>): Promise<T> {
  works++;
  clearTimeout(settling);
  settling = undefined;
  try {
    return await work();
  } finally {
    works--;
    if (works === 0) settling = setTimeout(keysAreHere, AT_MOST);
  }
}

/** Said by a row once it has the keys. */
export function keysAreHere() {
  if (works > 0) return;
  clearTimeout(settling);
  // Out of what React is doing, and each key on what the one before it left.
  setTimeout(() => {
    settling = undefined;
    for (const key of held.splice(0)) flushSync(() => press(key));
  });
}

/** Takes a key away from what is leaving. Enter is not kept: nothing that nobody has seen is saved by it. */
function hold(event: KeyboardEvent) {
  if ((works === 0 && settling === undefined) || !event.isTrusted) return;
  const name = nameOfKey(event);
  if (name !== 'Enter' && name?.length !== 1) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (name !== 'Enter') held.push(event.key);
}

/** As if it had been pressed now: a page hears it, and what it leaves alone is written into the field. */
function press(key: string) {
  const target = document.activeElement ?? document.body;
  const isLeft = target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  if (isLeft && target instanceof HTMLInputElement) document.execCommand('insertText', false, key);
}

if (typeof window !== 'undefined') window.addEventListener('keydown', hold, { capture: true });
