import { useState } from 'react';

/** Held, by finger or key, it shows something else; let go, what was there before. */
export function HoldButton({ onHold, children }: { onHold: (isHeld: boolean) => void; children: (isHeld: boolean) => string }) {
  const [isHeld, setHeld] = useState(false);
  const hold = (held: boolean) => {
    setHeld(held);
    onHold(held);
  };
  return (
    <button
      className="absolute right-2 bottom-2 min-h-11 bg-[#1b1f1dd9] px-3 text-label font-semibold text-[#fdfcf8] select-none"
      onPointerDown={() => hold(true)}
      onPointerUp={() => hold(false)}
      onPointerLeave={() => hold(false)}
      onKeyDown={(e) => (e.key === ' ' || e.key === 'Enter') && hold(true)}
      onKeyUp={() => hold(false)}
      onBlur={() => hold(false)}
      onContextMenu={(e) => e.preventDefault()}
    >
      {children(isHeld)}
    </button>
  );
}
