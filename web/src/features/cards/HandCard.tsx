import { Settled } from '../../ui/Settled';
import { Link } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import type { CardRow } from '../../api/types';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';
import { expectLine, limitText, nameOf, qualifierOf, spareText, unitOf, valueOf } from '../../ui/format';
import { LimitGauge } from '../../ui/LimitGauge';
import { Here, StateMark, stateColour, VerdictMark } from '../../ui/Marks';
import { MiniPath } from '../../ui/SignalPath';
import { coloursOf } from '../../ui/WireMap';
import { BuiltLine } from './CabinetCard';
import type { CardView } from './CardPage';
import { pendingOf } from './drafts';
import { useEntry, type Entry } from './entry';
import { Choices, MapExtras, pinsOf, setPin } from './fields';
import { Notices } from './Notices';
import { MoreFields, Stopwatch } from './MoreFields';
import { TakePicture } from './SeenIn';
import { due } from './due';

const unsettled = (row: CardRow) => row.state === 'notTaken' || row.state === 'stale';

/** One Check a screen, no scrolling, everything under the thumb. */
export function HandCard({ view }: { view: CardView }) {
  const { answer, active } = view;
  const [list, setList] = useState(false);
  const rows = due(answer.card.rows, active?.id);
  if (rows.length === 0 || !active) return <p className="p-4">{t('card.no-checks')}</p>;
  const step = (by: number) => {
    const at = rows.findIndex((r) => r.id === active.id);
    const to = rows[at + by];
    if (to) view.activate(to.id);
    else setList(true);
  };
  const next = () => {
    const at = rows.findIndex((r) => r.id === active.id);
    const pending = (r: CardRow) => pendingOf(view.outbox, r.id).length > 0;
    const to = [...rows.slice(at + 1), ...rows.slice(0, at)].find((r) => unsettled(r) && !pending(r));
    if (to) view.activate(to.id);
    else setList(true);
  };
  if (list) return <AllChecks view={view} onChoose={(id) => (view.activate(id), setList(false))} />;
  return <OneCheck key={active.id} view={view} row={active} onNext={next} onStep={step} onList={() => setList(true)} />;
}

