import type { components } from '../../api/generated/schema';
import { t } from '../../texts';
import { NumberField } from '../../ui/NumberField';
import type { Design, Target } from './geometry';

type Level = components['schemas']['DetailLevel'];

/** What the view must show. */
export function Targets({ design, levels, onChange }: { design: Design; levels: Level[]; onChange: (design: Design) => void }) {
  const set = (i: number, change: Partial<Target>) =>
    onChange({ ...design, targets: design.targets.map((x, n) => (n === i ? { ...x, ...change } : x)) });
  return (
    <fieldset className="mt-2 border-t border-ink pt-1">
      <legend className="float-left w-full text-label">
        <b>{t('views.targets')}</b> {design.targets.length > 0 && <span className="text-ink-3">{t('views.first')}</span>}
      </legend>
      {design.targets.map((target, i) => (
        <div
          key={i}
          className="clear-both grid grid-cols-[minmax(0,2fr)_repeat(3,minmax(0,1fr))] gap-x-2 border-b border-dotted border-hairline py-1"
        >
          <label className="text-tick text-ink-3">
            {t('views.target-name')}
            <input
              className="field !min-h-10 !px-2"
              maxLength={60}
              value={target.name}
              onChange={(e) => set(i, { name: e.target.value })}
            />
          </label>
          {(['groundMetres', 'asideMetres', 'heightMetres'] as const).map((field) => (
            <label key={field} className="text-tick text-ink-3">
              {t({ groundMetres: 'views.target-at', asideMetres: 'views.target-aside', heightMetres: 'views.target-high' }[field])}
              <NumberField
                className="field font-read !min-h-10 !px-2"
                value={target[field]}
                onChange={(v: number) => set(i, { [field]: v })}
              />
            </label>
          ))}
          <label className="col-span-3 mt-1 flex items-center gap-2 text-label">
            {t('views.target-level')}
            <select
              className="field !min-h-10 !w-auto !py-1"
              value={target.level}
              onChange={(e) => set(i, { level: e.target.value as Level })}
            >
              {[...new Set([...levels, target.level])].map((l) => (
                <option key={l} value={l}>
                  {t(`level.${l}`)}
                </option>
              ))}
            </select>
          </label>
          <button
            className="mt-1 min-h-10 text-right text-label font-semibold underline"
            onClick={() => onChange({ ...design, targets: design.targets.filter((_, n) => n !== i) })}
          >
            {t('views.remove-target')}
            <span className="sr-only"> {target.name}</span>
          </button>
        </div>
      ))}
      {design.targets.length < 12 && (
        <button
          className="plain clear-both mt-2"
          onClick={() =>
            onChange({
              ...design,
              targets: [
                ...design.targets,
                {
                  name: t('views.target-new'),
                  groundMetres: Math.max(2, Math.round(design.heightMetres * 3)),
                  asideMetres: 0,
                  heightMetres: 1.7,
                  level: levels[3],
                },
              ],
            })
          }
        >
          {t('views.add-target')}
        </button>
      )}
    </fieldset>
  );
}
