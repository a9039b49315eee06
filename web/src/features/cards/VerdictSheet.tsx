import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { coverText } from './cover';
import { day, nameOf, qualifierOf } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { type SheetProps } from './sheetProps';

export function VerdictSheet({ answer, onClose }: SheetProps) {
  const { verdict } = answer.card;
  const rowsOf = (ids: string[]) => ids.map((id) => answer.card.rows.find((r) => r.id === id)).filter((r): r is CardRow => !!r);
  const list = (title: string, ids: string[]) => {
    const rows = rowsOf(ids);
    return rows.length === 0 ? null : (
      <div className="mt-3">
        <h3 className="text-label font-bold">{title}</h3>
        <ul>
          {rows.map((r) => (
            <li key={r.id} className="text-body">
              {[nameOf(r), qualifierOf(r)].filter(Boolean).join(', ')}
              {r.conceded
                ? `: ${r.conceded.allowedBy}, ${r.conceded.reason}${r.conceded.until ? `. ${t('dialog.until-day', day(r.conceded.until))}` : ''}`
                : ''}
            </li>
          ))}
        </ul>
      </div>
    );
  };
  const cover = coverText(verdict);
  return (
    <Sheet title={t('dialog.verdict')} hint={t('dialog.verdict-hint')} onClose={onClose}>
      <p className="flex items-center gap-3 text-title font-bold">
        <VerdictMark verdict={verdict.verdict} size={28} label="" /> {t(`verdict.${verdict.verdict}`)}
      </p>
      <p className="mt-1">{verdict.because.map(say).join(', ')}.</p>
      <p className="mt-1 text-label text-ink-2">{[cover.covers, cover.not].filter(Boolean).join('. ')}.</p>
      {list(t('dialog.failing'), verdict.failing)}
      {list(t('dialog.remarks'), verdict.remarks)}
      {list(t('state.notTaken'), verdict.incomplete)}
      {list(t('key.concede'), verdict.conceded)}
      <div className="mt-5 flex gap-2">
        <a className="forward inline-flex items-center" href={`/api/cards/${answer.place.id}/report.pdf`} target="_blank" rel="noreferrer">
          {t('card.report')}
        </a>
        <a className="plain inline-flex items-center" href={`/api/cards/${answer.place.id}/report.json`} target="_blank" rel="noreferrer">
          {t('card.report-json')}
        </a>
      </div>
    </Sheet>
  );
}
