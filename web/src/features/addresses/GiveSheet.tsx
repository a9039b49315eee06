import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { entry, troubleOf } from '../../api/send';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import { Address } from './LedgerTable';

/** Addresses in the order of the walk: shown first, kept all or none. */
export function GiveSheet({ jobId, onKept, onClose }: { jobId: string; onKept: () => void; onClose: () => void }) {
  const [anew, setAnew] = useState(false);
  const proposed = useQuery({
    queryKey: ['network-give', jobId, anew],
    gcTime: 0,
    queryFn: () => answered(api.POST('/api/jobs/{jobId}/network/propose', { params: { path: { jobId } }, body: { anew, areas: [] } })),
  });
  const lines = (proposed.data ?? []).filter((p) => p.to && p.to !== p.from);
  const left = (proposed.data ?? []).filter((p) => !p.to).length;
  const keep = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/jobs/{jobId}/register/edits', {
          params: { path: { jobId } },
          body: { ...entry(), edits: lines.map((p) => ({ deviceId: p.deviceId, field: 'address', text: p.to })), why: null },
        }),
      ),
    onSuccess: onKept,
  });
  return (
    <Sheet title={t('address.give')} hint={t('address.give-hint')} onClose={onClose} wide>
      <label className="mt-2 flex min-h-11 items-center gap-3">
        <input type="checkbox" className="h-5 w-5 accent-ink" checked={anew} onChange={(e) => setAnew(e.target.checked)} />
        {t('address.give-anew')}
      </label>
      {proposed.isLoading && <p role="status">{t('ui.loading')}</p>}
      {proposed.data && lines.length === 0 && left === 0 && <p className="my-2 font-semibold">{t('address.give-none')}</p>}
      {left > 0 && <p className="my-2 font-semibold text-refused">{t('address.give-full', left)}</p>}
      <ul className="max-h-[46dvh] overflow-y-auto border-y border-hairline">
        {lines.map((p) => (
          <li key={p.deviceId} className="grid grid-cols-[6rem_1fr_1fr] border-b border-dotted border-hairline py-1">
            <span className="font-read font-bold">{p.label}</span>
            <span>{p.from ? <Address text={p.from} /> : <span className="text-ink-2">{t('address.no-address')}</span>}</span>
            <Address text={p.to} />
          </li>
        ))}
      </ul>
      <Trouble text={proposed.error ? troubleOf(proposed.error) : keep.error ? troubleOf(keep.error) : undefined} className="mt-2" />
      <button className="forward mt-3 disabled:opacity-40" disabled={lines.length === 0 || keep.isPending} onClick={() => keep.mutate()}>
        {t('address.give-keep', lines.length)}
      </button>
    </Sheet>
  );
}
