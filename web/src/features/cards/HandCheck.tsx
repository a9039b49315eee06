import { Settled } from '../../ui/Settled';
import type { CardRow } from '../../api/types';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useIdentity } from '../../session/identity';
import { useLying } from '../../session/posture';
import { useKeys } from '../../ui/keys';
import { Before } from './Before';
import { Cautions } from './Cautions';
import { Evidence } from './Evidence';
import { RowActions } from './RowActions';
import { say, t } from '../../texts';
import { expectLine, limitText, nameOf, spareText, underOf, unitOf, whichOf } from '../../ui/format';
import { valueOf } from './ways';
import { LimitGauge } from '../../ui/LimitGauge';
import { Here, stateColour } from '../../ui/Marks';
import { MiniPath } from '../../ui/MiniPath';
import { cardKeys } from './cardKeys';
import type { CardView } from './CardPage';
import type { Draft } from './drafts';
import { keptOf } from './provisional';
import { askedCode, useEntry } from './entry';
import { Pressed } from './Pressed';
import { Notices } from './Notices';
import { Undo, useUndo } from './Undo';
import { isWaiting, useWaiting, waitText } from './wait';
import { keysAreHere, keysWaitFor } from '../../ui/typeAhead';
import { LateCountdown } from './ways/late';
import { Stopwatch } from './ways/Stopwatch';
import { TakePicture } from './SeenIn';
import { due } from './due';
import { Pad } from './HandPad';

/** Nobody on a ladder waits longer for a slow network, milliseconds; what is out is told on the next Check then. */
const SAID_LATE = 800;

/** What was judged, and is not as it should be: it stays on the screen, with its cause and what to do, until somebody goes on. */
const speaks = (view: CardView, row: CardRow) =>
  row.counts !== null &&
  (row.isFailing || row.causes.length > 0 || view.answer.card.faults.some((f) => f.open && isOf(f.fault.key, row.key)));

const isEmptyDraft = (draft: Draft) => Object.keys(draft).length === 0;

const isBad = (state?: string | null) => state === 'out' || state === 'tooClose';

const isOf = (a: CardRow['key'], b: CardRow['key']) =>
  a.check === b.check && a.on.id === b.on.id && a.on.part === b.on.part && a.under === b.under;

