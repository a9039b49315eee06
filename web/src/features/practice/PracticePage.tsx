import { Radios } from '../../ui/Radios';
import { Link } from '@tanstack/react-router';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import { useWork } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { CatalogueFile, DeviceKind, DeviceModel, OwnCatalogueAnswer, PracticeSettings, WorkAnswer } from '../../api/types';
import { identity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { has, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { dayAndClock, moment } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { Progress } from '../../ui/Progress';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import { Fingerprint } from '../../ui/Fingerprint';
import '../pageTexts';

type Limit = OwnCatalogueAnswer['limits'][number];
type Figure = OwnCatalogueAnswer['figures'][number];
type Check = OwnCatalogueAnswer['checks'][number];

export default function PracticePage() {
  const { job, jobs } = useJob();
  const practice = useQuery({
    queryKey: ['practice', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/practice', { params: { path: { jobId: job!.id } } })),
  });
  const own = useQuery({ queryKey: ['own'], queryFn: () => answered(api.GET('/api/catalogue/own')) });
  if (!job || !practice.data || !own.data)
    return <Waiting error={jobs.error ?? practice.error ?? own.error} again={() => (void practice.refetch(), void own.refetch())} />;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('practice.title')}</h1>
      <div className="mt-4 grid gap-x-12 gap-y-8 min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,1.9fr)]">
        <School key={JSON.stringify(practice.data.settings)} jobId={job.id} zone={job.timeZone} answer={practice.data} />
        <CatalogueEditor key={own.data.own.edition ?? 0} jobId={job.id} zone={job.timeZone} answer={own.data} />
      </div>
    </main>
  );
}

type Started = { data?: WorkAnswer; error?: unknown; response: Response };

/** A change is tried on every Card first, then put in force with who and why; both can be long and are watched. */
function Putting({ attempt, put, onDone }: { attempt: () => Promise<Started>; put: (why: string) => Promise<Started>; onDone: () => void }) {
  const client = useQueryClient();
  const [why, setWhy] = useState('');
  const [workId, setWorkId] = useState<string>();
  const [step, setStep] = useState<'look' | 'put'>('look');
  const start = useMutation({
    mutationFn: (what: 'look' | 'put') => answered(what === 'look' ? attempt() : put(why)),
    onSuccess: (work, what) => {
      setStep(what);
      setWorkId(work.id);
    },
  });
  const work = useWork(workId);
  const state = workId ? work.data?.state : undefined;
  const impact = state === 'done' ? (work.data?.impact ?? undefined) : undefined;
  const finished = step === 'put' && state === 'done';
  useEffect(() => {
    if (!finished) return;
    void client.invalidateQueries().then(onDone);
  }, [finished, client, onDone]);
  if (workId && (!state || state === 'running'))
    return <Progress work={work.data} what={t(step === 'look' ? 'practice.looking' : 'practice.putting')} canCancel={step === 'look'} />;
  if (finished)
    return (
      <p role="status" className="my-3 font-bold">
        {t('practice.done')}
      </p>
    );
  return (
    <div className="my-3 border-l-4 border-accent pl-4">
      {impact && step === 'look' ? (
        <div role="status">
          <p className="font-bold">
            {impact.cards === 0 ? t('practice.touches-none') : t('practice.touches', impact.cards, impact.ofCards, impact.verdicts)}
          </p>
          <ul className="my-2 max-h-40 overflow-y-auto">
            {impact.lines.slice(0, 60).map((l) => (
              <li key={l.deviceId} className="flex items-center gap-2 border-b border-hairline py-1 text-label">
                <Link to="/card/$deviceId" params={{ deviceId: l.deviceId }} className="font-read font-bold underline">
                  {l.label}
                </Link>
                {l.from !== l.to && (
                  <span className="flex items-center gap-1.5">
                    <VerdictMark verdict={l.from} size={13} /> {t(`verdict.${l.from}`)} &gt; <VerdictMark verdict={l.to} size={13} />{' '}
                    {t(`verdict.${l.to}`)}
                  </span>
                )}
                <span className="ml-auto text-ink-2">
                  {(
                    [
                      [l.rowsAdded, 'practice.rows-new'],
                      [l.rowsGone, 'practice.rows-gone'],
                      [l.rowsOtherwise, 'practice.rows-otherwise'],
                    ] as const
                  )
                    .filter(([n]) => n > 0)
                    .map(([n, what]) => t(what, n))
                    .join(', ')}
                </span>
              </li>
            ))}
          </ul>
          <Labelled label={t('practice.why-label')}>
            <input className="field" value={why} maxLength={400} onChange={(e) => setWhy(e.target.value)} />
          </Labelled>
          <button className="forward disabled:opacity-50" disabled={!why.trim() || start.isPending} onClick={() => start.mutate('put')}>
            {t('practice.put')}
          </button>
        </div>
      ) : (
        <button className="forward" disabled={start.isPending} onClick={() => start.mutate('look')}>
          {t('practice.look')}
        </button>
      )}
      {(start.error || state === 'failed') && (
        <p role="alert" className="mt-2 font-semibold text-refused">
          {state === 'failed' ? work.data?.why : troubleOf(start.error)}
        </p>
      )}
    </div>
  );
}

function Editions({ list, zone }: { list: { version: number; why: string; by: string; at: string }[]; zone: string }) {
  if (list.length === 0) return null;
  return (
    <>
      <h3 className="mt-5 text-label font-bold text-ink-2">{t('practice.editions')}</h3>
      <ol>
        {list.slice(0, 8).map((e) => (
          <li key={e.version} className="border-b border-hairline py-1 text-label">
            <span className="font-read font-bold">{e.version}</span> {e.why}. <span className="text-ink-2">{`${e.by}, ${moment(e.at, zone)}`}</span>
          </li>
        ))}
      </ol>
    </>
  );
}

function School({
  jobId,
  zone,
  answer,
}: {
  jobId: string;
  zone: string;
  answer: { settings: PracticeSettings; editions: { version: number; why: string; by: string; at: string }[] };
}) {
  const [draft, setDraft] = useState(answer.settings);
  const changed = JSON.stringify(draft) !== JSON.stringify(answer.settings);
  const path = { params: { path: { jobId } } };
  const choice = (label: string, options: [string, boolean, Partial<PracticeSettings>][], hint?: string) => (
    <fieldset className="mb-4">
      <legend className="text-label font-semibold text-ink-2">{label}</legend>
      <Radios label={label}>
        {options.map(([text, on, next]) => (
          <button
            key={text}
            role="radio"
            aria-checked={on}
            className={`flex min-h-11 w-full items-center gap-3 border-b border-hairline px-1 ${on ? 'font-bold' : ''}`}
            onClick={() => setDraft({ ...draft, ...next })}
          >
            <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden className="shrink-0">
              <circle cx="8" cy="8" r="6.5" fill="none" stroke="currentColor" strokeWidth="1.6" />
              {on && <circle cx="8" cy="8" r="3.6" fill="currentColor" />}
            </svg>
            {text}
          </button>
        ))}
      </Radios>
      {hint && <p className="mt-1 text-tick text-ink-3">{hint}</p>}
    </fieldset>
  );
  return (
    <section>
      <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('practice.school')}</h2>
      <p className="mb-3 text-label text-ink-2">{t('practice.school-hint')}</p>
      {choice(t('practice.rule'), [
        [t('practice.rule.guarded'), draft.rule === 'guarded', { rule: 'guarded' }],
        [t('practice.rule.simple'), draft.rule === 'simple', { rule: 'simple' }],
      ])}
      {choice(
        t('practice.scheme'),
        [
          [t('practice.scheme.t568A'), draft.scheme === 't568A' && !draft.matchFarEnd, { scheme: 't568A', matchFarEnd: false }],
          [t('practice.scheme.t568B'), draft.scheme === 't568B' && !draft.matchFarEnd, { scheme: 't568B', matchFarEnd: false }],
          [t('practice.scheme.match'), draft.matchFarEnd, { matchFarEnd: true }],
        ],
        t('practice.scheme-hint'),
      )}
      {choice(t('practice.order'), [
        [t('practice.bench'), draft.benchFirst, { benchFirst: true }],
        [t('practice.mount'), !draft.benchFirst, { benchFirst: false }],
      ])}
      {choice(t('practice.start'), [
        [t('practice.start-recorder'), !draft.switchFirst, { switchFirst: false }],
        [t('practice.start-switch'), draft.switchFirst, { switchFirst: true }],
      ])}
      {choice(
        t('practice.unexpected'),
        [
          [t('practice.unexpected-noted'), !draft.unexpectedRefuses, { unexpectedRefuses: false }],
          [t('practice.unexpected-refuses'), draft.unexpectedRefuses, { unexpectedRefuses: true }],
        ],
        t('practice.unexpected-hint'),
      )}
      {changed && (
        <>
          <Putting
            key={JSON.stringify(draft)}
            attempt={() => api.POST('/api/jobs/{jobId}/practice/impact', { ...path, body: draft })}
            put={(why) => api.POST('/api/jobs/{jobId}/practice', { ...path, body: { settings: draft, why, by: identity().personId ?? '' } })}
            onDone={() => {}}
          />
          <button className="min-h-11 text-label font-semibold underline" onClick={() => setDraft(answer.settings)}>
            {t('practice.put-back')}
          </button>
        </>
      )}
      <Editions list={answer.editions} zone={zone} />
    </section>
  );
}

