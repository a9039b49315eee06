import { Settled } from '../../ui/Settled';
import { useEffect, useLayoutEffect, useRef } from 'react';
import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';
import { expectLine, limitText, nameOf, qualifierOf, spareText, unitOf } from '../../ui/format';
import { LimitGauge } from '../../ui/LimitGauge';
import { stateColour } from '../../ui/Marks';
import { Before } from './Before';
import { Cautions } from './Cautions';
import type { CardView } from './CardPage';
import type { Draft } from './drafts';
import { askedCode, useEntry } from './entry';
import { Notices } from './Notices';
import { ways } from './ways';
import { identity } from '../../session/identity';
import { nameOfKey } from '../../ui/keys';
import { isWaiting, useWaiting, waitText } from './wait';
import { keysAreHere } from '../../ui/typeAhead';
import { LateCountdown } from './ways/late';
import { Stopwatch } from './ways/Stopwatch';
import { TakePicture } from './SeenIn';
import { Trouble } from '../../ui/Trouble';

/** T, where it is not a letter of a word that is being typed. */
const isReadKey = (e: React.KeyboardEvent) => {
  if (nameOfKey(e, identity().lettersOff) !== 't') return false;
  const field = e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName) ? e.target : undefined;
  // Where digits alone are asked for, no letter is typed.
  return !field || /^(numeric|decimal)$/.test(field.inputMode);
};

