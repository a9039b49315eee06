import { useState } from 'react';
import { useKit } from '../../api/queries';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { nameOf, qualifierOf } from '../../ui/format';
import { useKeeping } from './useKeeping';
import { type SheetProps } from './sheetProps';

/** Sheets that ask for words: not applicable, note, withdraw, concede. */
export function WordsSheet({ answer, row, name, onClose, onKept = onClose }: SheetProps) {
  const [text, setText] = useState('');
  const [allowedBy, setAllowedBy] = useState('');
  const [until, setUntil] = useState('');
  const witnesses = useKit(answer.place.jobId).data?.people.filter((p) => p.mayWitness && !p.left) ?? [];
  const last = row?.attempts.filter((a) => a.standing !== 'withdrawn').at(-1);
  const quick = { na: [], note: [], skip: ['later', 'no-access', 'no-tool'], concede: [], withdraw: ['wrong-card', 'slip'] }[
    name as 'na' | 'note' | 'skip' | 'withdraw' | 'concede'
  ];
  const label = { na: 'dialog.na', note: 'dialog.note', skip: 'dialog.skip', withdraw: 'dialog.withdraw', concede: 'dialog.concede' }[
    name as 'na'
  ];
  const hint = {
    na: t('dialog.na-hint'),
    note: undefined,
    skip: t('dialog.skip-hint'),
    withdraw: t('dialog.withdraw-hint'),
    concede: undefined,
  }[name as 'na'];
  const ready = text.trim() && (name !== 'concede' || allowedBy.trim()) && (name !== 'withdraw' || last);
  const { put, notice } = useKeeping(onKept);
  const save = async (reason = text) => {
    const id = answer.place.id;
    if (name === 'note') await put(id, '/notes', { row: row?.id ?? null, text: reason }, row?.id);
    if (name === 'skip') await put(id, '/notes', { row: row!.id, text: t('skip.said', reason) }, row!.id);
    if (name === 'na') await put(id, '/exemptions', { row: row!.id, reason }, row!.id);
    if (name === 'withdraw') await put(id, '/withdrawals', { of: last!.readingId, reason }, row!.id);
    if (name === 'concede') await put(id, '/concessions', { row: row!.id, reason, allowedBy, until: until || null }, row!.id);
  };
  return (
    <Sheet
      title={`${row ? [nameOf(row), qualifierOf(row)].filter(Boolean).join(', ') + ': ' : ''}${t(label)}`}
      hint={hint}
      onClose={onClose}
    >
      {quick.length > 0 && (
        <div className="mb-3 flex gap-2">
          {quick.map((reason) => (
            <button
              key={reason}
              className="plain flex-1 text-center"
              disabled={name === 'withdraw' && !last}
              onClick={() => void save(name === 'skip' ? t(`skip.${reason}`) : reason)}
            >
              {t(`${name}.${reason}`)}
            </button>
          ))}
        </div>
      )}
      {name === 'concede' && (
        <Labelled label={t('dialog.allowed-by')}>
          <input className="field" value={allowedBy} maxLength={120} onChange={(e) => setAllowedBy(e.target.value)} />
        </Labelled>
      )}
      {name === 'concede' && (
        <Labelled label={t('dialog.until')}>
          <input type="date" className="field" value={until} onChange={(e) => setUntil(e.target.value)} />
        </Labelled>
      )}
      {name === 'concede' && witnesses.length > 0 && (
        <div className="mb-3 flex flex-wrap gap-2">
          {witnesses.map((w) => (
            <button
              key={w.id}
              type="button"
              aria-pressed={allowedBy.startsWith(w.name)}
              className={`plain ${allowedBy.startsWith(w.name) ? '!border-2 !border-ink font-bold' : ''}`}
              onClick={() => setAllowedBy([w.name, w.role].filter(Boolean).join(', '))}
            >
              {w.name}
            </button>
          ))}
        </div>
      )}
      <Labelled label={name === 'note' ? t('dialog.note') : t('dialog.reason')}>
        <textarea
          className="field"
          rows={3}
          maxLength={2000}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && e.ctrlKey && ready && void save()}
        />
      </Labelled>
      {notice}
      <button className="forward w-full text-center disabled:opacity-50" disabled={!ready} onClick={() => void save()}>
        {t(name === 'withdraw' ? 'button.withdraw' : name === 'concede' ? 'button.concede' : 'button.save')}
      </button>
    </Sheet>
  );
}
