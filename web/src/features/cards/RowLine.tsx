import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';
import { clock, expectLine, nameOf, qualifierOf, spareText } from '../../ui/format';
import { valueOf } from './ways';
import { LimitGauge } from '../../ui/LimitGauge';
import { stateColour, StateMark, UnexpectedMark } from '../../ui/Marks';
import { keptOf } from './provisional';
import type { CardView } from './CardPage';
import { isOneTouch, oneTouch } from './oneTouch';
import { isWaiting, useWaiting, waitText } from './wait';

/** A row of the Card, closed: state, name, what was read, where it lies, what is left. */
export function RowLine({
  view,
  row,
  active,
  onOpen,
  onActivate,
}: {
  view: CardView;
  row: CardRow;
  active: boolean;
  onOpen: () => void;
  onActivate: () => void;
}) {
  const counts = row.attempts.find((a) => a.readingId === row.counts);
  const waits = (row.state === 'notTaken' || row.state === 'stale') && isWaiting(row);
  useWaiting(waits);
  const pending = keptOf(view.outbox, row, view.answer.card.rule, view.instrument);
  const guess = pending?.guess ?? null;
  const earlier = row.attempts.filter((a) => a.standing !== 'counts' && a.standing !== 'withdrawn').at(-1);
  const value = pending ? pending.shown : counts ? valueOf(row, counts.value, counts.map) : null;
  // What waits to be sent and cannot be judged here says nothing of how it will be.
  const state = pending ? (guess?.state ?? 'notTaken') : row.state;
  const number =
    guess?.value?.kind === 'number' ? guess.value.value : !pending && counts?.value.kind === 'number' ? counts.value.value : undefined;
  const spare = guess ? guess.spare : row.spare;
  const fault = view.answer.card.faults.find(
    (f) =>
      f.open &&
      f.fault.key.check === row.key.check &&
      f.fault.key.on.id === row.key.on.id &&
      f.fault.key.on.part === row.key.on.part &&
      f.fault.key.under === row.key.under,
  );
  const flag = row.because.find((b) => b.code === 'because.limit-changed' || b.code === 'because.out-then-in');
  const note = flag && !row.window ? say(flag) : row.because[0] && (row.state === 'stale' || !row.window) ? say(row.because[0]) : undefined;
  return (
    <div
      onClick={onOpen}
      className={`relative grid min-h-11 cursor-pointer grid-cols-[28px_minmax(0,160px)_minmax(98px,1fr)_128px_104px] items-center gap-x-1.5 py-0.5 pr-1 ${active ? 'bg-paper-hi' : ''}`}
    >
      {active && <span aria-hidden className="absolute -left-2 bottom-1 top-1 w-1 bg-accent" />}
      <StateMark state={state} />
      {/* The name is the button; what was read, its limits and its state beside it stay text of their own. */}
      <button
        type="button"
        tabIndex={active ? 0 : -1}
        aria-current={active || undefined}
        data-home={active || undefined}
        // By keys only: on the way down of a press the row must not move from under it.
        onFocus={(e) => e.target.matches(':focus-visible') && onActivate()}
        onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), e.stopPropagation(), onOpen())}
        className="min-w-0 text-left leading-tight"
        aria-label={`${nameOf(row)}${qualifierOf(row) ? `, ${qualifierOf(row)}` : ''}, ${value ? `${value.big} ${value.unit}, ` : ''}${t(`state.${state}`)}${row.isUnexplained ? `, ${t('state.unexpected')}` : ''}${spare ? `, ${spareText(row, spare)}` : ''}`}
      >
        <span className="block truncate text-body font-semibold">{nameOf(row)}</span>
        <span className="line-clamp-2 text-tick text-ink-3" title={expectLine(row)}>
          {isOneTouch(row)
            ? t(`check.${row.check.id}.ask`)
            : [qualifierOf(row), row.expected?.whyNone ? t('card.expect-none') : expectLine(row)].filter(Boolean).join(', ')}
        </span>
      </button>
      <span className={`min-w-0 text-right ${value && value.big.length > 7 ? '' : 'whitespace-nowrap'} ${stateColour[state]}`}>
        {value ? (
          <>
            <span
              className={value.big.length > 7 ? 'line-clamp-3 text-label font-semibold leading-tight' : 'font-read text-reading font-bold'}
            >
              {value.big}
            </span>{' '}
            <span className={`font-read text-tick ${row.check.entry === 'yesNo' ? 'hidden' : ''}`}>
              {row.check.entry === 'wireMap' ? t('walk.of', '', 8).trim() : value.unit}
            </span>
          </>
        ) : (
          <span className="text-label text-open">{t(`state.${row.state}`)}</span>
        )}
      </span>
      <span className="min-w-0 overflow-hidden">
        {isOneTouch(row) && !view.readOnly && !pending ? (
          <button
            type="button"
            className="plain !min-h-8 w-full text-center max-[1151px]:!min-h-11"
            tabIndex={-1}
            aria-label={`${nameOf(row)}: ${t('ui.yes')}`}
            onClick={(e) => {
              e.stopPropagation();
              void oneTouch(view, row);
            }}
          >
            {t('ui.yes')}
          </button>
        ) : row.window ? (
          <LimitGauge
            row={row}
            width={122}
            height={44}
            reading={number === undefined ? undefined : { value: number, state, half: guess ? guess.halfWidth : counts!.halfWidth, spare }}
          />
        ) : (
          <span className="line-clamp-3 pl-1 text-label leading-tight text-ink-2" title={note ?? row.exemptedBecause ?? undefined}>
            {note ?? row.exemptedBecause ?? (row.state === 'notTaken' ? (row.notes.at(-1)?.text ?? '') : '')}
          </span>
        )}
      </span>
      <span className={`min-w-0 leading-tight ${stateColour[state]}`}>
        {pending ? (
          <span className="text-label font-semibold text-ink-2">
            {guess ? t('ui.provisional') : ''} {t('ui.sent-later')}
          </span>
        ) : (
          <>
            {spare && <span className="font-read block whitespace-nowrap text-label font-bold">{spareText(row, spare)}</span>}
            <span className="block text-tick">
              {row.conceded
                ? t('key.concede')
                : state === 'in'
                  ? spare
                    ? t('card.spare')
                    : row.check.entry === 'wireMap' && value?.big === '8'
                      ? t('report.straight')
                      : ''
                  : row.state === 'stale'
                    ? t('ui.retest')
                    : state === 'notTaken'
                      ? ''
                      : t(`state.${state}`)}
              {fault ? `, ${t('button.fault')}` : ''}
            </span>
            {row.state === 'notTaken' && (row.heldBy.length > 0 || row.waitsFor.length > 0) && (
              <span className={`block text-tick ${row.heldBy.length > 0 ? 'font-bold text-refused' : 'text-ink-2'}`}>
                {row.heldBy.length > 0
                  ? t('hold.until', t(`check.${String(row.heldBy[0])}`))
                  : t('card.waits-for', t(`check.${String(row.waitsFor[0])}`))}
              </span>
            )}
            {waits && <span className="block text-tick font-semibold text-ink-2">{waitText(row, view.zone)}</span>}
            {!row.required && row.state === 'notTaken' && row.heldBy.length === 0 && row.waitsFor.length === 0 && (
              <span className="block text-tick text-ink-3">{t('ui.optional')}</span>
            )}
            {row.isUnexplained && (
              <span className="flex items-center gap-1 text-tick font-semibold text-noted">
                <UnexpectedMark /> {t('state.unexpected')}
              </span>
            )}
            {flag && <span className="block truncate text-tick text-noted">{t(`${flag.code}.short`, ...flag.args)}</span>}
            {earlier && row.counts && earlier.standing === 'superseded' && (
              <span className="sr-only">{t('card.earlier', clock(earlier.takenAt, view.zone))}</span>
            )}
          </>
        )}
      </span>
    </div>
  );
}
