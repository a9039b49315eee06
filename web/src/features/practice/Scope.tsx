import { useState } from 'react';
import type { PracticeAnswer } from '../../api/types';
import { t } from '../../texts';
import { asEvery, partsOf, toggled, type ScopeDraft } from './scope';

/** What of the work a job covers, and what kinds of device differ in. */
export function Scope({
  scope,
  all,
  kinds,
  onChange,
}: {
  scope: ScopeDraft | null;
  all: PracticeAnswer['parts'];
  kinds: string[];
  onChange: (next: ScopeDraft) => void;
}) {
  const [kind, setKind] = useState('');
  if (!scope)
    return (
      <fieldset className="mb-4">
        <legend className="text-label font-semibold text-ink-2">{t('scope.title')}</legend>
        <p className="my-1 text-label">{t('scope.former')}</p>
        <button className="min-h-11 text-label font-semibold underline" onClick={() => onChange({ parts: all, byKind: {} })}>
          {t('scope.say')}
        </button>
      </fieldset>
    );
  const own = kind !== '' && scope.byKind?.[kind] !== undefined;
  const parts = partsOf(scope, kind || undefined);
  return (
    <fieldset className="mb-4">
      <legend className="text-label font-semibold text-ink-2">{t('scope.title')}</legend>
      <label className="mt-1 block">
        <span className="sr-only">{t('scope.for-kind')}</span>
        <select className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
          <option value="">{t('scope.for-all')}</option>
          {kinds.map((k) => (
            <option key={k} value={k}>
              {t(`kind.${k}`)}
              {scope.byKind?.[k] ? ' *' : ''}
            </option>
          ))}
        </select>
      </label>
      <div className="grid grid-cols-2 gap-x-4">
        {all.map((part) => (
          <label key={part} className="flex min-h-11 items-center gap-3 border-b border-hairline px-1">
            <input type="checkbox" checked={parts.includes(part)} onChange={() => onChange(toggled(scope, part, all, kind || undefined))} />
            {t(`section.${part}`)}
          </label>
        ))}
      </div>
      {own && (
        <button className="min-h-11 text-label font-semibold underline" onClick={() => onChange(asEvery(scope, kind))}>
          {t('scope.same')}
        </button>
      )}
      <p className="mt-1 text-tick text-ink-3">{t('scope.hint')}</p>
    </fieldset>
  );
}
