import { Radios } from '../../ui/Radios';
import { useState } from 'react';
import { api } from '../../api/client';
import type { PracticeSettings } from '../../api/types';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import { Putting } from './Putting';
import { Editions } from './Editions';
import { LeaveGuard } from '../../ui/LeaveGuard';

export function School({
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
      <LeaveGuard when={changed} />
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
            put={(why) =>
              api.POST('/api/jobs/{jobId}/practice', { ...path, body: { settings: draft, why, by: identity().personId ?? '' } })
            }
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
