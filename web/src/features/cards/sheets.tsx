import { Radios } from '../../ui/Radios';
import { lazy, Suspense, useState } from 'react';
import type { CardAnswer, CardRow, CatalogueAnswer, Severity } from '../../api/types';
import { useKit } from '../../api/queries';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { nameOf, qualifierOf, spareText, valueOf } from '../../ui/format';
import { VerdictMark } from '../../ui/Marks';
import { DemoSheet } from '../demo/DemoSheet';
import { FaultEndSheet, RulingSheet } from './RulingSheet';
import { useKeeping } from './useKeeping';

export type SheetName = 'fault' | 'na' | 'note' | 'act' | 'withdraw' | 'concede' | 'verdict' | 'demo' | 'built' | 'block' | 'ruling' | 'faultEnd';

export interface SheetProps {
  answer: CardAnswer;
  row: CardRow | undefined;
  catalogue: CatalogueAnswer | undefined;
  name: SheetName;
  /** The Fault it is about, where it is about one. */
  faultId?: string;
  zone: string;
  nameOfPerson: (id: string) => string;
  onClose: () => void;
}

const BuiltSheet = lazy(() => import('./BuiltSheet'));
const BlockSheet = lazy(() => import('./BlockSheet'));

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

/** Whether a Fault was raised at this very row: the same Check, of the same thing, under the same conditions. */
const isOf = (f: CardAnswer['card']['faults'][number], row: CardRow) =>
  f.fault.key.check === row.key.check &&
  f.fault.key.on!.id === row.key.on!.id &&
  f.fault.key.on!.part === row.key.on!.part &&
  f.fault.key.under === row.key.under;

/** Acts that mend what the row shows; those that void it come first. */
const actsFor = (row: CardRow | undefined, catalogue: CatalogueAnswer | undefined) => {
  const acts = catalogue?.acts ?? [];
  return row ? [...acts].sort((a, b) => Number(row.check.voidedBy.includes(b.id)) - Number(row.check.voidedBy.includes(a.id))) : acts;
};

export function CardSheet(props: SheetProps) {
  switch (props.name) {
    case 'fault':
      return props.row ? <FaultSheet {...props} row={props.row} /> : null;
    case 'ruling':
      return props.row ? <RulingSheet {...props} row={props.row} /> : null;
    case 'faultEnd':
      return <FaultEndSheet {...props} />;
    case 'act':
      return <ActSheet {...props} />;
    case 'verdict':
      return <VerdictSheet {...props} />;
    case 'built':
      return (
        <Suspense>
          <BuiltSheet answer={props.answer} zone={props.zone} nameOfPerson={props.nameOfPerson} onClose={props.onClose} />
        </Suspense>
      );
    case 'block':
      return (
        <Suspense>
          <BlockSheet answer={props.answer} zone={props.zone} onClose={props.onClose} />
        </Suspense>
      );
    case 'demo':
      return <DemoSheet answer={props.answer} onClose={props.onClose} />;
    default:
      return <WordsSheet {...props} />;
  }
}

