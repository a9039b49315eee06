import { useEffect, useState } from 'react';

const QUIET_MS = 800;

/** Tells whoever listens instead of looking, once a text has stood still: not every key that is pressed on the way to it. */
export function Settled({ text }: { text: string }) {
  const [said, setSaid] = useState('');
  useEffect(() => {
    const timer = setTimeout(() => setSaid(text), QUIET_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return (
    <span role="status" className="sr-only">
      {said}
    </span>
  );
}
