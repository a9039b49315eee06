import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';
import { nameOf, qualifierOf } from '../../ui/format';
import { valueOf } from './ways';
import { StateMark, stateColour, VerdictMark } from '../../ui/Marks';
import { BuiltLine } from './CabinetCard';
import { useKeys } from '../../ui/keys';
import { cardKeys } from './cardKeys';
import { coverText, isAcceptance } from './cover';
import type { CardView } from './CardPage';
import { due, keptText } from './due';
import { countsOf, foldedOf, LONG } from './fold';
import { keptOf } from './provisional';
import { Bring, countsText } from './Sections';
import { isWaiting, waitText } from './wait';

/** All Checks of the Card with its Verdict, and the way to the next Stop. */
export function AllChecks({ view, onChoose }: { view: CardView; onChoose: (id: string) => void }) {
  const { card, place } = view.answer;
  const [all, setAll] = useState(false);
  const rows = all ? card.rows : due(card.rows);
  const isLong = due(card.rows).length > LONG;
  const [by, setBy] = useState<Readonly<Record<string, boolean>>>({});
  const folded = foldedOf(
    rows.map((r) => r.check.section),
    due(card.rows).length,
    undefined,
    { ...(view.active && { [view.active.check.section]: false }), ...by },
  );
  const line = (row: CardRow) => {
    const counts = row.attempts.find((a) => a.readingId === row.counts);
    const kept = keptOf(view.outbox, row, card.rule, view.instrument);
    const v = kept ? kept.shown : counts ? valueOf(row, counts.value, counts.map) : null;
    const state = kept ? (kept.guess?.state ?? 'notTaken') : row.state;
    return (
      <li key={row.id}>
        <button className="flex min-h-14 w-full items-center gap-3 border-b border-hairline" onClick={() => onChoose(row.id)}>
          <StateMark state={state} />
          <span className="min-w-0 flex-1">
            <span className="line-clamp-2 text-left text-table font-semibold leading-tight">{nameOf(row)}</span>
            <span className="block truncate text-label text-ink-2">
              {[
                qualifierOf(row),
                (!kept || kept.guess?.state) && t(`state.${state}`),
                kept && [kept.guess?.state && t('ui.provisional'), t('ui.sent-later')].filter(Boolean).join(', '),
                !kept && row.isUnexplained && t('state.unexpected'),
                !kept && (row.state === 'notTaken' || row.state === 'stale') && isWaiting(row) && waitText(row, view.zone),
              ]
                .filter(Boolean)
                .join(', ')}
            </span>
          </span>
          {/* What is long gives way: the name says which Check it is. */}
          <span
            className={`font-read line-clamp-2 max-w-[50%] text-right font-bold ${(v?.big.length ?? 0) > 14 ? 'text-label leading-tight' : 'text-table'} ${stateColour[state]}`}
          >
            {v ? `${v.big} ${row.check.entry === 'number' ? v.unit : ''}` : ''}
          </span>
        </button>
      </li>
    );
  };
  useKeys(cardKeys(view));
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-3 border-b border-ink px-4 py-2">
        <Link to="/" className="flex min-h-11 items-center font-semibold underline">
          {t('nav.walk')}
        </Link>
        <h1 className="font-read text-title font-bold">{place.label}</h1>
        <button className="ml-auto flex min-h-11 items-center gap-2 font-bold" onClick={() => view.sheet('verdict')}>
          <VerdictMark verdict={card.verdict.verdict} size={20} label="" />{' '}
          <span data-testid="verdict">{t(`verdict.${card.verdict.verdict}`)}</span>
        </button>
      </div>
      <p className="px-4 py-1 text-label text-ink-2">
        {place.name}. {isAcceptance(card.verdict.verdict) && `${t(`verdict.${card.verdict.verdict}`)}, ${coverText(card.verdict).covers}. `}
        {[...card.verdict.because.map(say), keptText(card.rows, view.outbox)].filter(Boolean).join(', ')}.
      </p>
      <div className="px-4">
        <BuiltLine view={view} />
        {view.readOnly && <p className="my-1 border-l-4 border-hairline pl-3 text-label text-ink-2">{t(view.readOnly)}</p>}
      </div>
      {isLong && (
        <p className="flex px-4 pb-1 text-label text-ink-2">
          <Bring tools={card.tools} />
        </p>
      )}
      <ul className="min-h-0 flex-1 overflow-y-auto px-4">
        {isLong
          ? [...new Set(rows.map((r) => r.check.section))].map((section) => {
              const own = rows.filter((r) => r.check.section === section);
              const isOpen = !folded.has(section);
              return (
                <li key={section}>
                  <button
                    className="flex min-h-14 w-full items-baseline gap-3 border-b border-ink pt-4 text-left"
                    aria-expanded={isOpen}
                    onClick={() => setBy({ ...by, [section]: isOpen })}
                  >
                    <b className="text-body">{t(`section.${section}`)}</b>
                    <span className="min-w-0 flex-1 truncate text-label text-ink-2">{countsText(countsOf(own))}</span>
                  </button>
                  {isOpen && <ul>{own.map(line)}</ul>}
                </li>
              );
            })
          : rows.map(line)}
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
        <button
          data-home="onward"
          className="min-h-glove flex-1 bg-action text-center text-lead font-bold text-action-ink"
          onClick={() => view.goStop(1)}
        >
          {t('card.next-stop')}
        </button>
      </div>
    </main>
  );
}
