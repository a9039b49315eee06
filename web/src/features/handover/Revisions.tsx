import type { RevisionLine } from '../../api/types';
import { t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { counted } from './Standing';

export function Revisions({ jobId, revisions, zone }: { jobId: string; revisions: RevisionLine[]; zone: string }) {
  return (
    <section className="border-t border-ink py-4" aria-labelledby="revisions">
      <h2 id="revisions" className="text-lead font-bold">
        {t('handover.revisions')}
      </h2>
      {revisions.length === 0 && <p className="py-2 text-ink-2">{t('handover.none')}</p>}
      <ul>
        {revisions.map((r) => {
          const file = (name: string) => `/api/jobs/${jobId}/handover/revisions/${r.id}/${name}`;
          return (
            <li key={r.id} className="grid grid-cols-[64px_minmax(0,1fr)] gap-x-4 border-b border-hairline py-3">
              <span className="font-read text-reading font-bold">{r.number}</span>
              <div className="min-w-0">
                <p>
                  <b>{r.of ?? t('handover.whole')}</b>, {dayAndClock(r.at, zone)}
                  <span className="ml-3 inline-flex flex-wrap items-center gap-x-3 align-middle">
                    {counted
                      .filter(([, key]) => r.summary[key] > 0)
                      .map(([verdict, key]) => (
                        <span key={verdict} className="inline-flex items-center gap-1">
                          <VerdictMark verdict={verdict} size={14} />
                          <span className="font-read">{r.summary[key]}</span>
                        </span>
                      ))}
                  </span>
                </p>
                <p className={`text-label ${r.signatures.length === 0 ? 'text-noted' : 'text-ink-2'}`}>
                  {r.signatures.length === 0
                    ? t('handover.not-signed')
                    : r.signatures
                        .map(
                          (s) =>
                            `${t(`pack.sign.${s.role}`)}: ${[s.name, s.position, s.typed && t('handover.by-name-short')].filter(Boolean).join(', ')}`,
                        )
                        .join('. ')}
                </p>
                {r.reservations && <p className="text-label text-noted">{t('handover.reserved', r.reservations)}</p>}
                <p className="flex flex-wrap gap-x-4 text-label">
                  {r.reports.map((name) => (
                    <a
                      key={name}
                      className="flex min-h-9 items-center font-semibold underline"
                      href={file(name)}
                      target="_blank"
                      rel="noreferrer"
                    >
                      {name}
                    </a>
                  ))}
                  <a className="flex min-h-9 items-center font-semibold underline" href={file('pack.zip')}>
                    {t('handover.pack', (r.bytes / 1048576).toFixed(1))}
                  </a>
                  <a className="flex min-h-9 items-center underline" href={file('record.json')}>
                    record.json
                  </a>
                  <span className="font-read flex min-h-9 items-center text-ink-2" title={r.hash}>
                    {r.hash.slice(0, 16).replace(/(.{4})(?=.)/g, '$1 ')}
                  </span>
                </p>
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