const empty: CatalogueFile = {
  $schema: null,
  checks: [],
  kinds: [],
  models: [],
  limitSet: null,
  limits: [],
  figures: [],
  acts: [],
  causes: [],
  instrumentKinds: [],
  overrides: true,
  edition: null,
  texts: {},
};

/** Catalogues that came along with bundles: in force nowhere, until somebody looks at what they change and puts them in force as the company's own. */
function Proposals({ zone, onLoad }: { zone: string; onLoad: (own: CatalogueFile) => void }) {
  const proposals = useQuery({ queryKey: ['own', 'proposals'], queryFn: () => answered(api.GET('/api/catalogue/proposals')) });
  if (!proposals.data || proposals.data.length === 0) return null;
  return (
    <section className="mb-3 border-l-2 border-noted pl-3" aria-label={t('practice.proposals')}>
      <h3 className="text-label font-bold">{t('practice.proposals')}</h3>
      {proposals.data.map((p) => (
        <div key={p.id} className="text-label">
          <p>
            {p.why} <span className="text-ink-2">{t('practice.proposal-came', dayAndClock(p.at, zone))}</span>
          </p>
          <Fingerprint of={p.from} />
          {p.problems.map((x, i) => (
            <p key={i} className="text-refused">
              {t('catalogue.problem', x.file, x.what)}
            </p>
          ))}
          <button className="min-h-9 font-semibold underline" onClick={() => onLoad(p.own)}>
            {t('practice.proposal-load')}
          </button>
        </div>
      ))}
    </section>
  );
}

