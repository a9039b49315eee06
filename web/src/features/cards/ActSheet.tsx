import { Radios } from '../../ui/Radios';
import { Fragment, useState } from 'react';
import type { ActDefinition, CardAnswer, CardRow, CatalogueAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { nameOf, qualifierOf } from '../../ui/format';
import { useKeeping } from './useKeeping';
import { type SheetProps } from './sheetProps';

/** Whether a Fault was raised at this very row: the same Check, of the same thing, under the same conditions. */
const isOf = (f: CardAnswer['card']['faults'][number], row: CardRow) =>
  f.fault.key.check === row.key.check &&
  f.fault.key.on.id === row.key.on.id &&
  f.fault.key.on.part === row.key.on.part &&
  f.fault.key.under === row.key.under;

/** Whether work makes readings of a row void, on this run and at this end of it: what was done on one run says nothing of another. */
export function isVoidedBy(row: CardRow, act: Pick<ActDefinition, 'id' | 'on' | 'newUnit'>, runId?: string, end?: 'near' | 'far') {
  if (act.on === 'run' && row.key.on.kind === 'run' && row.key.on.id !== runId) return false;
  return (
    row.check.voidedBy.includes(act.id) ||
    row.check.voidedWhere.some((w) => !w.atRecorder && w.act === act.id && w.end === end) ||
    (act.newUnit && row.check.ofUnit)
  );
}

const line = 'flex min-h-12 w-full items-center justify-between px-2';

const actsOf = (row: CardRow) => [...row.check.voidedBy, ...row.check.voidedWhere.flatMap((w) => (w.atRecorder || !w.act ? [] : [w.act]))];

/**
 * Acts that touch what the row shows, and so may mend it, and all the others. Without a row all are of the first. Work that says something
 * of other devices and nothing of this one, such as a cover opened at a recorder, is none of its.
 */
export function actsFor(row: CardRow | undefined, catalogue: CatalogueAnswer | undefined, rows: CardRow[] = [], records = 0) {
  const here = new Set(rows.flatMap(actsOf));
  const acts = (catalogue?.acts ?? []).filter(
    (a) =>
      rows.length === 0 ||
      here.has(a.id) ||
      a.newUnit ||
      !catalogue?.voiding.includes(a.id) ||
      (records > 0 && catalogue.voidedAtRecorder[a.id]),
  );
  const own = row ? acts.filter((a) => actsOf(row).includes(a.id)) : [];
  return own.length > 0 ? { own, others: acts.filter((a) => !own.includes(a)) } : { own: acts, others: [] };
}

/** The end at which the wire map says to look first; undefined where it says none, or either. */
export function endFirst(row: CardRow | undefined, rows: CardRow[]): 'near' | 'far' | undefined {
  const map = rows.find((r) => r.check.entry === 'wireMap' && r.key.on.id === row?.key.on.id);
  const look = map?.attempts.find((a) => a.readingId === map.counts)?.map?.lookFirst;
  return look === 'nearEnd' ? 'near' : look === 'farEnd' ? 'far' : undefined;
}

export function ActSheet({ answer, row, catalogue, onClose }: SheetProps) {
  const { own, others } = actsFor(row, catalogue, answer.card.rows, answer.place.records);
  const [all, setAll] = useState(false);
  const acts = all ? [...own, ...others] : own;
  const [kind, setKind] = useState(own[0]?.id ?? '');
  const [runId, setRun] = useState(row?.key.on!.kind === 'run' ? row.key.on.id : (answer.place.runs[0]?.id ?? ''));
  const [end, setEnd] = useState(() => endFirst(row, answer.card.rows));
  const [serial, setSerial] = useState('');
  const [text, setText] = useState('');
  const act = acts.find((a) => a.id === kind);
  const open = answer.card.faults.filter((f) => f.open);
  // The Fault of this very row is proposed; any other is chosen, and none is a choice too.
  const [faultId, setFault] = useState(() => (row && open.find((f) => isOf(f, row))?.fault.id) ?? '');
  const { put, notice } = useKeeping(onClose);
  const voided = answer.card.rows.filter((r) => r.counts && act && isVoidedBy(r, act, runId, end));
  const atCameras = (answer.place.records > 0 && act && catalogue?.voidedAtRecorder[act.id]) || [];
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
          <Fragment key={a.id}>
            <button
              role="radio"
              aria-checked={kind === a.id}
              aria-describedby={kind === a.id ? 'act-voids' : undefined}
              className={`${line} ${kind === a.id ? 'bg-paper-hi font-bold' : 'border-b border-hairline'}`}
              onClick={() => setKind(a.id)}
            >
              {t(`act.${a.id}`)}
            </button>
            {kind === a.id && (
              <div id="act-voids" className="border-b border-hairline bg-paper-hi px-2 pb-2 text-label text-noted">
                {voided.length > 0 && (
                  <p>
                    {t('dialog.void-here', voided.length)}:{' '}
                    {voided.map((r) => [nameOf(r), qualifierOf(r)].filter(Boolean).join(', ')).join('; ')}
                  </p>
                )}
                {atCameras.length > 0 && (
                  <p className="mt-1">
                    {t('dialog.at-cameras', answer.place.records)}: {atCameras.map((c) => t(`check.${c}`)).join('; ')}
                  </p>
                )}
                {voided.length + atCameras.length === 0 && <p>{t('dialog.void-nothing')}</p>}
              </div>
            )}
          </Fragment>
        ))}
      </Radios>
      {others.length > 0 && (
        <button className="mb-3 min-h-11 font-semibold underline" onClick={() => setAll(!all)}>
          {all ? t('card.fewer') : t('dialog.other-work', others.length)}
        </button>
      )}
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
      {notice}
      <button className="forward w-full text-center disabled:opacity-50" disabled={!ready} onClick={() => void save()}>
        {t('button.record')}
      </button>
    </Sheet>
  );
}
