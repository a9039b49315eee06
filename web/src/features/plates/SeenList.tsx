import type { components } from '../../api/generated/schema';
import { say } from '../../texts';

/** What a plate is in the picture: what is not enough first, with its mend. */
export const SeenList = ({ seen, className = '' }: { seen: components['schemas']['PlateSeen']; className?: string }) => (
  <ul className={`text-label ${className}`} data-testid="geometry-seen" aria-live="polite">
    {[...seen.wrong, ...seen.right].map((m, i) => (
      <li key={m.code} className={`py-0.5 ${i < seen.wrong.length ? 'font-semibold text-refused' : ''}`}>
        {say(m)}
      </li>
    ))}
  </ul>
);