const with_ = <T extends { id: string }>(list: T[], item: T): T[] => [...list.filter((x) => x.id !== item.id), item];

function CatalogueEditor({ jobId, zone, answer }: { jobId: string; zone: string; answer: OwnCatalogueAnswer }) {
  const kept: CatalogueFile = { ...empty, ...answer.own };
  const [draft, setDraft] = useState<CatalogueFile>(kept);
  const [part, setPart] = useState<'models' | 'kinds' | 'limits' | 'checks'>('models');
  const [model, setModel] = useState<DeviceModel | 'new'>();
  const [kind, setKind] = useState<DeviceKind | 'new'>();
  const [limit, setLimit] = useState<Limit | Figure>();
  const [check, setCheck] = useState<Check | 'new'>();
  const parts = ['models', 'kinds', 'limits', 'figures', 'checks'] as const;
  const count = parts.reduce((n, p) => {
    const was = new Map(kept[p].map((x) => [x.id, JSON.stringify(x)]));
    return n + draft[p].filter((x) => was.get(x.id) !== JSON.stringify(x)).length;
  }, 0);
  const path = { params: { path: { jobId } } };
  const models = draft.models.reduce((list, m) => with_(list, m), answer.models);
  const kinds = draft.kinds.reduce((list, k) => with_(list, k), answer.kinds);
  const limits = draft.limits.reduce((list, l) => with_(list, l), answer.limits);
  const figures = draft.figures.reduce((list, f) => with_(list, f), answer.figures);
  // A check that ships is in the own file only where it was made required, or optional again.
  const ships = (id: string) => has(`check.${id}`);
  const ownChecks = draft.checks.filter((c) => !ships(c.id));
  const optional = answer.checks
    .filter((c) => ships(c.id) && (c.required.always === false || kept.checks.some((x) => x.id === c.id)))
    .map((c) => draft.checks.find((x) => x.id === c.id) ?? c);
  const isOwn = (p: (typeof parts)[number], id: string) => draft[p].some((x) => x.id === id);
  const nameOfKind = (id: string) => draft.texts.en?.[`kind.${id}`] ?? t(`kind.${id}`);
  const row = 'flex min-h-11 w-full items-baseline gap-3 border-b border-hairline py-2 text-left';
  return (
    <section>
      <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('practice.catalogue')}</h2>
      <p className="mb-2 text-label text-ink-2">{answer.edition}</p>
      <Proposals zone={zone} onLoad={(own) => setDraft({ ...empty, ...own })} />
      <nav className="mb-2 flex flex-wrap gap-5" aria-label={t('practice.catalogue')}>
        {(['models', 'kinds', 'limits', 'checks'] as const).map((p) => (
          <button
            key={p}
            aria-current={part === p}
            className={`min-h-9 border-b-2 ${part === p ? 'border-ink font-bold' : 'border-transparent'}`}
            onClick={() => setPart(p)}
          >
            {t(`practice.${p}`)}
          </button>
        ))}
      </nav>
      {count > 0 && (
        <div>
          <p className="font-bold" role="status">
            {t('practice.draft', count)}
          </p>
          <Putting
            key={JSON.stringify(draft)}
            attempt={() => api.POST('/api/jobs/{jobId}/catalogue/impact', { ...path, body: { own: draft } })}
            put={(why) => api.POST('/api/jobs/{jobId}/catalogue', { ...path, body: { own: draft, why, by: identity().personId ?? '' } })}
            onDone={() => {}}
          />
          <button className="min-h-11 text-label font-semibold underline" onClick={() => setDraft(kept)}>
            {t('practice.put-back')}
          </button>
        </div>
      )}
      {part === 'models' && (
        <>
          <ul>
            {[...models]
              .sort((a, b) => a.id.localeCompare(b.id))
              .map((m) => (
                <li key={m.id}>
                  <button className={row} onClick={() => setModel(m)}>
                    <span className="w-36 shrink-0 font-bold">{m.id}</span>
                    <span className="text-label text-ink-2">{nameOfKind(m.kind)}</span>
                    <span className="ml-auto font-read text-label">
                      {[
                        m.powerClass !== null && `${t('term.class')} ${m.powerClass}`,
                        m.wattsInfraredOff && `${m.wattsInfraredOff} W`,
                        m.wattsInfraredOn && `${m.wattsInfraredOn} W`,
                      ]
                        .filter(Boolean)
                        .join(', ')}
                      {m.unknown.length > 0 && <span className="text-ink-2">{`, ${m.unknown.length} ${t('practice.unknown')}`}</span>}
                      {isOwn('models', m.id) && `, ${t('practice.own')}`}
                    </span>
                  </button>
                </li>
              ))}
          </ul>
          <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setModel('new')}>
            {t('practice.add-model')}
          </button>
        </>
      )}
      {part === 'kinds' && (
        <>
          <ul>
            {kinds.map((k) => (
              <li key={k.id}>
                <button className={row} onClick={() => setKind(k)}>
                  <span className="w-52 shrink-0 font-bold">{nameOfKind(k.id)}</span>
                  <span className="text-label text-ink-2">{k.features.map(featureName).join(', ')}</span>
                  {isOwn('kinds', k.id) && <span className="ml-auto text-label">{t('practice.own')}</span>}
                </button>
              </li>
            ))}
          </ul>
          <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setKind('new')}>
            {t('practice.add-kind')}
          </button>
        </>
      )}
      {part === 'limits' && (
        <ul>
          {[...limits, ...figures].map((l) => (
            <li key={l.id}>
              <button className={row} onClick={() => setLimit(l)}>
                <span className="w-64 shrink-0 font-read text-label font-bold">{l.id}</span>
                <span className="font-read text-label">
                  {'value' in l ? l.value : [l.min !== null && `${l.min}`, l.max !== null && `${l.max}`].filter(Boolean).join(' / ')}
                  {'unit' in l && ` ${t(`unit.${l.unit}`)}`}
                </span>
                <span className="ml-auto truncate text-label text-ink-2">
                  {l.source}
                  {(isOwn('limits', l.id) || isOwn('figures', l.id)) && `, ${t('practice.own')}`}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {part === 'checks' && (
        <>
          {ownChecks.length === 0 && <p className="py-2 text-ink-2">{t('practice.no-own')}</p>}
          <ul>
            {ownChecks.map((c) => (
              <li key={c.id}>
                <button className={row} onClick={() => setCheck(c)}>
                  <span className="font-bold">{draft.texts.en?.[`check.${c.id}`] ?? c.id}</span>
                  <span className="ml-auto text-label text-ink-2">{`${t(`section.${c.section}`)}, ${c.applies.feature ? featureName(c.applies.feature) : ''}`}</span>
                </button>
              </li>
            ))}
          </ul>
          <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setCheck('new')}>
            {t('practice.add-check')}
          </button>
          <h3 className="mt-4 border-t border-ink pt-2 font-bold">{t('practice.optional')}</h3>
          <p className="text-label text-ink-2">{t('practice.optional-hint')}</p>
          <ul className="mt-1 grid grid-cols-2 gap-x-8 max-sm:grid-cols-1">
            {optional.map((c) => (
              <li key={c.id} className="border-b border-hairline">
                <label className="flex min-h-11 items-center gap-3">
                  <input
                    type="checkbox"
                    className="h-5 w-5 shrink-0 accent-ink"
                    checked={c.required.always !== false}
                    onChange={(e) =>
                      setDraft({ ...draft, checks: with_(draft.checks, { ...c, required: { ...c.required, always: e.target.checked } }) })
                    }
                  />
                  <span className="font-semibold">{t(`check.${c.id}`)}</span>
                  <span className="ml-auto text-label text-ink-2">{t(`section.${c.section}`)}</span>
                </label>
              </li>
            ))}
          </ul>
        </>
      )}
      <Editions list={answer.editions} zone={zone} />
      {model && (
        <ModelSheet
          model={model === 'new' ? undefined : model}
          kinds={kinds.map((k) => [k.id, nameOfKind(k.id)])}
          onClose={() => setModel(undefined)}
          onSave={(m) => (setDraft({ ...draft, models: with_(draft.models, m) }), setModel(undefined))}
        />
      )}
      {kind && (
        <KindSheet
          kind={kind === 'new' ? undefined : kind}
          name={kind === 'new' ? '' : nameOfKind(kind.id)}
          features={answer.features}
          onClose={() => setKind(undefined)}
          onSave={(k, name) => {
            setDraft({ ...draft, kinds: with_(draft.kinds, k), texts: { ...draft.texts, en: { ...draft.texts.en, [`kind.${k.id}`]: name } } });
            setKind(undefined);
          }}
        />
      )}
      {limit && (
        <LimitSheet
          entry={limit}
          onClose={() => setLimit(undefined)}
          onSave={(l) => {
            setDraft('value' in l ? { ...draft, figures: with_(draft.figures, l) } : { ...draft, limits: with_(draft.limits, l) });
            setLimit(undefined);
          }}
        />
      )}
      {check && (
        <CheckSheet
          check={check === 'new' ? undefined : check}
          words={check === 'new' ? undefined : draft.texts.en}
          limit={check === 'new' ? undefined : draft.limits.find((l) => l.id === `own.${check.id}`)}
          features={answer.features}
          onClose={() => setCheck(undefined)}
          onSave={(c, texts, l) => {
            setDraft({
              ...draft,
              checks: with_(draft.checks, c),
              limits: l ? with_(draft.limits, l) : draft.limits.filter((x) => x.id !== `own.${c.id}`),
              texts: { ...draft.texts, en: { ...draft.texts.en, ...texts } },
            });
            setCheck(undefined);
          }}
        />
      )}
    </section>
  );
}

const featureName = (f: string) => (has(`feature.${f}`) ? t(`feature.${f}`) : f);
const figures = [
  'powerClass',
  'wattsInfraredOff',
  'wattsInfraredOn',
  'speedMbps',
  'tiltLeast',
  'tiltGreatest',
  'heightLeastMetres',
  'heightGreatestMetres',
  'boxSessionMinutes',
  'bootSecondsLeast',
  'bootSecondsMost',
] as const;
const toNumber = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));
const slug = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

