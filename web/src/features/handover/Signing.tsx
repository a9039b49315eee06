import { useCallback, useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import type { HandoverAnswer } from '../../api/types';
import { identity } from '../../session/identity';
import { useKept } from '../../session/kept';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Progress } from '../../ui/Progress';
import { SignaturePad } from '../../ui/SignaturePad';
import { SealQuestions } from './SealQuestions';
import { changed, emptyDraft, hasSigned, nameless, questions, signedBefore, type Signer, type SigningDraft } from './signers';
import { DraftPack } from './DraftPack';
import { useLongWork } from '../../api/useLongWork';
import { Trouble } from '../../ui/Trouble';

/**
 * Both sign on this screen; then everything is sealed in one piece. What was drawn and typed is kept until it is sealed or cleared: another
 * page, a reload, a turned phone do not take it. What came to the record after somebody signed is told, and whoever signed says whether it
 * holds.
 */
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
  const [draft, keepDraft] = useKept<SigningDraft>('signing', emptyDraft);
  const { signers, of, place, reservations, languages } = draft;
  const change = (next: Partial<SigningDraft>) => keepDraft(changed(draft, next, answer.shown));
  const [asking, setAsking] = useState(false);
  const [needsName, setNeedsName] = useState(-1);
  const names = useRef<(HTMLInputElement | null)[]>([]);
  const done = useCallback(() => {
    keepDraft(undefined);
    onSealed();
  }, [keepDraft, onSealed]);
  const { work, running, trouble, begin } = useLongWork(done);
  // Sealed while another page was looked at, or its answer never came.
  const isSealed = draft.sealing !== undefined && answer.revisions.some((r) => r.id === draft.sealing);
  useEffect(() => {
    if (isSealed) keepDraft(undefined);
  }, [isSealed, keepDraft]);
  const set = (i: number, next: Partial<Signer>) => change({ signers: signers.map((s, n) => (n === i ? { ...s, ...next } : s)) });
  const signed = signers.filter(hasSigned);
  const before = signedBefore(draft, answer.shown);
  const asked = questions(signers, of === '' && answer.newest > 0 && !answer.changed ? answer.newest : 0);
  const seal = () => {
    setAsking(false);
    const id = draft.sealing ?? v7();
    keepDraft({ ...draft, sealing: id });
    begin(sealed(id, new Date().toISOString(), of || null));
  };
  const press = () => {
    const at = nameless(signers);
    setNeedsName(at);
    if (at >= 0) names.current[at]?.focus();
    else if (asked.length > 0) setAsking(true);
    else seal();
  };
  /** What is signed is what this page showed: of one Card, what is asked for at the press; the record refuses anything that came since. */
  const sealed = async (id: string, at: string, device: string | null) => {
    const shown = device
      ? (await answered(api.GET('/api/jobs/{jobId}/handover/shown', { params: { path: { jobId }, query: { deviceId: device } } }))).shown
      : answer.shown;
    const follows = device ? Math.max(0, ...answer.revisions.filter((r) => r.deviceId === device).map((r) => r.number)) : answer.newest;
    return answered(
      api.POST('/api/jobs/{jobId}/handover/revisions', {
        params: { path: { jobId } },
        body: {
          id,
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
      <DraftPack jobId={jobId} of={of} languages={languages} shown={answer.shown} />
      <div className="mt-3 grid grid-cols-2 gap-x-8 gap-y-4 max-sm:grid-cols-1">
        {signers.map((s, i) => (
          <fieldset key={s.role + i} disabled={running} className="min-w-0">
            <legend className="mb-1 flex w-full justify-between font-bold">{t(`pack.sign.${s.role}`)}</legend>
            {s.typed ? (
              <p className="grid aspect-[2/1] w-full place-items-center border border-ink bg-paper-hi p-4 text-center text-lead">
                {s.name.trim() || t('handover.type-name')}
              </p>
            ) : (
              <SignaturePad
                label={t('handover.signature-of', t(`pack.sign.${s.role}`))}
                strokes={s.strokes}
                onChange={(strokes) => set(i, { strokes })}
              />
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
                <input
                  ref={(field) => {
                    names.current[i] = field;
                  }}
                  className="field"
                  maxLength={120}
                  autoComplete="off"
                  value={s.name}
                  aria-invalid={needsName === i && !s.name.trim()}
                  aria-describedby={needsName === i ? 'needs-name' : undefined}
                  onChange={(e) => set(i, { name: e.target.value })}
                />
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
            {needsName === i && !s.name.trim() && (
              <p id="needs-name" role="alert" className="font-semibold text-refused">
                {t('handover.needs-name')}
              </p>
            )}
          </fieldset>
        ))}
      </div>
      {signers.length < 3 && (
        <button
          className="min-h-11 text-label font-semibold underline"
          onClick={() => change({ signers: [...signers, { role: 'witness', name: '', position: '', strokes: [] }] })}
        >
          {t('handover.add-witness')}
        </button>
      )}
      <Labelled label={t('handover.reservations')}>
        <textarea
          className="field min-h-20"
          maxLength={4000}
          value={reservations}
          onChange={(e) => change({ reservations: e.target.value })}
        />
      </Labelled>
      <div className="grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
        <Labelled label={t('handover.of')}>
          <select className="field" value={of} onChange={(e) => change({ of: e.target.value })}>
            <option value="">{t('handover.whole')}</option>
            {stops.map((s) => (
              <option key={s.id} value={s.id}>
                {s.label} {s.name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={t('handover.place')}>
          <input className="field" maxLength={120} value={place} onChange={(e) => change({ place: e.target.value })} />
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
                  onChange={(e) => change({ languages: e.target.checked ? [...languages, l] : languages.filter((x) => x !== l) })}
                />
                {t(`language.${l}`)}
              </label>
            ))}
          </div>
        </fieldset>
      </div>
      <Trouble text={trouble} className="my-2" />
      {before && !running && (
        <div role="alert" className="my-3 border border-noted p-3">
          <p className="font-semibold">{t('handover.signed-before')}</p>
          <div className="flex flex-wrap gap-x-5">
            <button className="plain" onClick={() => keepDraft({ ...draft, shown: answer.shown })}>
              {t('handover.still-holds')}
            </button>
            <button
              className="min-h-11 text-label font-semibold underline"
              onClick={() => change({ signers: signers.map((s) => ({ ...s, strokes: [], typed: false })) })}
            >
              {t('handover.sign-again')}
            </button>
          </div>
        </div>
      )}
      {running ? (
        <Progress work={work} what={t('handover.making')} />
      ) : (
        <div className="mt-2 flex flex-wrap items-center gap-x-5">
          <button
            className={asked.length > 0 ? 'plain disabled:opacity-40' : 'forward disabled:opacity-40'}
            disabled={languages.length === 0 || before}
            onClick={press}
          >
            {signed.length > 0 ? t('handover.seal-signed', signed.length) : t('handover.seal-unsigned')}
          </button>
          {work?.state === 'cancelled' && <span className="font-semibold">{t('handover.stopped')}</span>}
        </div>
      )}
      {asking && <SealQuestions asked={asked} signed={signed.length} onSeal={seal} onClose={() => setAsking(false)} />}
    </section>
  );
}
