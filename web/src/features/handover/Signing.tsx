import { useCallback, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import type { HandoverAnswer } from '../../api/types';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Progress } from '../../ui/Progress';
import { SignaturePad, type Strokes } from '../../ui/SignaturePad';
import { useLongWork } from './useLongWork';

type Signer = { role: 'technician' | 'client' | 'witness'; name: string; position: string; strokes: Strokes; typed?: boolean };

/** Both sign on this screen; then everything is sealed in one piece. What was drawn is gone when the state changes under it. */
export function Signing({
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
