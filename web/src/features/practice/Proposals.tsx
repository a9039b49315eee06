import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import type { CatalogueFile } from '../../api/types';
import { t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { Fingerprint } from '../../ui/Fingerprint';

/**
 * Catalogues that came along with bundles: in force nowhere, until somebody looks at what they change and puts them in force as the
 * company's own.
 */
export function Proposals({ zone, onLoad }: { zone: string; onLoad: (own: CatalogueFile) => void }) {
  const proposals = useQuery({ queryKey: ['own', 'proposals'], queryFn: () => answered(api.GET('/api/catalogue/proposals')) });
  if (!proposals.data || proposals.data.length === 0) return null;
  return (
    <section className="mb-3 border-l-2 border-noted pl-3" aria-label={t('practice.proposals')}>
      <h3 className="text-label font-bold">{t('practice.proposals')}</h3>
      {proposals.data.map((p) => (
        <div key={p.id} className="text-label">
          <p>
            {p.why} <span className="text-ink-2">{t('practice.proposal-came', dayAndClock(p.at, zone))}</span>
          </p>
          <Fingerprint of={p.from} />
          {p.problems.map((x, i) => (
            <p key={i} className="text-refused">
              {t('catalogue.problem', x.file, x.what)}
            </p>
          ))}
          <button className="min-h-9 font-semibold underline" onClick={() => onLoad(p.own)}>
            {t('practice.proposal-load')}
          </button>
        </div>
      ))}
    </section>
  );
}
