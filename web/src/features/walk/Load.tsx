import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import type { LoadLine } from '../../api/types';
import { has, t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import '../cards/cardTexts';
import '../pageTexts';

/** What has to be carried for the whole walk, or for one area: tools of the rows that are left, and parts that no pack has. */
export function Load({ jobId, areas, at }: { jobId: string; areas: string[]; at: string }) {
  // The area at hand to begin with: the whole of a large site is asked for by choice.
  const [area, setArea] = useState(at);
  const load = useQuery({
    queryKey: ['walk', jobId, 'load', area],
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/walk/load', { params: { path: { jobId }, query: { area: area || undefined } } })),
    retry: false,
  });
  return (
    <section className="mt-4 border-t border-ink pt-2">
      <h3 className="text-body font-bold">{t('load.title')}</h3>
      <p className="text-label text-ink-2">{t('load.hint')}</p>
      <Labelled label={t('load.area')}>
        <select className="field" value={area} onChange={(e) => setArea(e.target.value)}>
          <option value="">{t('load.all')}</option>
          {areas.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </Labelled>
      {load.isPending && (
        <p role="status" className="text-label text-ink-2">
          {t('ui.loading')}
        </p>
      )}
      {load.isError && <Trouble text={load.error.message} />}
      {load.data && (
        <>
          <Lines title={t('load.tools')} kind="tool" lines={load.data.tools} />
          <Lines title={t('load.parts')} kind="item" lines={load.data.parts} />
        </>
      )}
    </section>
  );
}

function Lines({ title, kind, lines }: { title: string; kind: 'tool' | 'item'; lines: readonly LoadLine[] }) {
  return (
    <>
      <h4 className="mt-2 text-label font-semibold text-ink-2">{title}</h4>
      {lines.length === 0 && <p className="text-label">{t('load.nothing')}</p>}
      <ul>
        {lines.map((line) => (
          <li key={line.id} className="flex items-baseline gap-3 border-b border-hairline py-1 text-label">
            <span className="min-w-0 flex-1 first-letter:uppercase">{has(`${kind}.${line.id}`) ? t(`${kind}.${line.id}`) : line.id}</span>
            <span className="text-ink-2">{t('load.stops', line.stops, line.first)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
