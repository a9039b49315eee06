import { clockOffsetMs } from '../../api/clock';
import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import { Sign, StateMark } from '../../ui/Marks';
import { nameOf, spareText } from '../../ui/format';
import { countsOf, goneOf, inOrder, waitsOf, type Counts } from './fold';
import { coverText } from './cover';
import type { CardView } from './CardPage';
import { signOf, useWaiting, waitText } from './wait';

const markOf: Partial<Record<keyof Counts, string>> = { waiting: 'notTaken' };

/** Counts in words, the worst first; nothing is said of what there is none of. */
export const countsText = (counts: Counts, but: readonly (keyof Counts)[] = []) =>
  inOrder
    .filter((k) => counts[k] > 0 && !but.includes(k))
    .map((k) => `${counts[k]} ${t(`count.${k}`)}`)
    .join(', ');

/** A section folded to one line: how it stands, what is tightest, and the way in. */
export function Folded({ section, rows, onOpen }: { section: string; rows: CardRow[]; onOpen: () => void }) {
  const counts = countsOf(rows);
  const worst = inOrder.find((k) => counts[k] > 0) ?? 'notTaken';
  const tightest = rows
    .filter((r) => r.spare && r.state !== 'notApplicable')
    .sort((a, b) => (a.spare!.shareOfSpan ?? a.spare!.shareOfLimit ?? 0) - (b.spare!.shareOfSpan ?? b.spare!.shareOfLimit ?? 0))[0];
  return (
    <button
      type="button"
      aria-expanded={false}
      className="flex min-h-9 w-full items-center gap-3 border-t border-ink text-left hover:bg-paper-lo"
      onClick={onOpen}
    >
      <span className="w-margin shrink-0 text-body font-bold">{t(`section.${section}`)}</span>
      <StateMark state={(markOf[worst] ?? worst) as CardRow['state']} />
      <span className="min-w-0 flex-1 truncate text-label">
        {countsText(counts)}
        {tightest && <span className="ml-3 text-ink-2">{nameOf(tightest)}</span>}
      </span>
      {tightest?.spare && (
        <span className="font-read whitespace-nowrap pr-1 text-label font-bold">{spareText(tightest, tightest.spare)}</span>
      )}
    </button>
  );
}

/** How all of a long Card stands, in one line. */
export function Standing({ view, rows }: { view: CardView; rows: CardRow[] }) {
  const counts = countsOf(rows);
  const { not } = coverText(view.answer.card.verdict);
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 border-t border-ink py-1 text-label text-ink-2">
      <b className="font-read text-ink">{t('card.rows-n', rows.length)}</b>
      <span>{countsText(counts)}</span>
      {counts.unexpected > 0 && <span className="text-noted">{`${counts.unexpected} ${t('count.unexpected')}`}</span>}
      {not && <span className="ml-auto">{not}</span>}
      <Bring tools={view.answer.card.tools} />
    </p>
  );
}

/** Tools and small parts for what can be taken now. */
export function Bring({ tools }: { tools: string[] }) {
  return tools.length > 0 ? <span className="basis-full">{t('card.bring', tools.map((id) => t(`tool.${id}`)).join(', '))}</span> : null;
}

/** What rows wait for, each once: how much has gone, how long still, and how many rows. */
export function Waits({ view, rows, onRow }: { view: CardView; rows: CardRow[]; onRow: (row: CardRow) => void }) {
  const waits = waitsOf(rows);
  useWaiting(waits.length > 0);
  if (waits.length === 0) return null;
  return (
    <section className="flex border-t border-ink" aria-label={t('card.waits')}>
      <h2 className="w-margin shrink-0 pt-2 text-body font-bold">{t('card.waits')}</h2>
      <ul className="min-w-0 flex-1">
        {waits.map(({ of, row, rows: all }) => {
          const gone = goneOf(row, Date.now() + clockOffsetMs());
          return (
            <li key={of} className="border-b border-dotted border-hairline last:border-0">
              <button type="button" className="flex min-h-9 w-full items-center gap-3 text-left text-label" onClick={() => onRow(row)}>
                <Sign sign={signOf(of)} />
                <span className="min-w-0 flex-1">{waitText(row, view.zone)}</span>
                {gone !== null && (
                  <svg viewBox="0 0 100 8" width="100" height="8" aria-hidden className="shrink-0">
                    <path d={`M${gone * 100} 4H100M99 0v8`} stroke="currentColor" strokeWidth="1.400" strokeDasharray="4 3" />
                    <path d={`M0 4H${gone * 100}`} stroke="currentColor" strokeWidth="3" />
                  </svg>
                )}
                <span className="whitespace-nowrap text-ink-2">{t('card.rows-n', all.length)}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