type LightDraft = { id: string; colour: string; rhythm: string; state: NonNullable<DeviceModel['lights']>[number]['state'] & string };
const lightStates = ['connected', 'addressHeldNoRecorder', 'lookingForAddress', 'starting', 'pairing', 'updating', 'noLink', 'fault'] as const;

function ModelSheet({
  model,
  kinds,
  onClose,
  onSave,
}: {
  model?: DeviceModel;
  kinds: [string, string][];
  onClose: () => void;
  onSave: (m: DeviceModel) => void;
}) {
  const [id, setId] = useState(model?.id ?? '');
  const [kind, setKind] = useState(model?.kind ?? kinds[0]?.[0] ?? '');
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(figures.map((f) => [f, model?.[f] === null || !model ? '' : String(model[f])])),
  );
  const [unknown, setUnknown] = useState(new Set(model?.unknown ?? []));
  const [firmware, setFirmware] = useState(model?.firmware ?? '');
  const [needsRecorder, setNeedsRecorder] = useState(model?.needsRecorder ?? '');
  const [lights, setLights] = useState<LightDraft[]>(() =>
    (model?.lights ?? []).map((l) => ({ id: l.id!, colour: l.colour!, rhythm: l.rhythmMs!.join(' '), state: l.state! })),
  );
  const rhythm = (text: string) =>
    text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
  const badLight = lights.some((l) => rhythm(l.rhythm).length === 0 || rhythm(l.rhythm).some((ms) => !Number.isInteger(ms) || ms < 20 || ms > 10000));
  const bad = figures.some((f) => Number.isNaN(toNumber(values[f] ?? '') ?? 0));
  const save = () =>
    onSave({
      features: model?.features ?? [],
      ...(Object.fromEntries(figures.map((f) => [f, unknown.has(f) ? null : toNumber(values[f] ?? '')])) as Record<
        (typeof figures)[number],
        number | null
      >),
      id: id.trim(),
      kind,
      unknown: [...unknown],
      firmware: firmware.trim() || null,
      needsRecorder: needsRecorder.trim() || null,
      contents: model?.contents ?? [],
      lights: lights.map((l, i) => ({
        id: l.id || `${l.colour}-${i + 1}`,
        colour: l.colour,
        rhythmMs: rhythm(l.rhythm),
        state: l.state,
      })),
    });
  return (
    <Sheet title={model?.id ?? t('practice.add-model')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('practice.name')}>
          <input className="field" value={id} disabled={!!model} maxLength={80} onChange={(e) => setId(e.target.value)} />
        </Labelled>
        <Labelled label={t('kit.kind')}>
          <select className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
            {kinds.map(([k, name]) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        {figures.map((f) => (
          <div key={f} className="mb-2">
            <span className="mb-1 block text-label font-semibold text-ink-2">{t(`model.${f}`)}</span>
            <span className="flex items-center gap-3">
              <input
                aria-label={t(`model.${f}`)}
                className="field font-read !min-h-10 disabled:opacity-50"
                inputMode="decimal"
                disabled={unknown.has(f)}
                value={unknown.has(f) ? '' : (values[f] ?? '')}
                onChange={(e) => setValues({ ...values, [f]: e.target.value })}
              />
              <label className="flex items-center gap-2 whitespace-nowrap text-label">
                <input
                  type="checkbox"
                  className="h-5 w-5 accent-ink"
                  checked={unknown.has(f)}
                  onChange={() => {
                    const next = new Set(unknown);
                    if (!next.delete(f)) next.add(f);
                    setUnknown(next);
                  }}
                />
                {t('practice.unknown')}
              </label>
            </span>
          </div>
        ))}
      </div>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('model.firmware')}>
          <input className="field font-read" value={firmware} maxLength={40} onChange={(e) => setFirmware(e.target.value)} />
        </Labelled>
        <Labelled label={t('model.needsRecorder')}>
          <input className="field font-read" value={needsRecorder} maxLength={40} onChange={(e) => setNeedsRecorder(e.target.value)} />
        </Labelled>
      </div>
      <fieldset>
        <legend className="text-label font-semibold text-ink-2">{t('practice.lights')}</legend>
        {lights.map((l, i) => {
          const change = (next: Partial<LightDraft>) => setLights(lights.map((x, n) => (n === i ? { ...x, ...next } : x)));
          return (
            <div key={i} className="grid grid-cols-[110px_1fr_200px_auto] items-center gap-2 py-1 max-sm:grid-cols-2">
              <select
                aria-label={t('practice.light-colour')}
                className="field !min-h-9"
                value={l.colour}
                onChange={(e) => change({ colour: e.target.value })}
              >
                {['green', 'amber', 'red', 'blue', 'white'].map((c) => (
                  <option key={c} value={c}>
                    {t(`colour.light.${c}`)}
                  </option>
                ))}
              </select>
              <input
                aria-label={t('practice.light-rhythm')}
                className="field font-read !min-h-9"
                value={l.rhythm}
                onChange={(e) => change({ rhythm: e.target.value })}
              />
              <select
                aria-label={t('practice.light-state')}
                className="field !min-h-9"
                value={l.state}
                onChange={(e) => change({ state: e.target.value as LightDraft['state'] })}
              >
                {lightStates.map((s) => (
                  <option key={s} value={s}>
                    {t(`light.${s}`)}
                  </option>
                ))}
              </select>
              <button className="min-h-9 text-label underline" onClick={() => setLights(lights.filter((_, n) => n !== i))}>
                {t('kit.remove')}
              </button>
            </div>
          );
        })}
        <button
          className="min-h-11 text-label font-semibold underline"
          onClick={() => setLights([...lights, { id: '', colour: 'green', rhythm: '500 500', state: 'connected' }])}
        >
          {t('practice.add-light')}
        </button>
        <p className="text-tick text-ink-2">{t('practice.light-hint')}</p>
      </fieldset>
      <button className="forward mt-2 w-full text-center disabled:opacity-50" disabled={!id.trim() || bad || badLight} onClick={save}>
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

function KindSheet({
  kind,
  name: known,
  features: all,
  onClose,
  onSave,
}: {
  kind?: DeviceKind;
  name: string;
  features: string[];
  onClose: () => void;
  onSave: (k: DeviceKind, name: string) => void;
}) {
  const [name, setName] = useState(known);
  const [features, setFeatures] = useState(new Set(kind?.features ?? ['camera', 'cable', 'poe']));
  const [words, setWords] = useState((kind?.words ?? []).join(', '));
  const save = () =>
    onSave(
      {
        id: kind?.id ?? slug(name),
        features: [...features],
        powerClass: kind?.powerClass ?? null,
        wattsInfraredOff: kind?.wattsInfraredOff ?? null,
        wattsInfraredOn: kind?.wattsInfraredOn ?? null,
        speedMbps: kind?.speedMbps ?? null,
        words: words
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean),
      } as DeviceKind,
      name.trim(),
    );
  return (
    <Sheet title={known || t('practice.add-kind')} onClose={onClose}>
      <Labelled label={t('practice.name')}>
        <input className="field" value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <Labelled label={t('practice.words')}>
        <input className="field" value={words} maxLength={300} onChange={(e) => setWords(e.target.value)} />
      </Labelled>
      <fieldset className="mb-3">
        <legend className="text-label font-semibold text-ink-2">{t('practice.features')}</legend>
        <div className="grid grid-cols-2">
          {all.map((f) => (
            <label key={f} className="flex min-h-10 items-center gap-2 text-label">
              <input
                type="checkbox"
                className="h-5 w-5 accent-ink"
                checked={features.has(f)}
                onChange={() => {
                  const next = new Set(features);
                  if (!next.delete(f)) next.add(f);
                  setFeatures(next);
                }}
              />
              {featureName(f)}
            </label>
          ))}
        </div>
      </fieldset>
      <button className="forward w-full text-center disabled:opacity-50" disabled={!slug(name)} onClick={save}>
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

function LimitSheet({ entry, onClose, onSave }: { entry: Limit | Figure; onClose: () => void; onSave: (l: Limit | Figure) => void }) {
  const isFigure = 'value' in entry;
  const [form, setForm] = useState({
    value: isFigure ? String(entry.value) : '',
    min: isFigure || entry.min === null ? '' : String(entry.min),
    max: isFigure || entry.max === null ? '' : String(entry.max),
    source: entry.source,
    purpose: isFigure ? '' : entry.purpose,
  });
  const fields = isFigure ? (['value', 'source'] as const) : (['min', 'max', 'source', 'purpose'] as const);
  const bad =
    ['value', 'min', 'max'].some((k) => Number.isNaN(toNumber(form[k as 'value']) ?? 0)) ||
    !form.source.trim() ||
    (isFigure ? form.value.trim() === '' : !form.min.trim() && !form.max.trim());
  return (
    <Sheet title={entry.id} onClose={onClose}>
      {fields.map((f) => (
        <Labelled key={f} label={`${t(`practice.${f}`)}${'unit' in entry && (f === 'min' || f === 'max') ? `, ${t(`unit.${entry.unit}`)}` : ''}`}>
          <input
            className={`field ${f === 'source' || f === 'purpose' ? '' : 'font-read'}`}
            value={form[f]}
            maxLength={200}
            onChange={(e) => setForm({ ...form, [f]: e.target.value })}
          />
        </Labelled>
      ))}
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={bad}
        onClick={() =>
          onSave(
            isFigure
              ? { ...entry, value: toNumber(form.value)!, source: form.source.trim() }
              : { ...entry, min: toNumber(form.min), max: toNumber(form.max), source: form.source.trim(), purpose: form.purpose.trim() },
          )
        }
      >
        {t('ui.done')}
      </button>
    </Sheet>
  );
}

const sections = ['before', 'bench', 'cable', 'fixing', 'power', 'link', 'address', 'time', 'recorder', 'aim', 'focus', 'night', 'finish'] as const;
const legs = ['recorder', 'port', 'run', 'power', 'link', 'address', 'picture', 'fixing'] as const;

function CheckSheet({
  check,
  words,
  limit,
  features,
  onClose,
  onSave,
}: {
  check?: Check;
  words?: Record<string, string>;
  limit?: Limit;
  features: string[];
  onClose: () => void;
  onSave: (c: Check, texts: Record<string, string>, limit?: Limit) => void;
}) {
  const [form, setForm] = useState({
    name: (check && words?.[`check.${check.id}`]) ?? '',
    ask: (check && words?.[`check.${check.id}.ask`]) ?? '',
    entry: check?.entry ?? 'yesNo',
    unit: check && check.unit !== 'none' ? check.unit : 'percent',
    section: check?.section ?? 'finish',
    leg: check?.leg ?? 'fixing',
    feature: check?.applies.feature ?? 'camera',
    min: limit?.min === null || !limit ? '' : String(limit.min),
    max: limit?.max === null || !limit ? '' : String(limit.max),
    source: limit?.source ?? '',
    required: check ? check.required.always !== false : true,
    out: (check?.items ?? [])
      .filter((i) => i.out)
      .map((i) => words?.[`item.${i.id}`] ?? i.id)
      .join('\n'),
    care: (check?.items ?? [])
      .filter((i) => !i.out)
      .map((i) => words?.[`item.${i.id}`] ?? i.id)
      .join('\n'),
  });
  const set = (next: Partial<typeof form>) => setForm({ ...form, ...next });
  const id = check?.id ?? `own.${slug(form.name)}`;
  const isNumber = form.entry === 'number';
  const isList = form.entry === 'list';
  const lines = (text: string) =>
    text
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean);
  const none = { all: null, any: null, not: null, feature: null, kind: null, always: null };
  const items = [...lines(form.out).map((l) => [l, true] as const), ...lines(form.care).map((l) => [l, false] as const)].map(([text, out]) => ({
    text,
    item: { id: `${id}.${slug(text)}`, applies: none, out, bring: false, loose: false },
  }));
  const limited = isNumber && (form.min.trim() || form.max.trim());
  const bad =
    !form.name.trim() ||
    !form.ask.trim() ||
    (isList && items.length === 0) ||
    (limited && !form.source.trim()) ||
    [form.min, form.max].some((x) => Number.isNaN(toNumber(x) ?? 0));
  const save = () => {
    const rule = { all: null, any: null, not: null, feature: null, kind: null, always: null };
    onSave(
      {
        ...(check ?? {}),
        id,
        version: (check?.version ?? 0) + 1,
        section: form.section,
        leg: form.leg,
        entry: form.entry,
        unit: isNumber ? form.unit : 'none',
        decimals: 1,
        plausible: null,
        choices: [],
        per: 'place',
        partsFrom: null,
        under: ['any'],
        applies: { ...rule, feature: form.feature },
        required: form.required ? rule : { ...rule, always: false },
        gates: [],
        voidedBy: check?.voidedBy ?? ['unit-swapped'],
        ofUnit: false,
        limits: limited ? [`set:own.${id}`] : [],
        expect: isNumber || isList ? null : 'yes',
        judge: isNumber ? 'window' : isList ? 'list' : 'yes-no',
        items: isList ? items.map((i) => i.item) : [],
        tester: null,
        cautions: [],
        minutes: check?.minutes ?? 2,
      } as unknown as Check,
      {
        [`check.${id}`]: form.name.trim(),
        [`check.${id}.ask`]: form.ask.trim(),
        ...(isList
          ? Object.fromEntries(
              items.flatMap((i) => [
                [`item.${i.item.id}`, i.text],
                [`item.${i.item.id}.for`, t(i.item.out ? 'practice.item-out' : 'practice.item-care')],
              ]),
            )
          : {}),
      },
      limited
        ? ({
            id: `own.${id}`,
            min: toNumber(form.min),
            max: toNumber(form.max),
            unit: form.unit,
            source: form.source.trim(),
            purpose: form.name.trim(),
          } as Limit)
        : undefined,
    );
  };
  const select = <K extends 'section' | 'leg' | 'feature' | 'unit' | 'entry'>(
    k: K,
    label: string,
    options: readonly string[],
    name: (o: string) => string,
  ) => (
    <Labelled label={label}>
      <select className="field" value={form[k]} onChange={(e) => set({ [k]: e.target.value } as never)}>
        {options.map((o) => (
          <option key={o} value={o}>
            {name(o)}
          </option>
        ))}
      </select>
    </Labelled>
  );
  return (
    <Sheet title={form.name || t('practice.add-check')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        <Labelled label={t('practice.name')}>
          <input className="field" value={form.name} maxLength={60} onChange={(e) => set({ name: e.target.value })} />
        </Labelled>
        <Labelled label={t('practice.ask')}>
          <input className="field" value={form.ask} maxLength={120} onChange={(e) => set({ ask: e.target.value })} />
        </Labelled>
        {select('entry', t('practice.entry'), ['yesNo', 'number', 'list'], (o) => t(`practice.entry.${o}`))}
        {select('feature', t('practice.for'), features, featureName)}
        {select('section', t('practice.section'), sections, (o) => t(`section.${o}`))}
        {select('leg', t('practice.leg'), legs, (o) => t(`leg.${o}`))}
        {isNumber && (
          <>
            {select(
              'unit',
              t('kit.unit'),
              [
                'metre',
                'ohm',
                'volt',
                'watt',
                'ampere',
                'megabitPerSecond',
                'degreeCelsius',
                'nanosecond',
                'percent',
                'second',
                'minute',
                'count',
                'degree',
              ],
              (o) => t(`unit.${o}`),
            )}
            <Labelled label={t('practice.source')}>
              <input className="field" value={form.source} maxLength={120} onChange={(e) => set({ source: e.target.value })} />
            </Labelled>
            {(['min', 'max'] as const).map((k) => (
              <Labelled key={k} label={t(`practice.${k}`)}>
                <input className="field font-read" inputMode="decimal" value={form[k]} onChange={(e) => set({ [k]: e.target.value })} />
              </Labelled>
            ))}
          </>
        )}
      </div>
      {isList &&
        (['out', 'care'] as const).map((k) => (
          <Labelled key={k} label={t(`practice.items-${k}`)}>
            <textarea className="field" rows={3} value={form[k]} onChange={(e) => set({ [k]: e.target.value })} />
          </Labelled>
        ))}
      <label className="mb-3 flex min-h-11 items-center gap-3">
        <input type="checkbox" className="h-5 w-5 accent-ink" checked={form.required} onChange={(e) => set({ required: e.target.checked })} />
        {t('practice.required')}
      </label>
      <button className="forward w-full text-center disabled:opacity-50" disabled={!!bad} onClick={save}>
        {t('ui.done')}
      </button>
    </Sheet>
  );
}
