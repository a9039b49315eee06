import { say, t } from '../../texts';
import { type ChannelLine, drawn, type Drawn, type RecorderPage } from './channels';

const Longest = 30;

function Bar({ of }: { of: Drawn }) {
  const width = Math.max(5, (Math.min(of.seconds, Longest) / Longest) * 22);
  const x = (26 - width) / 2;
  return (
    <svg viewBox="0 0 26 12" width="26" height="12" aria-hidden>
      {of.kind === 'found' && <rect x={x} y="4" width={width} height="5" fill="var(--color-ink)" />}
      {of.kind === 'refused' && <path d="M3 4h9l-3 3H3zM14 8l3-3h6v3z" fill="var(--color-refused)" />}
      {of.kind === 'neither' && (
        <rect x="4" y="4.5" width="18" height="4" fill="none" stroke="var(--color-noted)" strokeDasharray="2.5 2" />
      )}
      {of.kind === 'waits' && <path d="M13 2l4 4-4 4-4-4z" fill="none" stroke="var(--color-ink)" strokeWidth="1.3" />}
      {of.kind === 'nothing' && <path d="M6 6.5h14" stroke="var(--color-ink-3)" strokeWidth="1.5" strokeDasharray="2 2.6" />}
    </svg>
  );
}

/** Of one event in words, for whoever hears it. */
const inWords = (of: Drawn, line: ChannelLine['before']) =>
  of.kind === 'waits' ? t('rec.pending') : line[0] ? line[0].because.map(say).join(' ') || t('rec.not-sent') : t('rec.no-event');

const minuteOf = (at: string | undefined) => at?.slice(14, 16) ?? '';

/** Every channel side by side: who proves what, before and after the restart. */
export function Matrix({
  page,
  active,
  clockOf,
  onPick,
}: {
  page: RecorderPage;
  active?: number;
  clockOf: (at: string) => string;
  onPick: (channel: number) => void;
}) {
  const { restartAt } = page;
  const sum = page.tally;
  return (
    <section aria-label={t('rec.clips')} className="border-b border-hairline py-2">
      <h2 className="flex flex-wrap items-baseline gap-x-3 font-bold">
        {restartAt ? t('rec.clips-restart', clockOf(restartAt)) : t('rec.clips')}
        <span className="ml-auto text-label font-normal text-ink-2 max-sm:ml-0">
          {t('rec.count', sum.proven, sum.refused, sum.open, sum.planned)}
          {restartAt && `; ${t('rec.count-after', sum.provenAfter, sum.refusedAfter)}`}
        </span>
      </h2>
      <p className="mb-1 text-label text-ink-2">{t('rec.clips-hint')}</p>
      <div className="grid grid-cols-[3.4rem_1fr] max-sm:grid-cols-1">
        <span aria-hidden className="flex flex-col text-tick text-ink-2 max-sm:hidden">
          <span className="h-[19px]" />
          {restartAt && (
            <>
              <span className="flex h-3 items-center text-ink">{t('rec.before')}</span>
              <span className="h-4">{t('rec.minute')}</span>
              <span className="flex h-3 items-center text-ink">{t('rec.after')}</span>
              <span className="h-4">{t('rec.minute')}</span>
            </>
          )}
        </span>
        <ul
          className={`grid gap-y-2 max-sm:grid-cols-[repeat(auto-fill,minmax(44px,1fr))] ${page.channels.some((c) => c.number > 99) ? 'grid-cols-[repeat(auto-fill,minmax(34px,1fr))]' : 'grid-cols-[repeat(auto-fill,minmax(23.5px,1fr))]'}`}
        >
          {page.channels.map((line) => {
            const after = line.isPendingAfter;
            const before = drawn(line.before[0], line.pendingAt !== null && !after);
            const since = drawn(line.after[0], after);
            return (
              <li key={line.number}>
                <button
                  aria-pressed={active === line.number}
                  aria-label={t(
                    'rec.cell',
                    line.number,
                    line.label || line.name || t('rec.nobody'),
                    line.notes.map((n) => say(n.said)).join(' '),
                    [
                      t('rec.clip-of', inWords(before, line.before)),
                      ...(restartAt ? [t('rec.after-of', inWords(since, line.after))] : []),
                    ].join(', '),
                  )}
                  title={line.label || line.name}
                  onClick={() => onPick(line.number)}
                  className={`relative flex min-h-11 w-full flex-col items-center ${active === line.number ? 'bg-paper-hi' : ''}`}
                >
                  {active === line.number && <span aria-hidden className="absolute inset-x-0 -top-0.5 h-1 bg-accent" />}
                  <span className={`font-read text-label font-bold ${line.needsHand ? 'text-refused underline' : ''}`}>{line.number}</span>
                  <Bar of={before} />
                  <span className="font-read h-4 text-tick text-ink-2">{minuteOf(line.before[0]?.at)}</span>
                  {restartAt && (
                    <>
                      <Bar of={since} />
                      <span className="font-read h-4 text-tick text-ink-2">{minuteOf(line.after[0]?.at)}</span>
                    </>
                  )}
                </button>
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}