function FaultSheet({ answer, row, onClose }: SheetProps & { row: CardRow }) {
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

function ActSheet({ answer, row, catalogue, onClose }: SheetProps) {
  const acts = actsFor(row, catalogue);
  const [kind, setKind] = useState(acts[0]?.id ?? '');
  const [runId, setRun] = useState(row?.key.on!.kind === 'run' ? row.key.on!.id! : (answer.place.runs[0]?.id ?? ''));
  const [end, setEnd] = useState<'near' | 'far' | undefined>();
  const [serial, setSerial] = useState('');
  const [text, setText] = useState('');
  const act = acts.find((a) => a.id === kind);
  const open = answer.card.faults.filter((f) => f.open);
  // The Fault of this very row is proposed; any other is chosen, and none is a choice too.
  const [faultId, setFault] = useState(() => (row && open.find((f) => isOf(f, row))?.fault.id) ?? '');
  const { put, notice } = useKeeping(onClose);
  const voided = answer.card.rows.filter(
    (r) =>
      r.counts && act && (r.check.voidedBy.includes(act.id) || (act.newUnit && r.check.ofUnit)) && (act.on === 'place' || r.key.on!.id === runId),
  );
  const ready = act && (act.on !== 'run' || runId) && (!act.asksEnd || end) && (!act.newUnit || serial.trim());
  const save = () =>
    put(answer.place.id, '/acts', {
      kind,
      runId: act!.on === 'run' ? runId : null,
      end: act!.asksEnd ? end : null,
      text: text || null,
      newSerial: act!.newUnit ? serial : null,
      faultId: faultId || null,
    });
  return (
    <Sheet title={t('dialog.act')} hint={t('dialog.act-hint')} onClose={onClose}>
      <Radios label={t('dialog.act')} className="mb-3">
        {acts.map((a) => (
          <button
            key={a.id}
            role="radio"
            aria-checked={kind === a.id}
            className={`flex min-h-12 w-full items-center justify-between border-b border-hairline px-2 ${kind === a.id ? 'bg-paper-hi font-bold' : ''}`}
            onClick={() => setKind(a.id)}
          >
            {t(`act.${a.id}`)}
          </button>
        ))}
      </Radios>
      {act?.on === 'run' && answer.place.runs.length > 1 && (
        <Labelled label={t('leg.run')}>
          <select className="field" value={runId} onChange={(e) => setRun(e.target.value)}>
            {answer.place.runs.map((r) => (
              <option key={r.id} value={r.id}>
                {r.label}
              </option>
            ))}
          </select>
        </Labelled>
      )}
      {act?.asksEnd && (
        <fieldset className="mb-3">
          <legend className="mb-1 text-label font-semibold text-ink-2">{t('dialog.end')}</legend>
          <div className="flex gap-2">
            {(['near', 'far'] as const).map((e) => (
              <button
                key={e}
                type="button"
                aria-pressed={end === e}
                className={`plain flex-1 text-center ${end === e ? '!border-2 !border-ink font-bold' : ''}`}
                onClick={() => setEnd(e)}
              >
                {t(`end.${e}`)}
              </button>
            ))}
          </div>
        </fieldset>
      )}
      {act?.newUnit && (
        <Labelled label={t('dialog.serial')}>
          <input className="field font-read" value={serial} maxLength={60} onChange={(e) => setSerial(e.target.value)} />
        </Labelled>
      )}
      <Labelled label={t('dialog.note')}>
        <input className="field" value={text} maxLength={2000} onChange={(e) => setText(e.target.value)} />
      </Labelled>
      {open.length > 0 && (
        <Labelled label={t('dialog.act-fault')}>
          <select className="field" value={faultId} onChange={(e) => setFault(e.target.value)}>
            <option value="">{t('dialog.no-fault')}</option>
            {open.map((f) => (
              <option key={f.fault.id} value={f.fault.id}>
                {f.fault.title}
              </option>
            ))}
          </select>
        </Labelled>
      )}
      {voided.length > 0 && (
        <p className="mb-3 text-label text-noted">
          {t('card.void')}: {voided.map((r) => [nameOf(r), qualifierOf(r)].filter(Boolean).join(', ')).join('; ')}
        </p>
      )}
      {notice}
      <button className="forward w-full text-center disabled:opacity-50" disabled={!ready} onClick={() => void save()}>
        {t('button.record')}
      </button>
    </Sheet>
  );
}

/** Sheets that ask for words: not applicable, note, withdraw, concede. */
function WordsSheet({ answer, row, name, onClose }: SheetProps) {
  const [text, setText] = useState('');
  const [allowedBy, setAllowedBy] = useState('');
  const [until, setUntil] = useState('');
  const witnesses = useKit(answer.place.jobId).data?.people.filter((p) => p.mayWitness && !p.left) ?? [];
  const last = row?.attempts.filter((a) => a.standing !== 'withdrawn').at(-1);
  const quick = { na: [], note: [], concede: [], withdraw: ['wrong-card', 'slip'] }[name as 'na' | 'note' | 'withdraw' | 'concede'];
  const label = { na: 'dialog.na', note: 'dialog.note', withdraw: 'dialog.withdraw', concede: 'dialog.concede' }[name as 'na'];
  const hint = { na: t('dialog.na-hint'), note: undefined, withdraw: t('dialog.withdraw-hint'), concede: undefined }[name as 'na'];
  const ready = text.trim() && (name !== 'concede' || allowedBy.trim()) && (name !== 'withdraw' || last);
  const { put, notice } = useKeeping(onClose);
  const save = async (reason = text) => {
    const id = answer.place.id;
    if (name === 'note') await put(id, '/notes', { row: row?.id ?? null, text: reason }, row?.id);
    if (name === 'na') await put(id, '/exemptions', { row: row!.id, reason }, row!.id);
    if (name === 'withdraw') await put(id, '/withdrawals', { of: last!.readingId, reason }, row!.id);
    if (name === 'concede') await put(id, '/concessions', { row: row!.id, reason, allowedBy, until: until || null }, row!.id);
  };
  return (
    <Sheet title={`${row ? [nameOf(row), qualifierOf(row)].filter(Boolean).join(', ') + ': ' : ''}${t(label)}`} hint={hint} onClose={onClose}>
      {quick.length > 0 && (
        <div className="mb-3 flex gap-2">
          {quick.map((reason) => (
            <button key={reason} className="plain flex-1 text-center" disabled={!last} onClick={() => void save(reason)}>
              {t(`withdraw.${reason}`)}
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
              aria-pressed={allowedBy.startsWith(w.name!)}
              className={`plain ${allowedBy.startsWith(w.name!) ? '!border-2 !border-ink font-bold' : ''}`}
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

function VerdictSheet({ answer, onClose }: SheetProps) {
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
                ? `: ${r.conceded.allowedBy}, ${r.conceded.reason}${r.conceded.until ? `. ${t('dialog.until-day', r.conceded.until)}` : ''}`
                : ''}
            </li>
          ))}
        </ul>
      </div>
    );
  };
  return (
    <Sheet title={t('dialog.verdict')} hint={t('dialog.verdict-hint')} onClose={onClose}>
      <p className="flex items-center gap-3 text-title font-bold">
        <VerdictMark verdict={verdict.verdict} size={28} label="" /> {t(`verdict.${verdict.verdict}`)}
      </p>
      <p className="mt-1">{verdict.because.map(say).join(', ')}.</p>
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