export function OneCheck({
  view,
  row,
  news,
  onNext,
  onStep,
  onList,
}: {
  view: CardView;
  row: CardRow;
  /** What became of a Fault just now. */
  news?: string;
  /** To the next that asks, or to one of those that were saved: the first that is not as it should be. */
  onNext: (saved?: string[], bad?: string) => void;
  onStep: (by: number) => void;
  onList: () => void;
}) {
  const { answer } = view;
  const me = useIdentity();
  const entry = useEntry(answer, row, view.instrument);
  const own = due(answer.card.rows, row.id).filter((r) => r.check.section === row.check.section);
  const judged = entry.preview;
  const counts = row.attempts.find((a) => a.readingId === row.counts);
  const pending = keptOf(view.outbox, row, answer.card.rule, view.instrument);
  const shownOf = isEmptyDraft(entry.draft) ? pending : undefined;
  const state = judged?.state ?? (shownOf ? (shownOf.guess?.state ?? null) : counts ? row.state : null);
  const value =
    judged?.value?.kind === 'number'
      ? judged.value.value
      : shownOf
        ? shownOf.guess?.value?.kind === 'number'
          ? shownOf.guess.value.value
          : undefined
        : !entry.draft.text && counts?.value.kind === 'number'
          ? counts.value.value
          : undefined;
  const spare = judged ? judged.spare : shownOf ? (shownOf.guess?.spare ?? null) : row.spare;
  const shown = entry.draft.text ?? '';
  const was = counts ? valueOf(row, counts.value, counts.map) : null;
  const [again, setAgain] = useState(false);
  const isEmpty = isEmptyDraft(entry.draft);
  const said = judged ?? shownOf?.guess;
  const says = isEmpty && !again && !pending && speaks(view, row);
  const save = async () => {
    const goesOn = await keysWaitFor(async () => {
      // What is not as it should be is not passed over: it is said, with its cause, before the next Check. Quick fingers are ahead of what
      // the screen says: it is what was saved that decides.
      const told = Promise.race([entry.judge(), new Promise<null>((gone) => setTimeout(() => gone(null), SAID_LATE))]);
      const lacksPicture = row.check.picture && entry.seen.length === 0;
      if (!(await entry.save())) return false;
      setAgain(false);
      return !lacksPicture && !isBad((await told)?.state);
    });
    if (goesOn) onNext();
    else keysAreHere();
  };
  const saveAll = async () => {
    const saved = entry.others;
    if (await entry.saveAll())
      onNext(
        saved.map((s) => s.row),
        saved.find((s) => isBad(s.state))?.row,
      );
  };
  const head = useRef<HTMLHeadingElement>(null);
  // The keys go along with what is asked, so that a reader says it and a desk at 200 % needs no mouse.
  useEffect(() => {
    (document.querySelector<HTMLElement>('main [role=radiogroup]') ?? head.current)?.focus({ preventScroll: true });
  }, []);
  const onward = useRef<HTMLButtonElement>(null);
  // After the tester has read, Enter saves: from the moment that it is seen.
  useLayoutEffect(() => {
    if (entry.draft.fromTester && entry.ready) onward.current?.focus({ preventScroll: true });
  }, [entry.draft.fromTester, entry.ready]);
  const isNumber = row.check.entry === 'number';
  const typed = entry.draft.fromTester ? '' : (entry.draft.text ?? '');
  const forward = () => {
    // What is on its way is not passed over.
    if (entry.reading) return;
    if (entry.others.length > 1) void saveAll();
    else if (entry.ready && row.heldBy.length === 0) void save();
    else onStep(1);
  };
  const { undo } = useUndo(view);
  const onButton = (e: KeyboardEvent) =>
    e.target instanceof HTMLAnchorElement || (e.target instanceof HTMLButtonElement && e.target.getAttribute('role') !== 'radio');
  useKeys({
    ...cardKeys(view),
    t: () => row.check.tester && !entry.reading && void entry.readTester(),
    digit: (e) => isNumber && entry.change({ text: typed.slice(0, 12) + e.key }),
    Backspace: () => isNumber && entry.change({ text: typed.slice(0, -1) }),
    Enter: (e) => {
      if (onButton(e)) return;
      e.preventDefault();
      forward();
    },
    z: () => void undo(),
    ArrowUp: () => onStep(-1),
    ArrowDown: () => onStep(1),
    Escape: () => (isEmpty ? onList() : entry.change({})),
  });
  useEffect(keysAreHere, []);
  useWaiting(!!row.wait);
  // Reading and saving lie under the same thumb, one after the other.
  const mayRead = !!row.check.tester && !says && !entry.ready && entry.others.length <= 1;
  const main = 'min-h-glove flex-1 bg-action text-center text-lead font-bold text-action-ink';
  const lying = useLying();
  const small = 'min-h-11 whitespace-nowrap px-0.5 text-center text-label font-bold';
  return (
    <main className={`flex min-h-0 flex-1 pb-[env(safe-area-inset-bottom)] ${lying ? '' : 'flex-col'}`}>
      <div className={lying ? 'flex min-h-0 w-1/2 flex-col overflow-y-auto border-r border-hairline' : 'contents'}>
        {/* Over the head, so that no key moves when its minute is over. */}
        {!says && (
          <span className="relative">
            <Undo
              view={view}
              className="absolute right-2 top-0.5 z-10 min-h-11 max-w-52 truncate border border-ink bg-paper px-2 text-label font-semibold"
            />
          </span>
        )}
        <button
          className="flex min-h-12 items-center gap-3 px-4 pt-1"
          onClick={onList}
          aria-label={`${answer.place.label}, ${t('card.rows')}`}
        >
          <Here size={14} />
          <span className="font-read text-title font-bold">{answer.place.label}</span>
          <span className="min-w-0 flex-1 truncate text-left text-label text-ink-2">{answer.place.name}</span>
          <span className="whitespace-nowrap text-label font-semibold">
            {t(`section.${row.check.section}`)}, {t('walk.of', own.indexOf(row) + 1, own.length)}
          </span>
        </button>
        {news && (
          <p role="status" className="mx-4 border border-ink px-3 py-1.5 text-label font-bold">
            {news}
          </p>
        )}
        <div className="px-4">
          <MiniPath legs={answer.card.legs} width={358} height={22} here={row.check.leg} />
        </div>
        <div className="mx-4 border-t border-ink pt-1.5">
          <div className="flex items-center gap-3">
            <h1 ref={head} data-home tabIndex={-1} className="min-w-0 flex-1 truncate text-lead font-bold outline-none">
              {[nameOf(row), whichOf(row)].filter(Boolean).join(', ')}
            </h1>
            <button className="-my-2 min-h-11 px-2 text-label font-semibold underline" onClick={() => view.sheet('how', row)}>
              {t('guide.how-short')}
            </button>
          </div>
          <p className="truncate text-table text-ink-2 first-letter:uppercase">
            {[underOf(row), expectLine(row)].filter(Boolean).join('. ')}
          </p>
        </div>
        {row.check.entry === 'number' ? (
          <>
            <div className="mx-4 flex items-end border-b-2 border-ink">
              <output
                data-testid="hand-entry"
                className={`font-read min-w-0 flex-1 overflow-hidden text-[clamp(2.75rem,10dvh,4.1rem)] font-bold leading-none ${shown ? '' : 'text-ink-3'}`}
              >
                {shown || (shownOf ?? { shown: was }).shown?.big || '\u2013'}
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
                reading={
                  value !== undefined && state
                    ? { value, state, half: judged ? judged.halfWidth : (shownOf?.guess ?? counts!).halfWidth, spare }
                    : undefined
                }
              />
            </div>
          </>
        ) : null}
        <Settled
          text={
            entry.reading
              ? t(askedCode('card.reading-tester', row.check))
              : (entry.trouble ??
                (state
                  ? [
                      t(judged?.willNotCount ? 'card.wont-count' : `state.${state}`),
                      spare && row.check.entry === 'number' && spareText(row, spare),
                    ]
                      .filter(Boolean)
                      .join(', ')
                  : ''))
          }
        />
        <div className="flex min-h-9 items-baseline gap-3 px-4">
          {entry.reading ? (
            <span className="text-table">{t(askedCode('card.reading-tester', row.check))}</span>
          ) : entry.trouble ? (
            <span className="text-label font-semibold text-refused">{entry.trouble}</span>
          ) : shownOf ? (
            <>
              {state && (
                <span className={`whitespace-nowrap text-lead font-bold first-letter:uppercase ${stateColour[state]}`}>
                  {`${t(`state.${state}`)}, ${t('ui.provisional')}`}
                </span>
              )}
              <span className="text-table font-semibold">
                {[row.check.entry !== 'number' && shownOf.shown && `${shownOf.shown.big} ${shownOf.shown.unit}`.trim(), t('ui.sent-later')]
                  .filter(Boolean)
                  .join(', ')}
              </span>
            </>
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
          <Notices row={row} rows={answer.card.rows} entry={entry} instrument={view.instrument} />
          {!judged && (row.isForTheEye || row.isUnexplained) && (
            <div className="flex items-center gap-3 text-label">
              <p className="min-w-0 flex-1 font-semibold text-noted">
                {(row.isUnexplained ? row.unexpected : row.because).map(say).join(' ')}
              </p>
              <button className="min-h-14 shrink-0 border border-noted px-3 font-bold text-noted" onClick={() => view.sheet('ruling', row)}>
                {t(row.isForTheEye ? 'button.judge' : 'button.explain')}
              </button>
            </div>
          )}
        </div>
        {said && row.check.entry !== 'number' && row.check.entry !== 'yesNo' && said.because.length > 0 && (
          <p className={`max-h-[4.4rem] overflow-y-auto px-4 text-label leading-snug ${said.state ? stateColour[said.state] : ''}`}>
            {said.because.map(say).join(' ')}
          </p>
        )}
        <div className="grid grid-cols-3 border-y border-hairline px-2">
          {row.check.tester && !mayRead && (
            <button className={small} disabled={entry.reading} onClick={() => void entry.readTester()}>
              {t(askedCode('button.read', row.check))}
            </button>
          )}
          <TakePicture entry={entry} className={`${small} justify-center`} />
          {!says && <RowActions view={view} row={row} hand={small} />}
        </div>
        {isWaiting(row) && <p className="px-4 py-1 text-label font-bold text-noted">{waitText(row, view.zone)}</p>}
        {row.check.picture && entry.seen.length === 0 && !says && (
          <p className="px-4 py-1 text-label font-semibold">{t('card.needs-picture')}</p>
        )}
        {answer.card.hold && (
          <p role="alert" className="px-4 py-1 text-label font-bold text-refused">
            {say(answer.card.hold)}
          </p>
        )}
        <Before row={row} className="px-4 py-0.5" />
        <Cautions row={row} said={answer.card.cautionsSaid} className="px-4 py-0.5" />
        <Pressed check={row.check.id} deviceId={answer.place.id} className="px-4 py-1" />
        {row.check.stopwatch && (
          <div className="px-4 py-1">
            <Stopwatch row={row} entry={entry} />
          </div>
        )}
        {row.countdownSeconds && (
          <div className="px-4 py-1">
            <LateCountdown row={row} entry={entry} />
          </div>
        )}
        {lying && says && <Said view={view} />}
      </div>
      <div className={lying ? 'flex min-h-0 w-1/2 flex-col' : 'contents'}>
        {says && !lying ? (
          <Said view={view} />
        ) : (
          <Pad row={row} entry={entry} scheme={answer.place.runs.find((r) => r.id === row.key.on.id)?.scheme ?? 'T568B'} />
        )}
        <div className={`flex border-t-2 border-ink ${me.leftHand ? 'flex-row-reverse' : ''}`}>
          <button className="min-h-glove w-28 shrink-0 text-center text-table font-bold" onClick={() => onStep(-1)}>
            {t('button.back')}
          </button>
          {says && !lying && (
            <button
              className="min-h-glove w-32 shrink-0 border-l border-hairline text-center text-table font-bold"
              onClick={() => setAgain(true)}
            >
              {t('hand.again')}
            </button>
          )}
          {mayRead && (
            <button
              className="min-h-glove w-24 shrink-0 border-l border-hairline text-center text-table font-bold"
              onClick={() => onStep(1)}
            >
              {t('button.next')}
            </button>
          )}
          {entry.others.length > 1 ? (
            <button ref={onward} className={main} onClick={() => void saveAll()}>
              {t('card.save-all', entry.others.length)}
            </button>
          ) : entry.ready && row.heldBy.length === 0 ? (
            <button ref={onward} className={main} onClick={() => void save()}>
              {t('button.save-next')}
            </button>
          ) : mayRead ? (
            <button
              className="min-h-glove flex-1 border-l border-ink text-center text-lead font-bold disabled:text-ink-3"
              disabled={entry.reading}
              onClick={() => void entry.readTester()}
            >
              {t(askedCode('button.read', row.check))}
            </button>
          ) : (
            <button className="min-h-glove flex-1 text-center text-lead font-bold" onClick={() => onStep(1)}>
              {t('button.next')}
            </button>
          )}
        </div>
      </div>
    </main>
  );
}

/** In the place of the keys: attempts, causes, the map, Faults and where the limit comes from; the same as beside the desk's Card. */
function Said({ view }: { view: CardView }) {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto border-t border-hairline px-4 pb-3">
      <Evidence view={view} />
    </div>
  );
}
