import { useState } from 'react';
import type { RegisterAnswer } from '../../api/types';
import { t } from '../../texts';

export function Findings({ register, chosen, choose }: { register: RegisterAnswer; chosen?: number; choose: (n?: number) => void }) {
  const n = register.findings.length;
  const [open, setOpen] = useState(chosen !== undefined);
  if (n === 0) return <p className="px-6 pb-2 text-label text-ink-2">{register.rows.length > 0 && t('register.agrees')}</p>;
  return (
    <div className="px-6 pb-2 text-label">
      <button className="min-h-9 font-bold underline" aria-expanded={open} onClick={() => (setOpen(!open), open && choose(undefined))}>
        {t('register.findings', n)}
      </button>
      {open && (
        <ul className="max-h-36 overflow-y-auto border-t border-hairline">
          {register.findings.map((f, i) => (
            <li key={i}>
              <button
                aria-pressed={chosen === i}
                className={`min-h-8 w-full border-b border-l-4 border-hairline px-2 py-1 ${chosen === i ? 'border-l-accent font-bold' : 'border-l-transparent'}`}
                onClick={() => choose(chosen === i ? undefined : i)}
              >
                {f.what}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
