import { say, t } from '../../texts';
import type { LedgerNote } from './ledger';

const colours = { wrong: 'text-refused', look: 'text-noted', told: 'text-ink-2' };

/** One thing that is told: what it means, and what to do. */
export function NoteLine({ note, inline }: { note: LedgerNote; inline?: boolean }) {
  const mend = `${note.code}.mend`;
  const words = t(mend, ...note.args);
  const todo = words !== mend && words;
  const meaning = <span className={`font-semibold ${colours[note.weight]}`}>{say(note)}</span>;
  return inline ? (
    <p>
      {meaning} {todo && <span className="text-label">{todo}</span>}
    </p>
  ) : (
    <>
      <p>{meaning}</p>
      {todo && <p className="text-label">{todo}</p>}
    </>
  );
}
