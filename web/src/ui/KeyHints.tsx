import { useIdentity } from '../session/identity';
import { t } from '../texts';

/** What the keys of a page do, at its foot; letters that are switched off are not promised. */
export function KeyHints({ keys, className }: { keys: readonly (readonly [key: string, what: string])[]; className?: string }) {
  const off = useIdentity().lettersOff;
  return keys
    .filter(([key]) => !off || key.length > 1)
    .map(([key, what]) => (
      <span key={key} className={className}>
        <span className="key">{key}</span> {t(what)}
      </span>
    ));
}
