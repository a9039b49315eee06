import { Radios } from '../../ui/Radios';
import '../pageTexts';
import { useState } from 'react';
import type { CardAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { day, moment } from '../../ui/format';
import { useKeeping } from './useKeeping';

/** Held up by somebody, or put off by choice: why, and until when. */
export default function BlockSheet({ answer, zone, onClose }: { answer: CardAnswer; zone: string; onClose: () => void }) {
  const blocked = answer.card.blocked;
  const [aside, setAside] = useState(false);
  const [by, setBy] = useState('');
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState('');
  const { put, notice } = useKeeping(onClose);
  const save = () =>
    put(answer.place.id, '/blocks', { setAside: aside, blockedBy: aside ? null : by.trim(), reason: reason.trim(), until: until || null });
  const free = () => put(answer.place.id, '/block-ends', { of: blocked!.id });
  return (
    <Sheet title={t('block.title')} hint={t('block.hint')} onClose={onClose}>
      {notice}
      {blocked ? (
        <>
          <p className="mb-4 text-body">
            {t('block.since', blocked.setAside ? t('sign.aside') : blocked.blockedBy, moment(blocked.at, zone), blocked.reason)}
            {blocked.until && ` ${t('report.until', day(blocked.until))}`}
          </p>
          <button className="forward w-full text-center" onClick={() => void free()}>
            {t('block.over')}
          </button>
        </>
      ) : (
        <>
          <Radios label={t('block.title')} className="mb-3 grid grid-cols-2 gap-2">
            {[false, true].map((a) => (
              <button
                key={String(a)}
                role="radio"
                aria-checked={aside === a}
                className={`plain text-center ${aside === a ? '!border-2 !border-ink font-bold' : ''}`}
                onClick={() => setAside(a)}
              >
                {t(a ? 'block.aside' : 'block.held')}
              </button>
            ))}
          </Radios>
          {!aside && (
            <Labelled label={t('block.by')}>
              <input className="field" value={by} maxLength={120} onChange={(e) => setBy(e.target.value)} />
            </Labelled>
          )}
          <Labelled label={t('dialog.reason')}>
            <textarea className="field" rows={2} maxLength={400} value={reason} onChange={(e) => setReason(e.target.value)} />
          </Labelled>
          <Labelled label={t('block.until')}>
            <input className="field" type="date" value={until} onChange={(e) => setUntil(e.target.value)} />
          </Labelled>
          <button
            className="forward w-full text-center disabled:opacity-50"
            disabled={!reason.trim() || (!aside && !by.trim())}
            onClick={() => void save()}
          >
            {t('block.save')}
          </button>
        </>
      )}
    </Sheet>
  );
}
