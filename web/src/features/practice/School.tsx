import { useState } from 'react';
import { api } from '../../api/client';
import type { PracticeAnswer, PracticeSettings } from '../../api/types';
import { identity } from '../../session/identity';
import { has, t } from '../../texts';
import { LeaveGuard } from '../../ui/LeaveGuard';
import { Radios } from '../../ui/Radios';
import { Editions } from './Editions';
import { Putting } from './Putting';
import { Scope } from './Scope';

/** How a job works where practitioners differ, and what it covers. The schools are the catalogue's: a new one needs nothing here. */
export function School({ jobId, zone, answer, kinds }: { jobId: string; zone: string; answer: PracticeAnswer; kinds: string[] }) {
  const [draft, setDraft] = useState(answer.settings);
  const changed = JSON.stringify(draft) !== JSON.stringify(answer.settings);
  const path = { params: { path: { jobId } } };
  const isUncovered = draft.scope?.parts.length === 0;
  return (
    <section>
      <LeaveGuard when={changed} />
      <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('practice.school')}</h2>
      <p className="mb-3 text-label text-ink-2">{t('practice.school-hint')}</p>
      {answer.unknown.length > 0 && (
        <p role="alert" className="mb-3 border-l-4 border-noted pl-3 text-label font-semibold text-noted">
          {t('practice.unknown-sides', answer.unknown.join(', '))}
        </p>
      )}
      <Scope scope={draft.scope ?? null} all={answer.parts} kinds={kinds} onChange={(scope) => setDraft({ ...draft, scope })} />
      <Choice
        label={t('practice.rule')}
        options={(['guarded', 'simple'] as const).map((rule) => [t(`practice.rule.${rule}`), draft.rule === rule, { rule }])}
        onChoose={(next) => setDraft({ ...draft, ...next })}
      />
      <Choice
        label={t('practice.scheme')}
        hint={t('practice.scheme-hint')}
        options={(['t568A', 't568B'] as const).map((scheme) => [t(`practice.scheme.${scheme}`), draft.scheme === scheme, { scheme }])}
        onChoose={(next) => setDraft({ ...draft, ...next })}
      />
      <div>
        {bySection(answer.schools, answer.parts).map(([section, schools]) => (
          <section key={section} className="mb-4">
            <h3 className="border-b border-ink pb-1 text-label font-bold">{t(section ? `section.${section}` : 'practice.whole-work')}</h3>
            {schools.map((school) => (
              <Folded
                key={school.id}
                label={t(`school.${school.id}`)}
                says={t(`school.${school.id}.${draft.sides?.[school.id] ?? ''}`)}
                isChanged={draft.sides?.[school.id] !== answer.settings.sides?.[school.id]}
              >
                <Choice
                  label={t(`school.${school.id}`)}
                  hint={has(`school.${school.id}.why`) ? t(`school.${school.id}.why`) : undefined}
                  options={school.sides.map((side) => [
                    t(`school.${school.id}.${side.id}`),
                    draft.sides?.[school.id] === side.id,
                    { sides: { ...draft.sides, [school.id]: side.id } },
                  ])}
                  onChoose={(next) => setDraft({ ...draft, ...next })}
                />
              </Folded>
            ))}
          </section>
        ))}
      </div>
      {changed && (
        <>
          {isUncovered ? (
            <p role="alert" className="my-3 font-semibold text-refused">
              {t('scope.one-at-least')}
            </p>
          ) : (
            <Putting
              key={JSON.stringify(draft)}
              attempt={() => api.POST('/api/jobs/{jobId}/practice/impact', { ...path, body: draft })}
              put={(why) =>
                api.POST('/api/jobs/{jobId}/practice', { ...path, body: { settings: draft, why, by: identity().personId ?? '' } })
              }
              onDone={() => {}}
            />
          )}
          <button className="min-h-11 text-label font-semibold underline" onClick={() => setDraft(answer.settings)}>
            {t('practice.put-back')}
          </button>
        </>
      )}
      <Editions list={answer.editions} zone={zone} />
    </section>
  );
}

type Listed = PracticeAnswer['schools'][number];

/** Schools by the first part of the work that they are about, those about all of it first. */
export function bySection(schools: readonly Listed[], work: readonly string[]): [section: string, schools: Listed[]][] {
  const order = ['', ...work];
  const parts = new Map<string, Listed[]>();
  for (const school of schools) {
    const [part = ''] = school.parts;
    parts.set(part, [...(parts.get(part) ?? []), school]);
  }
  return [...parts].sort(([a], [b]) => order.indexOf(a) - order.indexOf(b));
}

/** A school in one line, with the side that the job takes; its sides unfold. */
function Folded({ label, says, isChanged, children }: { label: string; says: string; isChanged: boolean; children: React.ReactNode }) {
  return (
    <details className="group border-b border-hairline">
      <summary className="flex min-h-11 cursor-pointer items-center gap-3 py-1 text-label">
        <span className="w-36 shrink-0 text-ink-2">{label}</span>
        <span className={`min-w-0 flex-1 font-semibold ${isChanged ? 'text-accent-ink' : ''}`}>{says}</span>
        <span aria-hidden className="text-ink-3 group-open:rotate-90">
          ›
        </span>
      </summary>
      {children}
    </details>
  );
}

function Choice({
  label,
  hint,
  options,
  onChoose,
}: {
  label: string;
  hint?: string;
  options: [text: string, on: boolean, next: Partial<PracticeSettings>][];
  onChoose: (next: Partial<PracticeSettings>) => void;
}) {
  return (
    <fieldset className="mb-4">
      <legend className="text-label font-semibold text-ink-2">{label}</legend>
      <Radios label={label}>
        {options.map(([text, on, next]) => (
          <button
            key={text}
            role="radio"
            aria-checked={on}
            className={`flex min-h-11 w-full items-center gap-3 border-b border-hairline px-1 py-1.5 text-left ${on ? 'font-bold' : ''}`}
            onClick={() => onChoose(next)}
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
}
