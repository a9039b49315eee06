import type { ItemSaid } from '../../../api/types';
import { t } from '../../../texts';
import { Radios } from '../../../ui/Radios';
import type { FieldProps, Way } from './way';

const STATES = ['fitted', 'missing', 'notNeeded', 'substituted'] as const;

const fitted = (item: string): ItemSaid => ({ item, state: 'fitted', by: null, why: null });

const isNeeded = (row: FieldProps['row'], id: string) => row.items.find((i) => i.id === id)?.out ?? false;

/** Whether nothing more has to be said of an item. */
export const isWhole = (said: ItemSaid, needed: boolean) =>
  said.state === 'substituted' ? !!said.by?.trim() && !!said.why?.trim() : said.state !== 'notNeeded' || !needed || !!said.why?.trim();

/** A state for each item: seals, lanyards, parts. Whole when each has one, and what is otherwise says what or why. */
export const items: Way<'items'> = {
  kind: 'items',
  toReading: (row, draft) => {
    const all = row.items.map((item) => draft.items?.[item.id]).filter((s): s is ItemSaid => s !== undefined);
    return row.items.length > 0 && all.length === row.items.length && all.every((s) => isWhole(s, isNeeded(row, s.item)))
      ? { value: { kind: 'items', items: all } }
      : null;
  },
  draftOf: (value) => ({ items: Object.fromEntries(value.items.map((s) => [s.item, s])) }),
  shown: (_, value) => {
    const other = value.items.filter((s) => s.state !== 'fitted');
    return {
      big: other.length === 0 ? t('list.all') : other.map((s) => `${t(`item.${s.item}`)}: ${t(`item-state.${s.state}`)}`).join(', '),
      unit: '',
    };
  },
  field: (props) => <Items {...props} />,
};

function Items({ row, entry, big }: FieldProps) {
  const said = entry.draft.items ?? {};
  const set = (...next: ItemSaid[]) => entry.change({ items: { ...said, ...Object.fromEntries(next.map((s) => [s.item, s])) } });
  const rest = row.items.filter((i) => !said[i.id]);
  return (
    <div className={`min-h-0 w-full ${big ? 'flex-1 overflow-y-auto px-4' : ''}`}>
      {rest.length > 0 && (
        <button
          type="button"
          className={`plain my-2 ${big ? 'min-h-glove w-full' : ''}`}
          onClick={() => set(...rest.map((i) => fitted(i.id)))}
        >
          {t('items.all-fitted')}
        </button>
      )}
      <ul>
        {row.items.map((item) => {
          const one = said[item.id];
          const words = (field: 'by' | 'why') =>
            one && (
              <input
                className="field min-w-0 flex-1"
                aria-label={`${t(`item.${item.id}`)}: ${t(`items.${field}`)}`}
                placeholder={t(`items.${field}`)}
                maxLength={200}
                value={one[field] ?? ''}
                onChange={(e) => set({ ...one, [field]: e.target.value })}
              />
            );
          return (
            <li key={item.id} className="border-b border-dotted border-hairline py-2">
              <p className="leading-tight">
                <span className="font-semibold">{t(`item.${item.id}`)}</span>
                <span className="block text-label text-ink-2">{t(`item.${item.id}.for`)}</span>
              </p>
              <Radios label={t(`item.${item.id}`)} className="mt-1 flex flex-wrap gap-1 outline-none">
                {STATES.map((state) => (
                  <button
                    key={state}
                    type="button"
                    role="radio"
                    aria-checked={one?.state === state}
                    className={`plain ${big ? 'min-h-12 flex-1 !px-1' : ''} ${one?.state === state ? '!border-2 !border-ink font-bold' : ''}`}
                    onClick={() => set({ ...fitted(item.id), ...one, state })}
                  >
                    {t(`item-state.${state}`)}
                  </button>
                ))}
              </Radios>
              {one && (one.state === 'substituted' || (one.state === 'notNeeded' && item.out)) && (
                <div className="mt-1 flex flex-wrap gap-2">
                  {one.state === 'substituted' && words('by')}
                  {words('why')}
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}
