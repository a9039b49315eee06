import { useMutation } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { HandoverAnswer, HandoverCover } from '../../api/types';
import { useKept } from '../../session/kept';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';

const coverFields = ['site', 'client', 'contractor', 'contract', 'specification', 'standards', 'remarks'] as const;

export function Cover({ jobId, cover, onKept }: { jobId: string; cover: HandoverCover; onKept: (answer: HandoverAnswer) => void }) {
  const [c, setC] = useKept('cover', cover);
  const keep = useMutation({
    mutationFn: () => answered(api.PUT('/api/jobs/{jobId}/handover/cover', { params: { path: { jobId } }, body: c })),
    // What is on record is shown before what was typed goes.
    onSuccess: (answer) => {
      onKept(answer);
      setC(undefined);
    },
  });
  const changed = coverFields.some((f) => c[f] !== cover[f]);
  return (
    <section className="py-4" aria-labelledby="cover">
      <h2 id="cover" className="mb-2 text-lead font-bold">
        {t('pack.cover')}
      </h2>
      {coverFields.map((f) => (
        <Labelled key={f} label={t(`pack.cover.${f}`)}>
          {f === 'standards' || f === 'remarks' ? (
            <textarea className="field min-h-16" maxLength={1000} value={c[f]} onChange={(e) => setC({ ...c, [f]: e.target.value })} />
          ) : (
            <input className="field" maxLength={1000} value={c[f]} onChange={(e) => setC({ ...c, [f]: e.target.value })} />
          )}
        </Labelled>
      ))}
      <Trouble text={keep.error ? troubleOf(keep.error) : undefined} className="" />
      <button className="plain disabled:opacity-40" disabled={!changed || keep.isPending} onClick={() => keep.mutate()}>
        {t('handover.keep-cover')}
      </button>
    </section>
  );
}
