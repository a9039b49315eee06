import type { OutcomeAnswer, SheetMapping } from '../../api/types';
import { t } from '../../texts';
import { Findings } from './ImportFindings';
import '../access/accessTexts';

export function Outcome({
  outcome,
  mapping,
  busy,
  onRows,
}: {
  outcome: OutcomeAnswer;
  mapping: SheetMapping;
  busy: boolean;
  onRows: (next: Partial<SheetMapping>) => void;
}) {
  const leftOut = mapping.leftOut ?? [];
  const anyway = mapping.takenAnyway ?? [];
  const leaveOut = (rows: number[]) => onRows({ leftOut: [...new Set([...leftOut, ...rows])] });
  const takeAnyway = (rows: number[]) => onRows({ takenAnyway: [...new Set([...anyway, ...rows])] });
  const odd = [...new Set(outcome.problems.filter((p) => p.mayTake).map((p) => p.row))];
  const choice = 'px-1 py-1 font-semibold underline disabled:opacity-40 max-sm:min-h-11';
  return (
    <section className="mt-6 border-t border-ink pt-3">
      {odd.length > 1 && (
        <p className="mb-2 flex flex-wrap items-baseline gap-x-4">
          <b>{t('import.odd', odd.length)}</b>
          <button className={choice} disabled={busy} onClick={() => leaveOut(odd)}>
            {t('import.odd-leave')}
          </button>
          <button className={choice} disabled={busy} onClick={() => takeAnyway(odd)}>
            {t('import.odd-take')}
          </button>
        </p>
      )}
      {outcome.created.length > 0 && <p className="mb-2">{t('import.created', outcome.created.join(', '))}</p>}
      {outcome.problems.length > 0 && (
        <>
          <p className="mb-2 font-semibold text-refused">{t('import.refused-hint')}</p>
          <table className="w-full text-label">
            <thead>
              <tr className="border-b border-ink text-left">
                {['first.row', 'first.column', 'first.what', 'first.mend'].map((h) => (
                  <th key={h} className="py-1 pr-3">
                    {t(h)}
                  </th>
                ))}
                <th className="sr-only">{t('import.leave')}</th>
              </tr>
            </thead>
            <tbody>
              {outcome.problems.slice(0, 300).map((p, i) => (
                <tr key={i} className="border-b border-hairline align-top">
                  <td className="font-read py-1 pr-3">{p.row || ''}</td>
                  <td className="pr-3">{p.column && t(`field.${p.column}`)}</td>
                  <td className="pr-3">{p.what}</td>
                  <td>{p.mend}</td>
                  <td className="whitespace-nowrap text-right">
                    {p.mayTake && (
                      <button className={choice} disabled={busy} onClick={() => takeAnyway([p.row])}>
                        {t('import.take-anyway')}
                      </button>
                    )}
                    {p.row > mapping.headerRow + 1 && (
                      <button
                        className={choice}
                        disabled={busy}
                        aria-label={t('import.leave-row', p.row)}
                        onClick={() => leaveOut([p.row])}
                      >
                        {t('import.leave')}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {outcome.problems.length === 0 && outcome.devices.some((d) => d.changes.length > 0) && (
        <>
          <h2 className="text-body font-bold">{t('import.changes')}</h2>
          <ul className="max-w-4xl">
            {outcome.devices
              .filter((d) => d.changes.length > 0)
              .slice(0, 200)
              .map((d) => (
                <li key={d.label} className="border-b border-hairline py-1 text-label">
                  <span className="font-read font-bold">{d.label}</span> <span className="text-ink-3">{t('import.row', d.row)}</span>{' '}
                  {d.changes
                    .map(
                      (c) => `${t(`field.${c.field}`)} ${c.from ?? t('import.nothing')} > ${c.to}${c.kept ? ` (${t('import.kept')})` : ''}`,
                    )
                    .join(', ')}
                </li>
              ))}
          </ul>
        </>
      )}
      {outcome.passed.length > 0 && (
        <details className="mt-4 max-w-4xl text-label" open={outcome.passed.length <= 12}>
          <summary className="min-h-9 font-bold">{t('import.passed', outcome.passed.length)}</summary>
          <ul>
            {outcome.passed.map((p) => (
              <li key={p.row} className="flex items-baseline gap-x-3 border-b border-hairline py-0.5">
                <span className="font-read w-20 shrink-0 text-ink-2">{t('import.row', p.row)}</span>
                <span className="min-w-0 flex-1 truncate">{p.text}</span>
                <span className="text-ink-2">{p.why}</span>
                {leftOut.includes(p.row) && (
                  <button className={choice} disabled={busy} onClick={() => onRows({ leftOut: leftOut.filter((r) => r !== p.row) })}>
                    {t('import.put-back')}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Findings outcome={outcome} />
    </section>
  );
}
