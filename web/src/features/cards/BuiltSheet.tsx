import '../pageTexts';
import { useState } from 'react';
import { useCardRegister } from '../../api/queries';
import type { CardAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { moment } from '../../ui/format';
import { useKeeping } from './useKeeping';

const usual = [
  'name',
  'model',
  'serial',
  'hardware_address',
  'cabinet',
  'port',
  'channels',
  'run',
  'length_m',
  'scheme',
  'height_m',
  'path',
];
/** Planned and as built side by side; what is otherwise is recorded where it is found, also without a network. */
export default function BuiltSheet({
  answer,
  zone,
  nameOfPerson,
  onClose,
}: {
  answer: CardAnswer;
  zone: string;
  nameOfPerson: (id: string) => string;
  onClose: () => void;
}) {
  const register = useCardRegister(answer.place.id);
  const [all, setAll] = useState(false);
  const [edits, setEdits] = useState<Record<string, string>>({});
  const [why, setWhy] = useState('');
  const wordsOf = (f: string) => {
    const words = register.data?.columns.find((c) => c.id === f)?.words ?? [];
    return words.length > 0 ? words : undefined;
  };
  const values = register.data?.values ?? {};
  const planned = register.data?.planned ?? {};
  const cells = Object.entries(edits).map(([field, text]) => ({ field, text: text.trim() }));
  const { put, notice } = useKeeping(onClose);
  const save = () => put(answer.place.id, '/built', { cells, why: why.trim() || null });
  const fields = all
    ? (register.data?.columns ?? []).map((c) => c.id)
    : [...usual, ...answer.place.differences.map((d) => d.field).filter((f) => !usual.includes(f))];
  const notes = Object.entries(register.data?.notes ?? {});
  return (
    <Sheet title={`${answer.place.label}, ${t('built.title')}`} hint={t('built.hint')} onClose={onClose} wide>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1.2fr)] items-center gap-x-3 text-label">
        <span />
        <span className="font-semibold text-ink-2">{t('built.planned')}</span>
        <span className="font-semibold text-ink-2">{t('built.built')}</span>
        {fields.map((f) => {
          const is = values[f] ?? '';
          const otherwise = f in planned && planned[f] !== is && answer.place.differences.some((d) => d.field === f);
          const options = f === 'kind' ? register.data?.kinds : wordsOf(f);
          const input = `field !min-h-9 max-sm:!min-h-11 !py-0.5 ${edits[f] !== undefined || otherwise ? 'font-bold' : ''}`;
          return (
            <div key={f} className="contents">
              <label htmlFor={`built-${f}`} className="border-t border-hairline py-1">
                {t(`field.${f}`)}
              </label>
              <span className={`truncate border-t border-hairline py-1 font-read ${otherwise ? 'line-through' : 'text-ink-2'}`}>
                {planned[f] ?? ''}
              </span>
              {options ? (
                <select
                  id={`built-${f}`}
                  className={input}
                  value={edits[f] ?? is}
                  onChange={(e) => setEdits({ ...edits, [f]: e.target.value })}
                >
                  {!options.includes(is) && <option value={is}>{is}</option>}
                  {options.map((o) => (
                    <option key={o} value={o}>
                      {f === 'kind' ? t(`kind.${o}`) : o}
                    </option>
                  ))}
                </select>
              ) : (
                <input
                  id={`built-${f}`}
                  className={`${input} font-read`}
                  value={edits[f] ?? is}
                  onChange={(e) => setEdits({ ...edits, [f]: e.target.value })}
                  onKeyDown={(e) => e.key === 'Enter' && setEdits({ ...edits, [f]: edits[f] ?? is })}
                />
              )}
            </div>
          );
        })}
      </div>
      <p className="mt-1 text-tick text-ink-3">
        {t('built.confirm')} {t('built.swap')}
      </p>
      <button className="min-h-11 text-label font-semibold underline" onClick={() => setAll(!all)}>
        {t(all ? 'built.fewer' : 'built.more')}
      </button>
      {notes.length > 0 && (
        <p className="mb-2 text-label text-ink-2">
          {notes.map(([k, v]) => (
            <span key={k} className="mr-4">
              {k}: <b>{v}</b>
            </span>
          ))}
        </p>
      )}
      <Labelled label={t('register.why-label')}>
        <input className="field" value={why} maxLength={400} onChange={(e) => setWhy(e.target.value)} />
      </Labelled>
      {notice}
      <button className="forward w-full text-center disabled:opacity-50" disabled={cells.length === 0} onClick={() => void save()}>
        {t('built.save')}
      </button>
      {register.data && (
        <>
          <h3 className="mt-5 border-t border-ink pt-2 text-label font-bold">{t('built.units')}</h3>
          <ol>
            {[...register.data.units].reverse().map((u, i) => (
              <li key={i} className="flex flex-wrap gap-x-4 border-b border-hairline py-1 text-label">
                <b className="font-read">{u.serial || t('register.nothing')}</b> <span className="font-read">{u.hardwareAddress}</span>
                <span className="text-ink-2">
                  {u.until ? t('built.from-until', moment(u.from, zone), moment(u.until, zone)) : t('built.from', moment(u.from, zone))}
                </span>
              </li>
            ))}
          </ol>
          <h3 className="mt-5 border-t border-ink pt-2 text-label font-bold">{t('built.history')}</h3>
          {register.data.changes.length === 0 && <p className="text-label text-ink-2">{t('built.nothing')}</p>}
          <ol>
            {[...register.data.changes].reverse().map((c, i) => (
              <li key={i} className="border-b border-hairline py-1 text-label">
                <b>{t(`field.${c.field}`)}</b> {c.from ?? t('register.nothing')} &gt; <b>{c.to ?? t('register.nothing')}</b>{' '}
                <span className="text-ink-2">
                  {[!c.asBuilt && t('built.plan-changed'), c.why, c.by && nameOfPerson(c.by), moment(c.at, zone)]
                    .filter(Boolean)
                    .join(', ')}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </Sheet>
  );
}
