import { useEffect, useLayoutEffect, useRef } from 'react';
import { flushSync } from 'react-dom';
import { identity } from '../session/identity';

export type Keys = Record<string, (event: KeyboardEvent) => void>;

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** What a press is called; nothing where it is none of a page's: with Ctrl or its like, or a single sign while those are switched off. */
export function nameOfKey(
  event: Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>,
  lettersOff = false,
): string | undefined {
  if (event.ctrlKey || event.metaKey || event.altKey) return undefined;
  if (event.key.length === 1) return lettersOff ? undefined : event.key.toLowerCase();
  return event.shiftKey ? `Shift+${event.key}` : event.key;
}

/** The place in a ring to which an arrow leads; -1 for any other key, or from outside of it. */
export function nextOf(key: string, at: number, count: number): number {
  const step = ({ ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 } as Record<string, number>)[key];
  return step === undefined || at < 0 || count === 0 ? -1 : (at + step + count) % count;
}

/** Single keys for a page. Letters act only outside text fields, and never while a sheet is open. */
export function useKeys(keys: Keys) {
  const latest = useRef(keys);
  // With what is on the screen, not a moment after it: a key between both was taken as of the screen before, and lost.
  useLayoutEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      if (document.querySelector('[role=dialog]')) return;
      if (isTyping(event.target)) return;
      const name = nameOfKey(event, identity().lettersOff);
      if (name === undefined) return;
      const handler = latest.current[name] ?? (/^[0-9.,-]$/.test(name) ? latest.current.digit : undefined);
      if (!handler) return;
      // A letter that opens a sheet must not be typed into it.
      if (event.key.length === 1) event.preventDefault();
      // The next key acts on what this one leaves.
      flushSync(() => handler(event));
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