function OneCheck({
  view,
  row,
  onNext,
  onStep,
  onList,
}: {
  view: CardView;
  row: CardRow;
  onNext: () => void;
  onStep: (by: number) => void;
  onList: () => void;
}) {
  const { answer } = view;
  const me = useIdentity();
  const entry = useEntry(answer, row, view.instrument);
  const own = due(answer.card.rows, row.id).filter((r) => r.check.section === row.check.section);
  const judged = entry.preview;
  const counts = row.attempts.find((a) => a.readingId === row.counts);
  const pending = pendingOf(view.outbox, row.id).at(-1);
  const state = judged?.state ?? (counts ? row.state : null);
  const value =
    judged?.value?.kind === 'number' ? judged.value.value : !entry.draft.text && counts?.value.kind === 'number' ? counts.value.value : undefined;
  const spare = judged ? judged.spare : row.spare;
  const shown = entry.draft.text ?? '';
  const was = counts ? valueOf(row, counts.value, counts.map) : null;
  const save = async () => {
    if (await entry.save()) onNext();
  };
  const small = 'min-h-[46px] flex-1 whitespace-nowrap px-0.5 text-center text-label font-bold';
  return (
    <main className="flex min-h-0 flex-1 flex-col pb-[env(safe-area-inset-bottom)]">
      <button className="flex min-h-12 items-center gap-3 px-4 pt-1" onClick={onList} aria-label={`${answer.place.label}, ${t('card.rows')}`}>
        <Here size={14} />
        <span className="font-read text-title font-bold">{answer.place.label}</span>
        <span className="ml-auto text-body font-semibold">
          {t(`section.${row.check.section}`)}, {t('walk.of', own.indexOf(row) + 1, own.length)}
        </span>
      </button>
      <div className="px-4">
        <MiniPath legs={answer.card.legs} width={358} height={22} here={row.check.leg} />
      </div>
      <div className="mx-4 border-t border-ink pt-1.5">
        <h1 className="truncate text-lead font-bold">
          {[nameOf(row), row.key.on!.part && t('report.pair', row.key.on!.part)].filter(Boolean).join(', ')}
        </h1>
        <p className="truncate text-table text-ink-2 first-letter:uppercase">
          {[
            qualifierOf(row)
              .replace(row.key.on!.part ? t('report.pair', row.key.on!.part) : '', '')
              .replace(/^, /, ''),
            expectLine(row),
          ]
            .filter(Boolean)
            .join('. ')}
        </p>
      </div>
      {row.check.entry === 'number' ? (
        <>
          <div className="mx-4 flex items-end border-b-2 border-ink">
            <output
              data-testid="hand-entry"
              className={`font-read min-w-0 flex-1 overflow-hidden text-[clamp(2.75rem,10dvh,4.1rem)] font-bold leading-none ${shown ? '' : 'text-ink-3'}`}
            >
              {shown || (pending?.body.text ? String(pending.body.text) : (was?.big ?? '\u2013'))}
            </output>
            <span className="font-read px-3 pb-1 text-lead">{unitOf(row)}</span>
            <button
              className="flex min-h-12 min-w-12 items-center justify-center"
              aria-label={t('button.clear')}
              onClick={() => entry.change({ text: (entry.draft.text ?? '').slice(0, -1) })}
            >
              <svg viewBox="0 0 32 24" width="32" height="24" fill="none" stroke="currentColor" strokeWidth="2">
                <path d="M10 3h19v18H10L2 12zM15 8l8 8M23 8l-8 8" />
              </svg>
            </button>
          </div>
          <div className="px-4 pt-1.5">
            <LimitGauge
              row={row}
              width={358}
              height={50}
              reading={value !== undefined && state ? { value, state, half: judged ? judged.halfWidth : counts!.halfWidth, spare } : undefined}
            />
          </div>
        </>
      ) : null}
      <Settled
        text={
          entry.reading
            ? t('card.reading-tester')
            : (entry.trouble ??
              (state
                ? [t(judged?.willNotCount ? 'card.wont-count' : `state.${state}`), spare && row.check.entry === 'number' && spareText(row, spare)]
                    .filter(Boolean)
                    .join(', ')
                : ''))
        }
      />
      <div className="flex min-h-9 items-baseline gap-3 px-4">
        {entry.reading ? (
          <span className="text-table">{t('card.reading-tester')}</span>
        ) : entry.trouble ? (
          <span className="text-label font-semibold text-refused">{entry.trouble}</span>
        ) : pending && !entry.draft.text ? (
          <span className="text-table font-semibold">{t('ui.sent-later')}</span>
        ) : state ? (
          <>
            <span
              className={`whitespace-nowrap text-lead font-bold first-letter:uppercase ${judged?.willNotCount ? 'text-refused' : stateColour[state]}`}
            >
              {judged?.willNotCount ? t('card.wont-count') : t(`state.${state}`)}
              {entry.isProvisional ? `, ${t('ui.provisional')}` : ''}
            </span>
            <span className={`font-read ml-auto truncate text-label ${stateColour[state]}`}>
              {row.check.entry === 'number'
                ? [
                    spare && spareText(row, spare),
                    judged?.halfWidth ? t('card.meter', `${judged.halfWidth.toFixed(row.check.decimals)} ${unitOf(row)}`) : '',
                  ]
                    .filter(Boolean)
                    .join(', ')
                : (was?.big ?? '')}
            </span>
          </>
        ) : (
          <span className="text-table text-open">
            {row.state === 'stale' && row.because[0]
              ? say(row.because[0])
              : limitText(row)
                ? `${limitText(row)} ${unitOf(row)}`
                : row.check.entry === 'wireMap'
                  ? t('card.pins-hint')
                  : t(`check.${row.check.id}.ask`)}
          </span>
        )}
      </div>
      <div className="max-h-[5.6rem] overflow-y-auto px-4 leading-snug">
        <Notices row={row} entry={entry} instrument={view.instrument} />
        {!judged && (row.isForTheEye || row.isUnexplained) && (
          <div className="flex items-center gap-3 text-label">
            <p className="min-w-0 flex-1 font-semibold text-noted">{(row.isUnexplained ? row.unexpected : row.because).map(say).join(' ')}</p>
            <button className="min-h-14 shrink-0 border border-noted px-3 font-bold text-noted" onClick={() => view.sheet('ruling', row)}>
              {t(row.isForTheEye ? 'button.judge' : 'button.explain')}
            </button>
          </div>
        )}
      </div>
      {judged && row.check.entry !== 'number' && row.check.entry !== 'yesNo' && judged.because.length > 0 && (
        <p className={`max-h-[4.4rem] overflow-y-auto px-4 text-label leading-snug ${stateColour[judged.state!]}`}>
          {judged.because.map(say).join(' ')}
        </p>
      )}
      <div className="flex border-y border-hairline px-2">
        {row.check.tester && (
          <button className={small} disabled={entry.reading} onClick={() => void entry.readTester()}>
            {t('button.read')}
          </button>
        )}
        <TakePicture entry={entry} className={`${small} justify-center`} />
        <button className={small} onClick={() => view.sheet('note', row)}>
          {t('button.note')}
        </button>
        <button className={small} onClick={() => view.sheet('act', row)}>
          {t('card.record-work')}
        </button>
        <button className={small} onClick={() => view.sheet('na', row)}>
          {t('button.na')}
        </button>
        <button className={`${small} text-refused`} onClick={() => view.sheet('fault', row)}>
          {t('button.fault')}
        </button>
      </div>
      {(answer.card.hold || row.heldBy.length > 0) && (
        <p role="alert" className="px-4 py-1 text-label font-bold text-refused">
          {answer.card.hold ? say(answer.card.hold) : t('hold.until', row.heldBy.map((h) => t(`check.${String(h)}`)).join(', '))}
        </p>
      )}
      {row.check.cautions.length > 0 && row.check.entry !== 'number' && row.check.entry !== 'wireMap' && (
        <p className="px-4 py-1 text-label text-noted">{t(`caution.${row.check.cautions[0]}`)}</p>
      )}
      {row.check.stopwatch && (
        <div className="px-4 py-1">
          <Stopwatch row={row} entry={entry} />
        </div>
      )}
      <Pad row={row} entry={entry} scheme={answer.place.runs.find((r) => r.id === row.key.on!.id)?.scheme ?? 'T568B'} />
      <div className={`flex border-t-2 border-ink ${me.leftHand ? 'flex-row-reverse' : ''}`}>
        <button className="min-h-glove w-28 shrink-0 text-center text-table font-bold" onClick={() => onStep(-1)}>
          {t('button.back')}
        </button>
        {entry.others.length > 1 ? (
          <button
            className="min-h-glove flex-1 bg-action text-center text-lead font-bold text-action-ink"
            onClick={() => void entry.saveAll().then((kept) => kept && onNext())}
          >
            {t('card.save-all', entry.others.length)}
          </button>
        ) : entry.ready && row.heldBy.length === 0 ? (
          <button className="min-h-glove flex-1 bg-action text-center text-lead font-bold text-action-ink" onClick={() => void save()}>
            {t('button.save-next')}
          </button>
        ) : (
          <button className="min-h-glove flex-1 text-center text-lead font-bold" onClick={() => onStep(1)}>
            {t('button.next')}
          </button>
        )}
      </div>
    </main>
  );
}

