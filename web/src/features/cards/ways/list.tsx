import { has, t } from '../../../texts';
import type { FieldProps, Way } from './way';

/** Items to go through: those marked are the exception, or, where each is confirmed by itself, those that are not. */
export const list: Way<'list'> = {
  kind: 'list',
  toReading: (row, draft) =>
    draft.confirmed
      ? { value: { kind: 'list', marked: row.items.map((i) => i.id).filter((id) => !draft.confirmed!.includes(id)) } }
      : draft.marked
        ? { value: { kind: 'list', marked: draft.marked } }
        : null,
  draftOf: (value) => ({ marked: value.marked }),
  shown: (_, value) => ({
    big: value.marked.length === 0 ? t('list.all') : String(value.marked.length),
    unit: value.marked.length === 0 ? '' : t('list.marked'),
  }),
  field: (props) => <ListField {...props} />,
};

/** A list to go through: mark what is the exception; or, at a hold point, confirm each item by itself. */
function ListField({ row, entry, big }: FieldProps) {
  const each = row.check.confirmEach;
  const on = (each ? entry.draft.confirmed : entry.draft.marked) ?? [];
  const toggle = (id: string) => {
    const next = on.includes(id) ? on.filter((x) => x !== id) : [...on, id];
    entry.change(each ? { confirmed: next } : { marked: next });
  };
  const clean = entry.draft.marked?.length === 0;
  return (
    <div className={`flex min-h-0 w-full flex-col ${big ? 'flex-1' : ''}`}>
      {!each && (
        <button
          type="button"
          autoFocus={!big}
          aria-pressed={clean}
          className={`${big ? 'mx-4 my-2 min-h-glove' : 'mb-2 self-start'} plain ${clean ? '!border-2 !border-ink font-bold' : ''}`}
          onClick={() => entry.change({ marked: [] })}
        >
          {t(has(`list.none.${row.check.id}`) ? `list.none.${row.check.id}` : 'list.none')}
        </button>
      )}
      <ul className={`min-h-0 ${big ? 'flex-1 overflow-y-auto px-4' : ''}`}>
        {row.items.map((item, i) => (
          <li key={item.id}>
            <label
              className={`flex cursor-pointer items-center gap-3 border-b border-dotted border-hairline ${big ? 'min-h-14' : 'min-h-10'}`}
            >
              <input
                type="checkbox"
                autoFocus={!big && each && i === 0}
                className="h-5 w-5 shrink-0 accent-ink"
                checked={on.includes(item.id)}
                onChange={() => toggle(item.id)}
              />
              <span className="min-w-0 leading-tight">
                <span className="font-semibold">{t(`item.${item.id}`)}</span>
                {(item.bring || item.loose) && (
                  <span className="ml-2 text-tick text-ink-2">
                    {[item.bring && t('list.bring'), item.loose && t('list.loose')].filter(Boolean).join(', ')}
                  </span>
                )}
                <span className="block text-label text-ink-2">{t(`item.${item.id}.for`)}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
    </div>
  );
}
