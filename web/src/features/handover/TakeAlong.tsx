import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { sendFile } from '../../api/send';
import type { WorkAnswer } from '../../api/types';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';
import { Progress } from '../../ui/Progress';
import { Fingerprint } from '../../ui/Fingerprint';
import { useLongWork } from '../../api/useLongWork';
import { AskBundle } from './AskBundle';
import { Trouble } from '../../ui/Trouble';

/** The job as one file, out and in; and the key that seals. Whose bundle it is, is looked at before anything of it is taken. */
export function TakeAlong({ jobId, fingerprint }: { jobId: string; fingerprint: string }) {
  const client = useQueryClient();
  const person = useIdentity().personId;
  const kit = useKit(jobId);
  const [outcome, setOutcome] = useState<WorkAnswer>();
  const done = useCallback(
    (work: WorkAnswer) => {
      if (work.kind === 'bundle') {
        window.location.assign(`/api/jobs/${jobId}/bundle/${work.id}.zip`);
        return;
      }
      setOutcome(work);
      if (work.kind === 'bundle-in') void client.invalidateQueries();
    },
    [client, jobId],
  );
  const { work, running, trouble, begin } = useLongWork(done);
  const by = kit.data?.people.find((p) => p.id === person)?.name ?? '';
  const b = outcome?.bundle;
  const ask = running ? undefined : outcome?.ask;
  return (
    <>
      <section className="border-t border-ink py-4" aria-labelledby="along">
        <h2 id="along" className="text-lead font-bold">
          {t('handover.bundle')}
        </h2>
        <p className="text-label text-ink-2">{t('handover.bundle-hint')}</p>
        <div className="mt-2 flex flex-wrap gap-3">
          <button
            className="plain disabled:opacity-40"
            disabled={running}
            onClick={() => begin(answered(api.POST('/api/jobs/{jobId}/bundle', { params: { path: { jobId } } })))}
          >
            {t('handover.bundle-out')}
          </button>
          <label className="plain inline-flex cursor-pointer items-center">
            {t('handover.bundle-in')}
            <input
              type="file"
              accept=".zip"
              className="sr-only"
              disabled={running}
              onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                setOutcome(undefined);
                if (file) begin(sendFile<WorkAnswer>('/api/bundles', file));
              }}
            />
          </label>
        </div>
        {running && <Progress work={work} what={t(`handover.work.${work?.kind ?? 'bundle-look'}`)} />}
        <Trouble text={trouble} className="mt-2" />
        {ask && (
          <AskBundle
            ask={ask}
            by={by}
            onTake={() =>
              begin(
                answered(api.POST('/api/bundles/{workId}/take', { params: { path: { workId: ask.id } }, body: { key: ask.look.key, by } })),
              )
            }
            onLeave={() => setOutcome(undefined)}
          />
        )}
        {b && (
          <div role="status" className="mt-3 text-label">
            <p className="font-bold">
              {t(
                b.isNew ? 'handover.bundle-new' : 'handover.bundle-joined',
                b.name,
                Object.values(b.added).reduce<number>((sum, n) => sum + n, 0),
              )}
            </p>
            {b.conflicts.length > 0 && <p className="mt-1 font-semibold text-noted">{t('handover.conflicts', b.conflicts.length)}</p>}
            <ul>
              {b.conflicts.map((x, i) => (
                <li key={i} className="border-b border-dotted border-hairline py-1">
                  <b className="font-read">{x.about}</b> {say(x.what)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <section className="border-t border-ink py-4" aria-labelledby="key">
        <h2 id="key" className="text-lead font-bold">
          {t('handover.key')}
        </h2>
        <Fingerprint of={fingerprint} />
        <p className="text-label text-ink-2">
          {t('handover.key-hint')}{' '}
          <a className="underline max-sm:flex max-sm:min-h-11 max-sm:items-center" href="/api/seal-key" download="walkdown-public-key.pem">
            {t('handover.public-key')}
          </a>
        </p>
        <p className="mt-2 text-label">{t('handover.key-backup')}</p>
        <p className="font-read select-all break-all text-label">./walkdown key backup walkdown-key.pem</p>
      </section>
    </>
  );
}
