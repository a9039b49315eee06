import { useState } from 'react';
import type { CardRow, Severity } from '../../api/types';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { nameOf, qualifierOf, spareText } from '../../ui/format';
import { valueOf } from './ways';
import { useKeeping } from './useKeeping';
import { type SheetProps } from './sheetProps';

/** The title a Fault is proposed with: the Check, and what is wrong in its own words. */
export function proposedTitle(row: CardRow): string {
  const which = [nameOf(row), qualifierOf(row)].filter(Boolean).join(', ');
  const last = row.attempts.find((a) => a.readingId === row.counts);
  const read = last && row.check.entry === 'number' ? valueOf(row, last.value) : undefined;
  const what = read
    ? [`${read.big} ${read.unit}`, spareText(row, last!.spare)].filter(Boolean).join(', ')
    : last?.because[0]
      ? say(last.because[0])
      : t(`state.${row.state}`);
  const text = `${which}: ${what}`;
  return text.length > 200 ? `${text.slice(0, 199)}…` : text;
}

export function FaultSheet({ answer, row, onClose }: SheetProps & { row: CardRow }) {
  const [title, setTitle] = useState(() => proposedTitle(row));
  const [severity, setSeverity] = useState<Severity>(row.causes[0]?.severity ?? (row.state === 'out' ? 'major' : 'minor'));
  const [cause, setCause] = useState<string>(row.causes[0]?.id ?? '');
  const { put, notice } = useKeeping(onClose);
  const save = () => put(answer.place.id, '/faults', { row: row.id, title, severity, causeId: cause || null }, row.id);
  return (
    <Sheet title={t('dialog.fault')} onClose={onClose}>
      <Labelled label={t('dialog.fault-title')}>
        <textarea className="field" rows={2} maxLength={200} value={title} onChange={(e) => setTitle(e.target.value)} />
      </Labelled>
      <fieldset className="mb-3">
        <legend className="mb-1 text-label font-semibold text-ink-2">{t('dialog.severity')}</legend>
        <div className="flex gap-2">
          {(['critical', 'major', 'minor'] as Severity[]).map((s) => (
            <button
              key={s}
              type="button"
              aria-pressed={severity === s}
              className={`plain flex-1 text-center ${severity === s ? '!border-2 !border-ink font-bold' : ''}`}
              onClick={() => setSeverity(s)}
            >
              {t(`severity.${s}`)}
            </button>
          ))}
        </div>
      </fieldset>
      <Labelled label={t('dialog.cause')}>
        <select className="field" value={cause} onChange={(e) => setCause(e.target.value)}>
          {row.causes.map((c) => (
            <option key={c.id} value={c.id}>
              {t(`cause.${c.id}`)}
            </option>
          ))}
          <option value="">{t('dialog.no-cause')}</option>
        </select>
      </Labelled>
      {row.causes.find((c) => c.id === cause) && (
        <p className="mb-3 text-label text-ink-2">{say(row.causes.find((c) => c.id === cause)!.evidence)}</p>
      )}
      {notice}
      <button className="forward w-full text-center disabled:opacity-50" disabled={!title.trim()} onClick={() => void save()}>
        {t('button.raise')}
      </button>
    </Sheet>
  );
}
