import { useLayoutEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { nextOf } from './keys';

/**
 * A group of which one is chosen; its members are buttons with the role of a radio. The Tab key stops once, at what is chosen, and the arrows
 * choose, as in any such group (WAI-ARIA, radio group).
 */
export function Radios({ label, className, children }: { label: string; className?: string; children: ReactNode }) {
  const group = useRef<HTMLDivElement>(null);
  const members = () => [...(group.current?.querySelectorAll<HTMLElement>('[role=radio]') ?? [])];
  useLayoutEffect(() => {
    const all = members();
    const stop = all.find((m) => m.getAttribute('aria-checked') === 'true') ?? all[0];
    for (const m of all) m.tabIndex = m === stop ? 0 : -1;
  });
  const press = (e: KeyboardEvent) => {
    const all = members();
    const next = all[nextOf(e.key, all.indexOf(document.activeElement as HTMLElement), all.length)];
    if (!next) return;
    e.preventDefault();
    e.stopPropagation();
    next.focus();
    next.click();
  };
  return (
    <div ref={group} role="radiogroup" aria-label={label} className={className} onKeyDown={press}>
      {children}
    </div>
  );
}
