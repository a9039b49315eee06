import type { OutcomeAnswer } from '../../api/types';
import { t } from '../../texts';

export function Findings({ outcome }: { outcome: OutcomeAnswer }) {
  if (outcome.findings.length === 0) return null;
  return (
    <>
      <h2 className="mt-6 text-body font-bold">{t('import.findings')}</h2>
      <ul className="max-w-4xl border-t border-hairline">
        {outcome.findings.map((f, i) => (
          <li key={i} className="border-b border-hairline py-1.5">
            {f.what}
          </li>
        ))}
      </ul>
    </>
  );
}
