import { Radios } from '../../ui/Radios';
import { useState } from 'react';
import { useKit } from '../../api/queries';
import type { CardRow } from '../../api/types';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { nameOf, qualifierOf } from '../../ui/format';
import { valueOf } from './ways';
import type { SheetProps } from './sheetProps';
import { useKeeping } from './useKeeping';

/** A person judges what no rule judges, or says why a reading is not what was expected. It holds for this very reading. */
export function RulingSheet({ answer, row, onClose }: SheetProps & { row: CardRow }) {
  const judging = row.isForTheEye;
  const me = useIdentity();
  const people = useKit(answer.place.jobId).data?.people ?? [];
  const [says, setSays] = useState<'in' | 'out' | 'explained' | undefined>(judging ? undefined : 'explained');
  const [typed, setRuledBy] = useState<string>();
  const ruledBy = typed ?? people.find((p) => p.id === me.personId)?.name ?? '';
  const [reason, setReason] = useState('');
  const { put, notice } = useKeeping(onClose);
  const counts = row.attempts.find((a) => a.readingId === row.counts);
  const read = counts && valueOf(row, counts.value, counts.map);
  const ready = says && ruledBy.trim() && reason.trim();
  return (
    <Sheet
      title={`${[nameOf(row), qualifierOf(row)].filter(Boolean).join(', ')}: ${t(judging ? 'button.judge' : 'button.explain')}`}
      hint={t(judging ? 'dialog.judge-hint' : 'dialog.explain-hint')}
      onClose={onClose}
    >
      {read && (
        <p className="mb-2">
          <b className="font-read text-reading">{read.big}</b> {read.unit}
        </p>
      )}
      <p className="mb-3 text-label text-ink-2">{(judging ? row.because : row.unexpected).map(say).join(' ')}</p>
      {judging && (
        <Radios label={t('button.judge')} className="mb-3 grid grid-cols-2 gap-2">
          {(['in', 'out'] as const).map((s) => (
            <button
              key={s}
              role="radio"
              aria-checked={says === s}
              className={`plain text-center ${says === s ? '!border-2 !border-ink font-bold' : ''}`}
              onClick={() => setSays(s)}
            >
              {t(`dialog.rules.${s}`)}
            </button>
          ))}
        </Radios>
      )}
      <Labelled label={t('dialog.ruled-by')}>
        <input className="field" maxLength={120} value={ruledBy} onChange={(e) => setRuledBy(e.target.value)} />
      </Labelled>
      <Labelled label={t(judging ? 'dialog.reason' : 'dialog.explanation')}>
        <textarea className="field" rows={3} maxLength={2000} value={reason} onChange={(e) => setReason(e.target.value)} />
      </Labelled>
      {notice}
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={!ready}
        onClick={() => void put(answer.place.id, '/rulings', { row: row.id, says, ruledBy: ruledBy.trim(), reason: reason.trim() }, row.id)}
      >
        {t('button.record-ruling')}
      </button>
    </Sheet>
  );
}

/** A Fault whose row cannot be read again is ended by a word: it stays on record as that, and not as put right. */
export function FaultEndSheet({ answer, faultId, onClose }: SheetProps) {
  const [reason, setReason] = useState('');
  const { put, notice } = useKeeping(onClose);
  const fault = answer.card.faults.find((f) => f.fault.id === faultId);
  if (!fault) return null;
  return (
    <Sheet title={`${fault.fault.title}: ${t('button.end-fault')}`} hint={t('dialog.end-fault-hint')} onClose={onClose}>
      <Labelled label={t('dialog.reason')}>
        <textarea className="field" rows={3} maxLength={2000} value={reason} onChange={(e) => setReason(e.target.value)} />
      </Labelled>
      {notice}
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={!reason.trim()}
        onClick={() => void put(answer.place.id, `/faults/${faultId}/end`, { reason: reason.trim() })}
      >
        {t('button.end-fault')}
      </button>
    </Sheet>
  );
}
