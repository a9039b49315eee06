import { Link } from '@tanstack/react-router';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState, type ReactNode } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { sendFile, troubleOf } from '../../api/send';
import type { HandoverAnswer, HandoverCover, RevisionLine, Verdict, WorkAnswer } from '../../api/types';
import { identity, useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { dayAndClock } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { Progress } from '../../ui/Progress';
import { SignaturePad, type Strokes } from '../../ui/SignaturePad';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import { Fingerprint } from '../../ui/Fingerprint';
import '../pageTexts';
import './packTexts';
import { useLongWork } from './useLongWork';

/** Where the handover stands: what would be signed, the signing itself, every sealed revision, and the job to take along. */
export default function HandoverPage() {
  const { job, walk } = useJob();
  const client = useQueryClient();
  const handover = useQuery({
    queryKey: ['handover', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/handover', { params: { path: { jobId: job!.id } } })),
  });
  if (!job || !walk.data || !handover.data) return <Waiting error={handover.error ?? walk.error} again={() => void handover.refetch()} />;
  const again = () => void client.invalidateQueries({ queryKey: ['handover', job.id] });
  const stops = walk.data.areas.flatMap((a) => a.stops);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-title font-bold">{t('handover.title')}</h1>
        <Link to="/verify" className="ml-auto min-h-11 font-semibold underline">
          {t('verify.title')}
        </Link>
      </div>
      <Standing answer={handover.data} />
      <div className="grid grid-cols-[minmax(0,1fr)_400px] gap-x-12 max-[1023px]:grid-cols-1">
        <div className="min-w-0">
          <Signing key={`${handover.data.newest}-${handover.data.sequence}`} jobId={job.id} answer={handover.data} stops={stops} onSealed={again} />
          <Revisions jobId={job.id} revisions={handover.data.revisions} zone={job.timeZone} />
        </div>
        <div className="min-w-0">
          <Cover jobId={job.id} cover={handover.data.cover} onKept={again} />
          <TakeAlong jobId={job.id} fingerprint={handover.data.keyFingerprint} />
        </div>
      </div>
    </main>
  );
}

const counted: [Verdict, 'accepted' | 'noted' | 'refused' | 'open'][] = [
  ['accepted', 'accepted'],
  ['acceptedWithNote', 'noted'],
  ['refused', 'refused'],
  ['open', 'open'],
];

function Standing({ answer }: { answer: HandoverAnswer }) {
  const newest = answer.revisions.find((r) => r.deviceId === null);
  return (
    <section className="mt-2 border-y border-ink py-3" aria-label={t('handover.standing')}>
      <div className="flex flex-wrap items-center gap-x-8 gap-y-2">
        {counted.map(([verdict, key]) => (
          <Why key={verdict} of={`cards-${verdict}`} name={t(`verdict.${verdict}`)} count={answer.now[key]!}>
            <VerdictMark verdict={verdict} size={22} label="" />
          </Why>
        ))}
        {(
          [
            ['faults', answer.now.openFaults],
            ['readings', answer.now.readings],
            ['pictures', answer.now.pictures],
          ] as const
        ).map(([of, count]) => (
          <Why key={of} of={of} name={t(`sum.of.${of}`)} count={count!} small />
        ))}
      </div>
      <p className={`mt-2 font-semibold ${newest && !answer.changed ? 'text-accepted' : 'text-noted'}`}>
        {!newest ? t('handover.never-sealed') : answer.changed ? t('handover.changed', newest.number) : t('handover.as-sealed', newest.number)}
      </p>
    </section>
  );
}

/** A number of the summary; a touch says how it came about and which Cards make it up. */
function Why({ of, name, count, small, children }: { of: string; name: string; count: number; small?: boolean; children?: ReactNode }) {
  return (
    <Link to="/why/$of" params={{ of }} aria-label={t('sum.open', `${count} ${name}`)} className="flex min-h-11 items-center gap-2">
      {children}
      <span className={`font-read font-bold ${small ? 'text-lead' : 'text-reading'}`}>{count}</span>
      <span className="text-label text-ink-2 underline">{name}</span>
    </Link>
  );
}

type Signer = { role: 'technician' | 'client' | 'witness'; name: string; position: string; strokes: Strokes; typed?: boolean };

/** Both sign on this screen; then everything is sealed in one piece. What was drawn is gone when the state changes under it. */
function Signing({
  jobId,
  answer,
  stops,
  onSealed,
}: {
  jobId: string;
  answer: HandoverAnswer;
  stops: { id: string; label: string; name: string }[];
  onSealed: () => void;
}) {
  const person = identity().personId;
  const [signers, setSigners] = useState<Signer[]>([
    { role: 'technician', name: '', position: '', strokes: [] },
    { role: 'client', name: '', position: '', strokes: [] },
  ]);
  const [of, setOf] = useState('');
  const [place, setPlace] = useState('');
  const [reservations, setReservations] = useState('');
  const [languages, setLanguages] = useState<string[]>(['en']);
  const done = useCallback(() => onSealed(), [onSealed]);
  const { work, running, trouble, begin } = useLongWork(done);
  const set = (i: number, next: Partial<Signer>) => setSigners(signers.map((s, n) => (n === i ? { ...s, ...next } : s)));
  const signed = signers.filter((s) => (s.typed ? s.name.trim() !== '' : s.strokes.length > 0));
  const seal = () => {
    const at = new Date().toISOString();
    const device = of || null;
    begin(sealed(at, device));
  };
  /** What is signed is what this page showed: of one Card, what is asked for at the press; the record refuses anything that came since. */
  const sealed = async (at: string, device: string | null) => {
    const shown = device
      ? (await answered(api.GET('/api/jobs/{jobId}/handover/shown', { params: { path: { jobId }, query: { deviceId: device } } }))).shown
      : answer.shown;
    const follows = device ? Math.max(0, ...answer.revisions.filter((r) => r.deviceId === device).map((r) => r.number)) : answer.newest;
    return answered(
      api.POST('/api/jobs/{jobId}/handover/revisions', {
        params: { path: { jobId } },
        body: {
          id: v7(),
          by: person ?? '',
          deviceId: device,
          follows,
          sequence: answer.sequence,
          signatures: signed.map((s) => ({
            role: s.role,
            name: s.name.trim(),
            position: s.position.trim(),
            place: place.trim(),
            at,
            strokes: s.typed ? [] : s.strokes,
            typed: s.typed ?? false,
          })),
          reservations,
          languages,
          shown,
        },
      }),
    );
  };
  return (
    <section className="py-4" aria-labelledby="signing">
      <h2 id="signing" className="text-lead font-bold">
        {t('handover.sign')}
      </h2>
      <p className="max-w-2xl text-label text-ink-2">{t('handover.sign-hint')}</p>
      <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-4 max-sm:grid-cols-1">
        {signers.map((s, i) => (
          <fieldset key={s.role + i} disabled={running} className="min-w-0">
            <legend className="mb-1 flex w-full justify-between font-bold">{t(`pack.sign.${s.role}`)}</legend>
            {s.typed ? (
              <p className="grid aspect-[2/1] w-full place-items-center border border-ink bg-paper-hi p-4 text-center text-lead">
                {s.name.trim() || t('handover.type-name')}
              </p>
            ) : (
              <SignaturePad label={t('handover.signature-of', t(`pack.sign.${s.role}`))} onChange={(strokes) => set(i, { strokes })} />
            )}
            <label className="flex min-h-11 items-center gap-2 text-label">
              <input
                type="checkbox"
                className="h-5 w-5 accent-ink"
                checked={s.typed ?? false}
                onChange={(e) => set(i, { typed: e.target.checked, strokes: [] })}
              />
              {t('handover.by-name')}
            </label>
            <div className="mt-2 grid grid-cols-2 gap-x-3">
              <Labelled label={t('handover.name-label')}>
                <input className="field" maxLength={120} autoComplete="off" value={s.name} onChange={(e) => set(i, { name: e.target.value })} />
              </Labelled>
              <Labelled label={t('handover.position')}>
                <input
                  className="field"
                  maxLength={120}
                  autoComplete="off"
                  value={s.position}
                  onChange={(e) => set(i, { position: e.target.value })}
                />
              </Labelled>
            </div>
          </fieldset>
        ))}
      </div>
      {signers.length < 3 && (
        <button
          className="min-h-11 text-label font-semibold underline"
          onClick={() => setSigners([...signers, { role: 'witness', name: '', position: '', strokes: [] }])}
        >
          {t('handover.add-witness')}
        </button>
      )}
      <Labelled label={t('handover.reservations')}>
        <textarea className="field min-h-20" maxLength={4000} value={reservations} onChange={(e) => setReservations(e.target.value)} />
      </Labelled>
      <div className="grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
        <Labelled label={t('handover.of')}>
          <select className="field" value={of} onChange={(e) => setOf(e.target.value)}>
            <option value="">{t('handover.whole')}</option>
            {stops.map((s) => (
              <option key={s.id} value={s.id}>
                {s.label} {s.name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={t('handover.place')}>
          <input className="field" maxLength={120} value={place} onChange={(e) => setPlace(e.target.value)} />
        </Labelled>
        <fieldset>
          <legend className="mb-1 text-label font-semibold text-ink-2">{t('handover.languages')}</legend>
          <div className="flex gap-x-5">
            {answer.languages.map((l) => (
              <label key={l} className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="h-5 w-5 accent-ink"
                  checked={languages.includes(l)}
                  onChange={(e) => setLanguages(e.target.checked ? [...languages, l] : languages.filter((x) => x !== l))}
                />
                {t(`language.${l}`)}
              </label>
            ))}
          </div>
        </fieldset>
      </div>
      {trouble && (
        <p role="alert" className="my-2 font-semibold text-refused">
          {trouble}
        </p>
      )}
      {running ? (
        <Progress work={work} what={t('handover.making')} />
      ) : (
        <div className="mt-2 flex flex-wrap items-center gap-x-5">
          <button className="forward disabled:opacity-40" disabled={languages.length === 0} onClick={seal}>
            {signed.length > 0 ? t('handover.seal-signed', signed.length) : t('handover.seal-unsigned')}
          </button>
          {work?.state === 'cancelled' && <span className="font-semibold">{t('handover.stopped')}</span>}
        </div>
      )}
    </section>
  );
}

function Revisions({ jobId, revisions, zone }: { jobId: string; revisions: RevisionLine[]; zone: string }) {
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
                    <a key={name} className="flex min-h-9 items-center font-semibold underline" href={file(name)} target="_blank" rel="noreferrer">
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

const coverFields = ['site', 'client', 'contractor', 'contract', 'specification', 'standards', 'remarks'] as const;

function Cover({ jobId, cover, onKept }: { jobId: string; cover: HandoverCover; onKept: () => void }) {
  const [c, setC] = useState(cover);
  const keep = useMutation({
    mutationFn: () => answered(api.PUT('/api/jobs/{jobId}/handover/cover', { params: { path: { jobId } }, body: c })),
    onSuccess: onKept,
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
      {keep.error && (
        <p role="alert" className="font-semibold text-refused">
          {troubleOf(keep.error)}
        </p>
      )}
      <button className="plain disabled:opacity-40" disabled={!changed || keep.isPending} onClick={() => keep.mutate()}>
        {t('handover.keep-cover')}
      </button>
    </section>
  );
}

/** The job as one file, out and in; and the key that seals. Whose bundle it is, is looked at before anything of it is taken. */
function TakeAlong({ jobId, fingerprint }: { jobId: string; fingerprint: string }) {
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
        {trouble && (
          <p role="alert" className="mt-2 font-semibold text-refused">
            {trouble}
          </p>
        )}
        {ask && (
          <AskBundle
            ask={ask}
            by={by}
            onTake={() =>
              begin(answered(api.POST('/api/bundles/{workId}/take', { params: { path: { workId: ask.id } }, body: { key: ask.look.key, by } })))
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
          <a className="underline" href="/api/seal-key" download="walkdown-public-key.pem">
            {t('handover.public-key')}
          </a>
        </p>
        <p className="mt-2 text-label">{t('handover.key-backup')}</p>
        <p className="font-read select-all break-all text-label">./walkdown key backup walkdown-key.pem</p>
      </section>
    </>
  );
}

/** Anybody can seal a bundle: who did is shown, and somebody with a name takes it. */
function AskBundle({ ask, by, onTake, onLeave }: { ask: NonNullable<WorkAnswer['ask']>; by: string; onTake: () => void; onLeave: () => void }) {
  const [seen, setSeen] = useState(false);
  const { look, standing } = ask;
  const unknown = standing === 'unknown';
  return (
    <div className="mt-3 border-2 border-ink p-3" role="status">
      <p className="font-bold">{t(look.isNew ? 'handover.ask-new' : 'handover.ask-joined', look.name)}</p>
      <p className={`mt-1 text-label ${unknown ? 'font-semibold text-noted' : 'text-ink-2'}`}>{t(`handover.ask-${standing}`)}</p>
      <Fingerprint of={look.key} />
      {look.hasCatalogue && <p className="mt-1 text-label text-noted">{t('handover.ask-catalogue')}</p>}
      {unknown && (
        <label className="mt-2 flex min-h-11 items-center gap-3 text-label font-semibold">
          <input type="checkbox" className="h-5 w-5 accent-ink" checked={seen} onChange={(e) => setSeen(e.target.checked)} />
          {t('handover.ask-compared')}
        </label>
      )}
      {!by && <p className="mt-1 text-label text-refused">{t('ui.who')}</p>}
      <div className="mt-2 flex gap-3">
        <button className="forward disabled:opacity-40" disabled={(unknown && !seen) || !by} onClick={onTake}>
          {t('handover.ask-take')}
        </button>
        <button className="plain" onClick={onLeave}>
          {t('handover.ask-leave')}
        </button>
      </div>
    </div>
  );
}