/** The keypad's space: digits, three big rows, or far pins. */
function Pad({ row, entry, scheme }: { row: CardRow; entry: Entry; scheme: string }) {
  const decimal = (1.1).toLocaleString().charAt(1) === ',' ? ',' : '.';
  const key = 'min-h-[56px] border-b border-r border-hairline text-center font-read text-[1.9rem] leading-none active:bg-paper-lo';
  const [at, setAt] = useState(() => Math.max(0, pinsOf(entry.draft).indexOf(null)));
  const pins = pinsOf(entry.draft);
  const full = pins.every((p) => p !== null);
  useEffect(() => {
    if (full) setAt(8);
  }, [full]);
  if (row.check.entry === 'number')
    return (
      <div className="grid min-h-0 flex-1 grid-cols-4">
        {['7', '8', '9', '-', '4', '5', '6', decimal, '1', '2', '3', '0'].map((k) => (
          <button
            key={k}
            className={key}
            onClick={() => entry.change({ text: ((entry.draft.fromTester ? '' : entry.draft.text) ?? '').slice(0, 12) + k })}
          >
            {k}
          </button>
        ))}
      </div>
    );
  if (row.check.entry === 'yesNo' || row.check.entry === 'choice') return <Choices row={row} entry={entry} big />;
  if (row.check.entry !== 'wireMap') return <MoreFields row={row} entry={entry} big />;
  const colours = coloursOf(scheme);
  const put = (pin: number) => {
    const index = Math.min(at, 7);
    setPin(entry, index, pin);
    setAt(index + 1);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex px-2 py-1">
        {pins.map((pin, i) => (
          <button
            key={i}
            className={`flex min-h-14 flex-1 flex-col items-center justify-center ${i === Math.min(at, 7) ? 'border-b-4 border-accent' : 'border-b-4 border-transparent'}`}
            onClick={() => setAt(i)}
            aria-label={`${i + 1} ${t(`colour.${colours[i]}`)}`}
          >
            <span className="font-read text-tick text-ink-2">{i + 1}</span>
            <span className={`font-read text-title font-bold ${pin !== null && pin !== i + 1 ? 'text-refused' : ''}`}>
              {pin === null ? '\u00b7' : pin}
            </span>
          </button>
        ))}
      </div>
      {full && (
        <div className="px-4 py-1">
          <MapExtras entry={entry} />
        </div>
      )}
      <p className="px-4 text-label text-ink-2">{at < 8 ? `${at + 1}: ${t(`colour.${colours[at]}`)}` : ''}</p>
      <div className="grid min-h-0 flex-1 grid-cols-3">
        {[1, 2, 3, 4, 5, 6, 7, 8, 0].map((pin) => (
          <button key={pin} className={key} onClick={() => put(pin)}>
            {pin === 0 ? <span className="font-text text-lead">{t('report.open')}</span> : pin}
          </button>
        ))}
      </div>
    </div>
  );
}

