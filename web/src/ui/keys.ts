import { useEffect, useRef } from 'react';

export type Keys = Record<string, (event: KeyboardEvent) => void>;

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Single keys for a page. Letters act only outside text fields, and never while a sheet is open. */
export function useKeys(keys: Keys) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (document.querySelector('[role=dialog]')) return;
      if (isTyping(event.target)) return;
      const name = event.shiftKey && event.key.length > 1 ? `Shift+${event.key}` : event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const handler = latest.current[name] ?? (/^[0-9.,-]$/.test(name) ? latest.current.digit : undefined);
      if (!handler) return;
      // A letter that opens a sheet must not be typed into it.
      if (event.key.length === 1) event.preventDefault();
      handler(event);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
