import { useState } from 'react';
import { api } from '../../api/client';
import type { CatalogueFile, DeviceKind, DeviceModel, OwnCatalogueAnswer } from '../../api/types';
import { identity } from '../../session/identity';
import { has, t } from '../../texts';
import type { Limit, Figure, Check } from './types';
import { Putting } from './Putting';
import { Editions } from './Editions';
import { Proposals } from './Proposals';
import { featureName, nameOf } from './parts';
import { ModelSheet } from './ModelSheet';
import { KindSheet } from './KindSheet';
import { LimitSheet } from './LimitSheet';
import { CheckSheet } from './OwnCheckSheet';
import { LeaveGuard } from '../../ui/LeaveGuard';

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
  schools: [],
  presences: [],
  overrides: true,
  edition: null,
  texts: {},
};

const with_ = <T extends { id: string }>(list: T[], item: T): T[] => [...list.filter((x) => x.id !== item.id), item];

export function CatalogueEditor({ jobId, zone, answer }: { jobId: string; zone: string; answer: OwnCatalogueAnswer }) {
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
      <LeaveGuard when={count > 0} />
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
                        m.unknown.length > 0 && `${m.unknown.length} ${t('practice.unknown')}`,
                        isOwn('models', m.id) && t('practice.own'),
                      ]
                        .filter(Boolean)
                        .join(', ')}
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
                <span className="w-80 shrink-0 text-label font-bold max-sm:w-40">{nameOf(l.id, 'value' in l)}</span>
                <span className="font-read text-label">
                  {'value' in l ? l.value : [l.min !== null && `${l.min}`, l.max !== null && `${l.max}`].filter(Boolean).join(' / ')}
                  {'unit' in l && ` ${t(`unit.${l.unit}`)}`}
                </span>
                <span className="ml-auto truncate text-label text-ink-2">
                  {l.verify && <b className="text-noted">{t('practice.verify-mark')} </b>}
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
          words={answer.sheet}
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
            setDraft({
              ...draft,
              kinds: with_(draft.kinds, k),
              texts: { ...draft.texts, en: { ...draft.texts.en, [`kind.${k.id}`]: name } },
            });
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
