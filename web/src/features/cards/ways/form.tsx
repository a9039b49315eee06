import type { CardRow, FormField, FormLine } from '../../../api/types';
import { t } from '../../../texts';
import { Radios } from '../../../ui/Radios';
import type { Draft, DraftLine } from '../drafts';
import { Again } from './Again';
import type { FieldProps, Way } from './way';

const textOf = (row: CardRow, field: FormField, word = '') => t(`field.${row.check.id}.${field.id}${word && `.${word}`}`);

const isNumber = (field: FormField) => field.entry === 'number' || field.entry === 'count';

/** A number as it was typed, with a comma or a point; null where it is none. */
const numberOf = (field: FormField, text: string) => {
  const typed = text.trim().replace(',', '.');
  return (field.entry === 'count' ? /^\d{1,9}$/ : /^-?\d{1,9}(\.\d{1,6})?$/).test(typed) ? Number(typed) : null;
};

/** A line as it is sent; null while something of it is missing or no number. */
export function lineOf(fields: readonly FormField[], line: DraftLine): FormLine | null {
  const said: FormLine['said'] = [];
  for (const field of fields) {
    const typed = line.said[field.id]?.trim() ?? '';
    if (!typed) {
      if (field.optional) continue;
      return null;
    }
    const number = isNumber(field) ? numberOf(field, typed) : null;
    if (isNumber(field) && number === null) return null;
    said.push({ field: field.id, number, word: number === null ? typed : null });
  }
  return said.length > 0 ? { said, at: line.at ?? null } : null;
}

const most = (row: CardRow) => row.check.lines?.most ?? 1;

/** Trials: one word each, at its own time. */
export const isTrial = (row: CardRow) => most(row) > 1 && row.check.fields.length === 1 && row.check.fields[0].entry === 'word';

const blank: DraftLine = { said: {} };

/** Several fields at once, once or line by line. Whole when every line is. */
export const form: Way<'form'> = {
  kind: 'form',
  toReading: (row, draft) => {
    const lines = (draft.lines ?? []).map((line) => lineOf(row.check.fields, line));
    return lines.length > 0 && lines.every((l): l is FormLine => l !== null) ? { value: { kind: 'form', lines } } : null;
  },
  draftOf: (value) => ({
    lines: value.lines.map((line) => ({
      said: Object.fromEntries(line.said.map((s) => [s.field, s.word ?? String(s.number)])),
      at: line.at ?? undefined,
    })),
  }),
  shown: (row, value) => {
    const words = (line: FormLine) =>
      line.said
        .map((s) => {
          const field = row.check.fields?.find((f) => f.id === s.field);
          if (!field) return s.word ?? String(s.number);
          return s.word === null
            ? `${textOf(row, field)} ${s.number} ${t(`unit.${field.unit}`)}`.trim()
            : field.entry === 'word'
              ? textOf(row, field, s.word)
              : s.word;
        })
        .join(', ');
    if (value.lines.length === 1) return { big: words(value.lines[0]), unit: '' };
    const counted = new Map<string, number>();
    for (const line of value.lines) counted.set(words(line), (counted.get(words(line)) ?? 0) + 1);
    return { big: [...counted].map(([said, n]) => (n > 1 ? `${n} x ${said}` : said)).join('; '), unit: '' };
  },
  field: (props) => (isTrial(props.row) ? <Trials {...props} /> : <Lines {...props} />),
};

/** More numbers than a screen has room for one beneath another. */
const manyNumbers = (row: CardRow) => row.check.fields.filter(isNumber).length > 3;

