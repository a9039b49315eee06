import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import type { KitAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { KeepTrouble, useKeep } from './useKeep';

export function PersonSheet({ jobId, person, onClose }: { jobId: string; person?: KitAnswer['people'][number]; onClose: () => void }) {
  const [id] = useState(() => v7());
  const [form, setForm] = useState({
    name: person?.name ?? '',
    role: person?.role ?? '',
    mayWitness: person?.mayWitness ?? false,
    left: person?.left ?? false,
  });
  const keep = useKeep(onClose);
  const save = () =>
    keep.mutate(() =>
      person
        ? answered(api.PUT('/api/jobs/{jobId}/people/{personId}', { params: { path: { jobId, personId: person.id } }, body: form }))
        : answered(
            api.POST('/api/jobs/{jobId}/people', {
              params: { path: { jobId } },
              body: { id, name: form.name, role: form.role, mayWitness: form.mayWitness },
            }),
          ),
    );
  return (
    <Sheet title={t(person ? 'kit.people' : 'kit.add-person')} onClose={onClose}>
      <Labelled label={t('ui.name')}>
        <input className="field" value={form.name} maxLength={80} onChange={(e) => setForm({ ...form, name: e.target.value })} />
      </Labelled>
      <Labelled label={t('ui.role')}>
        <input className="field" value={form.role} maxLength={80} onChange={(e) => setForm({ ...form, role: e.target.value })} />
      </Labelled>
      {(['mayWitness', 'left'] as const)
        .filter((k) => k !== 'left' || person)
        .map((k) => (
          <label key={k} className="mb-3 flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="h-5 w-5 accent-ink"
              checked={form[k]}
              onChange={(e) => setForm({ ...form, [k]: e.target.checked })}
            />
            {t(k === 'left' ? 'kit.left' : 'kit.witness')}
          </label>
        ))}
      <KeepTrouble error={keep.error} />
      <button className="forward w-full text-center disabled:opacity-50" disabled={!form.name.trim() || keep.isPending} onClick={save}>
        {t('button.save')}
      </button>
    </Sheet>
  );
}