/** All Checks of the Card with its Verdict, and the way to the next Stop. */
function AllChecks({ view, onChoose }: { view: CardView; onChoose: (id: string) => void }) {
  const { card, place } = view.answer;
  const [all, setAll] = useState(false);
  const rows = all ? card.rows : due(card.rows);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-3 border-b border-ink px-4 py-2">
        <Link to="/" className="flex min-h-11 items-center font-semibold underline">
          {t('nav.walk')}
        </Link>
        <span className="font-read text-title font-bold">{place.label}</span>
        <button className="ml-auto flex min-h-11 items-center gap-2 font-bold" onClick={() => view.sheet('verdict')}>
          <VerdictMark verdict={card.verdict.verdict} size={20} label="" /> <span data-testid="verdict">{t(`verdict.${card.verdict.verdict}`)}</span>
        </button>
      </div>
      <p className="px-4 py-1 text-label text-ink-2">
        {place.name}. {card.verdict.because.map(say).join(', ')}.
      </p>
      <div className="px-4">
        <BuiltLine view={view} />
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto px-4">
        {rows.map((row) => {
          const counts = row.attempts.find((a) => a.readingId === row.counts);
          const pending = pendingOf(view.outbox, row.id).at(-1);
          const v = counts ? valueOf(row, counts.value, counts.map) : null;
          return (
            <li key={row.id}>
              <button className="flex min-h-14 w-full items-center gap-3 border-b border-hairline" onClick={() => onChoose(row.id)}>
                <StateMark state={row.state} />
                <span className="min-w-0 flex-1">
                  <span className="block truncate text-table font-semibold">{nameOf(row)}</span>
                  <span className="block truncate text-label text-ink-2">
                    {[qualifierOf(row), t(`state.${row.state}`), row.isUnexplained && t('state.unexpected')].filter(Boolean).join(', ')}
                  </span>
                </span>
                <span className={`font-read text-table font-bold ${stateColour[row.state]}`}>
                  {pending ? t('ui.sent-later') : v ? `${v.big} ${row.check.entry === 'number' ? v.unit : ''}` : ''}
                </span>
              </button>
            </li>
          );
        })}
        <li>
          <button className="min-h-12 w-full text-left font-semibold underline" onClick={() => setAll(!all)}>
            {all ? t('card.fewer') : t('card.more', card.rows.length - rows.length)}
          </button>
        </li>
      </ul>
      {card.faults
        .filter((f) => f.open)
        .map((f) => (
          <p key={f.fault.id} className="border-t border-hairline px-4 py-1 text-label text-refused">
            {f.fault.title}
          </p>
        ))}
      <div className="flex border-t-2 border-ink">
        {view.demo && (
          <button className="min-h-glove w-28 shrink-0 text-center text-label font-semibold" onClick={() => view.sheet('demo')}>
            {t('card.demo')}
          </button>
        )}
        <button className="min-h-glove flex-1 bg-action text-center text-lead font-bold text-action-ink" onClick={() => view.goStop(1)}>
          {t('card.next-stop')}
        </button>
      </div>
    </main>
  );
}