function Lines({ row, entry, big }: FieldProps) {
  const lines = entry.draft.lines?.length ? entry.draft.lines : [blank];
  const set = (at: number, line: DraftLine) => entry.change({ lines: lines.map((l, i) => (i === at ? line : l)) });
  return (
    <div className={`min-h-0 w-full ${big ? 'flex-1 overflow-y-auto px-4' : ''}`}>
      <Again row={row} entry={entry} kind="form" draftOf={form.draftOf} />
      {lines.map((line, at) => (
        <div
          key={at}
          className={`${lines.length > 1 ? 'border-b border-hairline pb-2' : ''} grid gap-x-4 ${manyNumbers(row) ? `grid-cols-2 ${big ? '' : 'lg:grid-cols-3'}` : ''}`}
        >
          {row.check.fields.map((field) => (
            <Field
              key={field.id}
              row={row}
              field={field}
              big={big}
              value={line.said[field.id] ?? ''}
              onChange={(word) => set(at, { ...line, said: { ...line.said, [field.id]: word } })}
            />
          ))}
          {lines.length > 1 && (
            <button
              type="button"
              className="min-h-11 text-label font-semibold underline"
              onClick={() => entry.change({ lines: lines.filter((_, i) => i !== at) })}
            >
              {t('form.take-out', at + 1)}
            </button>
          )}
        </div>
      ))}
      {lines.length < most(row) && (
        <button type="button" className="plain my-2" onClick={() => entry.change({ lines: [...lines, blank] })}>
          {t('form.add')}
        </button>
      )}
    </div>
  );
}

function Field({
  row,
  field,
  value,
  onChange,
  big,
}: {
  row: CardRow;
  field: FormField;
  value: string;
  onChange: (word: string) => void;
  big?: boolean;
}) {
  const label = textOf(row, field);
  if (field.entry === 'word')
    return (
      <div className="col-span-full py-1">
        <p className="text-label text-ink-2">{label}</p>
        <Radios label={label} className="flex flex-wrap gap-1 outline-none">
          {field.words.map((word) => (
            <button
              key={word}
              type="button"
              role="radio"
              aria-checked={value === word}
              className={`plain ${big ? 'min-h-12 flex-auto !px-2' : ''} ${value === word ? '!border-2 !border-ink font-bold' : ''}`}
              onClick={() => onChange(word)}
            >
              {textOf(row, field, word)}
            </button>
          ))}
        </Radios>
      </div>
    );
  return (
    <label className="block py-1">
      <span className="block text-label text-ink-2">
        {label}
        {field.unit !== 'none' && `, ${t(`unit.${field.unit}`)}`}
        {field.optional && `, ${t('form.optional')}`}
      </span>
      <input
        className={`field ${field.entry === 'text' ? '' : 'font-read !w-40'}`}
        inputMode={field.entry === 'count' ? 'numeric' : field.entry === 'number' ? 'decimal' : undefined}
        autoComplete="off"
        maxLength={field.entry === 'text' ? 200 : 20}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}

/** Trials as they happen: a press each, its time with it; the last one can be taken back. */
function Trials({ row, entry, big }: FieldProps) {
  const field = row.check.fields[0];
  const lines = entry.draft.lines ?? [];
  const add = (word: string): Draft => ({ lines: [...lines, { said: { [field.id]: word }, at: new Date().toISOString() }] });
  const count = (word: string) => lines.filter((l) => l.said[field.id] === word).length;
  return (
    <div className={`w-full ${big ? 'flex min-h-0 flex-1 flex-col' : ''}`}>
      <div className={big ? 'flex flex-1 flex-col' : 'flex flex-wrap gap-2'}>
        {field.words.map((word) => (
          <button
            key={word}
            type="button"
            disabled={lines.length >= most(row)}
            className={big ? 'min-h-glove flex-1 border-b border-hairline px-5 text-title font-bold' : 'plain'}
            onClick={() => entry.change(add(word))}
          >
            {textOf(row, field, word)} <span className="font-read">{count(word)}</span>
          </button>
        ))}
      </div>
      {lines.length > 0 && (
        <p className={`flex items-center gap-4 text-label ${big ? 'px-4' : 'mt-1'}`}>
          <span role="status">{t('form.count', lines.length)}</span>
          <button
            type="button"
            className="min-h-11 font-semibold underline"
            onClick={() => entry.change(lines.length > 1 ? { lines: lines.slice(0, -1) } : {})}
          >
            {t('form.back')}
          </button>
        </p>
      )}
    </div>
  );
}
