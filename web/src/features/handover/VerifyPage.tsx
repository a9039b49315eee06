import { Fingerprint } from '../../ui/Fingerprint';
import { useCallback, useState } from 'react';
import { sendFile } from '../../api/send';
import type { RecordVerdict, WorkAnswer } from '../../api/types';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { Progress } from '../../ui/Progress';
import '../cards/cardTexts';
import '../pageTexts';
import './packTexts';
import { useLongWork } from '../../api/useLongWork';
import { Trouble } from '../../ui/Trouble';

/** A record, a report or a pack in hand: is it what was sealed, and by whom was it signed? */
export default function VerifyPage() {
  const { job } = useJob();
  const [key, setKey] = useState('');
  const [name, setName] = useState('');
  const [verdict, setVerdict] = useState<RecordVerdict>();
  const done = useCallback((work: WorkAnswer) => setVerdict(work.checked ?? undefined), []);
  const { work, running, trouble, begin } = useLongWork(done);
  const check = (file: File) => {
    setVerdict(undefined);
    setName(file.name);
    begin(sendFile<WorkAnswer>(`/api/verify${key.trim() ? `?key=${encodeURIComponent(key.trim())}` : ''}`, file));
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <h1 className="text-title font-bold">{t('verify.title')}</h1>
      <p className="max-w-2xl text-label text-ink-2">{t('verify.hint')}</p>
      <div className="mt-3 grid max-w-3xl grid-cols-2 items-end gap-x-6 gap-y-3 border-t border-ink pt-3 max-sm:grid-cols-1">
        <label>
          <span className="mb-1 block text-label font-semibold text-ink-2">{t('verify.key')}</span>
          <input
            className="field font-read"
            value={key}
            maxLength={100}
            placeholder={t('verify.any-key')}
            onChange={(e) => setKey(e.target.value)}
          />
        </label>
        <label
          className="plain inline-flex cursor-pointer items-center justify-center"
          onDragOver={(e) => e.preventDefault()}
          onDrop={(e) => {
            e.preventDefault();
            const file = e.dataTransfer.files[0];
            if (file) check(file);
          }}
        >
          {t('verify.choose')}
          <input
            type="file"
            className="sr-only"
            accept=".json,.pdf,.zip"
            disabled={running}
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) check(file);
            }}
          />
        </label>
      </div>
      {running && <Progress work={work} what={t('verify.checking', name)} />}
      <Trouble text={trouble} className="mt-3" />
      {verdict && <Finding verdict={verdict} name={name} zone={job?.timeZone ?? 'UTC'} />}
    </main>
  );
}

function Finding({ verdict: v, name, zone }: { verdict: RecordVerdict; name: string; zone: string }) {
  // Anybody can seal: whole, but by a key that nobody here knows, is told apart from whole and ours.
  const whole = v.outcome === 'untouched' && !!v.keyKnown;
  const noted = (v.outcome === 'untouched' && !v.keyKnown) || v.outcome === 'otherKey' || v.outcome === 'erasedElsewhere';
  const changed = v.parts.filter((p) => p.state !== 'untouched');
  const facts: [string, string | null | undefined][] = [
    ['verify.job', v.job && [v.job, v.of].filter(Boolean).join(', ')],
    ['verify.revision', v.revision === null ? null : String(v.revision)],
    ['verify.sealed', v.sealedAt && dayAndClock(v.sealedAt, zone)],
    ['verify.record', v.hash],
    ['verify.previous', v.previous],
    ['verify.by-key', v.key],
    ['verify.made', v.coreVersion && `Walkdown ${v.coreVersion}`],
  ];
  return (
    <section role="status" className="mt-5 max-w-3xl border-t-2 border-ink pt-4">
      <div className="flex items-start gap-4">
        <VerdictMark verdict={whole ? 'accepted' : noted ? 'acceptedWithNote' : 'refused'} size={40} label="" />
        <div>
          <p className="text-label text-ink-2">{name}</p>
          <p className={`text-lead font-bold ${whole ? 'text-accepted' : noted ? 'text-noted' : 'text-refused'}`}>{v.why && say(v.why)}</p>
          {v.simulated && <p className="font-semibold text-noted">{t('pack.simulated')}</p>}
        </div>
      </div>
      <dl className="mt-4 grid grid-cols-[150px_minmax(0,1fr)] gap-x-4 max-sm:grid-cols-1">
        {facts
          .filter(([, value]) => value)
          .map(([code, value]) => (
            <div key={code} className="contents">
              <dt className="border-t border-dotted border-hairline py-1.5 text-label text-ink-2 max-sm:border-0 max-sm:pb-0">{t(code)}</dt>
              <dd
                className={`font-read break-all border-t border-dotted border-hairline py-1.5 max-sm:border-0 max-sm:pt-0 ${value!.length > 40 ? 'text-label' : ''}`}
              >
                {/^[0-9a-f]{64}$/.test(value!) ? <Fingerprint of={value!} /> : value}
              </dd>
            </div>
          ))}
        {v.revision !== null && (
          <>
            <dt className="border-t border-dotted border-hairline py-1.5 text-label text-ink-2">{t('verify.signed')}</dt>
            <dd className="border-t border-dotted border-hairline py-1.5">
              {v.signatures.length === 0 && <span className="text-noted">{t('handover.not-signed')}</span>}
              {v.signatures.map((s) => (
                <p key={s.role + s.name}>
                  {t(`pack.sign.${s.role}`)}: <b>{s.name}</b>
                  {[s.position, s.place, dayAndClock(s.at, zone)].filter(Boolean).map((x) => `, ${x}`)}
                  {s.typed && <span className="text-ink-2"> {t('pack.sign.typed')}</span>}
                </p>
              ))}
              {v.reservations && <p className="text-label text-noted">{t('handover.reserved', v.reservations)}</p>}
            </dd>
          </>
        )}
      </dl>
      {changed.length > 0 && (
        <ul className="mt-4 border-t border-ink">
          {changed.slice(0, 200).map((p) => (
            <li key={p.name} className="flex gap-4 border-b border-dotted border-hairline py-1.5">
              <span className={`w-24 shrink-0 font-bold ${p.state === 'erased' || p.state === 'redrawn' ? 'text-noted' : 'text-refused'}`}>
                {t(`verify.part.${p.state}`)}
              </span>
              <span className="font-read break-all">{p.name}</span>
              {p.note && <span className="text-label text-ink-2">{p.note}</span>}
            </li>
          ))}
        </ul>
      )}
      {!!v.filesChecked && <p className="mt-2 text-label text-ink-2">{t('verify.files', v.filesChecked)}</p>}
    </section>
  );
}
