import { useLayoutEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { identity } from '../session/identity';
import { nameOfKey, nextOf } from './keys';

/**
 * A group of which one is chosen; its members are buttons with the role of a radio. The Tab key stops once, at what is chosen, and the
 * arrows choose, as in any such group (WAI-ARIA, radio group).
 * @param letters keys that choose a member each, in their order
 */
export function Radios({
  label,
  className,
  letters,
  children,
}: {
  label: string;
  className?: string;
  letters?: string[];
  children: ReactNode;
}) {
  const group = useRef<HTMLDivElement>(null);
  const members = () => [...(group.current?.querySelectorAll<HTMLElement>('[role=radio]') ?? [])];
  useLayoutEffect(() => {
    const all = members();
    const chosen = all.find((m) => m.getAttribute('aria-checked') === 'true');
    for (const m of all) m.tabIndex = m === (chosen ?? all[0]) ? 0 : -1;
    // Where nothing is chosen the group itself can have the keys: Enter then takes nothing that nobody chose.
    if (group.current) group.current.tabIndex = -1;
  });
  const press = (e: KeyboardEvent) => {
    const all = members();
    const at = all.indexOf(document.activeElement as HTMLElement);
    const letter = letters?.indexOf(nameOfKey(e, identity().lettersOff) ?? '') ?? -1;
    // From the group itself the first arrow leads to one of its ends.
    const from =
      at < 0 && document.activeElement === group.current ? (e.key === 'ArrowDown' || e.key === 'ArrowRight' ? all.length - 1 : 0) : at;
    const next = all[letter >= 0 ? letter : nextOf(e.key, from, all.length)];
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