/** The one raised strip: the open Check. Enter saves and goes on, Shift+Enter saves and stays, Esc leaves with nothing saved. */
export function OpenCheck({
  view,
  row,
  first,
  onDone,
  onLeave,
}: {
  view: CardView;
  row: CardRow;
  /** The key that opened the row, or was pressed while the keys were elsewhere; each press counts once. */
  first: { key: string; press: number };
  onDone: (next: boolean, saved?: string[]) => void;
  onLeave: () => void;
}) {
  const Field = ways[row.check.entry]?.field;
  const entry = useEntry(view.answer, row, view.instrument);
  const strip = useRef<HTMLDivElement>(null);
  const heard = useRef(-1);
  useEffect(() => {
    if (heard.current === first.press) return;
    const isOpen = heard.current >= 0;
    heard.current = first.press;
    if (first.key === 'tester') {
      if (row.check.tester && !entry.reading) void entry.readTester();
    } else if (first.key) entry.change({ text: (isOpen ? (entry.draft.text ?? '') : '') + first.key });
    if (!strip.current?.contains(document.activeElement))
      strip.current?.querySelector<HTMLElement>('input,[role=radiogroup],button')?.focus();
  }, [first, entry, row]);
  const held = row.heldBy.length > 0;
  useWaiting(!!row.wait);
  const save = async (next: boolean, chosen?: Draft) => {
    if (held) return;
    if (!(await entry.save(chosen))) return;
    onDone(next);
    if (!next) keysAreHere();
  };
  const leave = () => {
    entry.change({});
    onLeave();
  };
  const forward = useRef<HTMLButtonElement>(null);
  // After the tester has read, Enter saves: from the moment that it is seen.
  useLayoutEffect(() => {
    if (entry.draft.fromTester && entry.ready) forward.current?.focus();
  }, [entry.draft.fromTester, entry.ready]);
  useEffect(keysAreHere, []);
  const judged = entry.preview;
  const state = judged?.state ?? null;
  const scheme = view.answer.place.runs.find((r) => r.id === row.key.on.id)?.scheme ?? 'T568B';
  return (
    <div
      ref={strip}
      role="group"
      aria-label={[nameOf(row), qualifierOf(row)].filter(Boolean).join(', ')}
      className="relative -ml-3 border-y border-ink bg-paper-hi py-3 pl-5 pr-3 motion-safe:animate-settle"
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          e.stopPropagation();
          leave();
        }
        // No number has this letter: it reads the tester, as on the closed row.
        if (isReadKey(e) && row.check.tester && !entry.reading) {
          e.preventDefault();
          e.stopPropagation();
          void entry.readTester();
        }
        if (
          e.key === 'Enter' &&
          !(e.target instanceof HTMLButtonElement && e.target.getAttribute('role') !== 'radio' && !(e.target.ariaPressed && entry.ready))
        ) {
          e.preventDefault();
          e.stopPropagation();
          void save(!e.shiftKey);
        }
      }}
    >
      <span aria-hidden className="absolute inset-y-0 left-0 w-1.5 bg-accent" />
      <div className="flex items-baseline justify-between gap-4">
        <p className="text-body font-bold">{[nameOf(row), qualifierOf(row)].filter(Boolean).join(', ')}</p>
        <p className="text-label text-ink-2">
          {[limitText(row) && `${limitText(row)} ${unitOf(row)}`, expectLine(row)].filter(Boolean).join(', ')}
        </p>
      </div>
      <p className="text-label text-ink-2">{t(`check.${row.check.id}.ask`)}</p>
      <Cautions row={row} said={view.answer.card.cautionsSaid} />
      {isWaiting(row) && <p className="mt-1 font-bold text-noted">{waitText(row, view.zone)}</p>}
      {isWaiting(row) && row.wait?.source && <p className="text-tick text-ink-2">{say(row.wait.source)}</p>}
      {row.check.picture && entry.seen.length === 0 && <p className="mt-1 text-label font-semibold">{t('card.needs-picture')}</p>}
      <Before row={row} className="mt-1" />
      {!row.required && <p className="mt-1 text-label text-ink-2">{t(`optional.${row.check.ifOut}`)}</p>}
      <div className="mt-2 flex flex-wrap items-end gap-x-5 gap-y-2">
        {row.check.entry === 'number' && (
          <label className="flex w-44 items-baseline border-b-2 border-ink">
            <span className="sr-only">{nameOf(row)}</span>
            <input
              autoFocus
              data-testid="entry"
              inputMode="decimal"
              autoComplete="off"
              maxLength={40}
              className="font-read w-full min-w-0 bg-transparent text-[2.25rem] font-bold leading-tight caret-accent outline-none"
              value={entry.draft.text ?? ''}
              onChange={(e) => entry.change({ text: e.target.value })}
            />
            <span className="font-read text-body text-ink-2">{unitOf(row)}</span>
          </label>
        )}
        {row.check.stopwatch && <Stopwatch row={row} entry={entry} />}
        {row.countdownSeconds && <LateCountdown row={row} entry={entry} />}
        {Field && <Field row={row} entry={entry} scheme={scheme} onEnter={(draft, next) => void save(next, draft)} />}
        {row.check.entry === 'number' && (
          <LimitGauge
            row={row}
            width={200}
            height={60}
            reading={
              judged?.value?.kind === 'number' && state
                ? { value: judged.value.value, state, half: judged.halfWidth, spare: judged.spare }
                : undefined
            }
          />
        )}
        <Settled
          text={
            entry.reading
              ? t(askedCode('card.reading-tester', row.check))
              : state
                ? [
                    t(judged?.willNotCount ? 'card.wont-count' : `state.${state}`),
                    judged?.spare && row.check.entry === 'number' && spareText(row, judged.spare),
                  ]
                    .filter(Boolean)
                    .join(', ')
                : ''
          }
        />
        <p className={`min-w-24 flex-1 pb-1 ${judged?.willNotCount ? 'text-refused' : state ? stateColour[state] : 'text-ink-2'}`}>
          {entry.reading ? (
            t(askedCode('card.reading-tester', row.check))
          ) : state ? (
            <>
              <span className="block text-lead font-bold first-letter:uppercase">
                {judged?.willNotCount ? t('card.wont-count') : t(`state.${state}`)}
                {entry.isProvisional ? `, ${t('ui.provisional')}` : ''}
              </span>
              <span className="font-read block text-label">
                {judged!.spare && row.check.entry === 'number' ? spareText(row, judged!.spare) : ''}
              </span>
            </>
          ) : null}
        </p>
      </div>
      {judged && judged.because.length > 0 && row.check.entry !== 'number' && (
        <p className={`mt-2 text-label ${judged.state ? stateColour[judged.state] : ''}`}>{judged.because.map(say).join(' ')}</p>
      )}
      {judged?.state === 'tooClose' && row.check.entry === 'number' && (
        <p className="mt-1 text-label text-noted">{t('card.too-close-hint')}</p>
      )}
      {judged?.because.some((b) => b.code === 'because.no-accuracy') && (
        <p className="mt-1 text-label text-ink-2">{`${t('because.no-accuracy')} ${t('card.choose-instrument')}`}</p>
      )}
      {first.key === 'tester' && !row.check.tester && <p className="mt-1 text-label text-ink-2">{t('card.tester-not')}</p>}
      <Notices row={row} rows={view.answer.card.rows} entry={entry} instrument={view.instrument} />
      <Trouble text={entry.trouble} className="mt-2" />
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 text-label">
        <button
          ref={forward}
          type="button"
          className="forward !min-h-9 disabled:opacity-40"
          disabled={!entry.ready || held}
          onClick={() => void save(true)}
        >
          {t('button.save-next')}
        </button>
        {entry.others.length > 1 && (
          <button
            type="button"
            className="plain !min-h-9"
            onClick={() => {
              const saved = entry.others.map((other) => other.row);
              void entry.saveAll().then((kept) => kept && onDone(true, saved));
            }}
          >
            {t('card.save-all', entry.others.length)}
          </button>
        )}
        {row.check.tester && (
          <button
            type="button"
            className="font-semibold underline aria-disabled:opacity-40"
            aria-disabled={entry.reading}
            onClick={() => !entry.reading && void entry.readTester()}
          >
            <span className="key">T</span> {t(askedCode('button.read', row.check))}
          </button>
        )}
        <TakePicture entry={entry} className="font-semibold underline" />
        <span>
          <span className="key">Enter</span> {t('key.save-next')}
        </span>
        <span>
          <span className="key">Shift+Enter</span> {t('key.save-stay')}
        </span>
        <button type="button" onClick={leave}>
          <span className="key">Esc</span> {t('key.leave')}
        </button>
      </div>
    </div>
  );
}
