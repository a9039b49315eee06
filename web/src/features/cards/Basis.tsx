import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { answered, api } from '../../api/client';
import type { CardRow } from '../../api/types';
import { say, t } from '../../texts';
import { limitText, unitOf } from '../../ui/format';
import { Block } from './Block';

/** Whether the switch or injector that feeds this place has enough for everything on it. */
export function SourceLine({ deviceId }: { deviceId: string }) {
  const sources = useQuery({
    queryKey: ['card', deviceId, 'source'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/source', { params: { path: { deviceId } } })),
  });
  if (!sources.data || sources.data.length === 0) return null;
  return (
    <Block title={t('budget.title')}>
      {sources.data.map((s) => (
        <p key={s.source} className="mb-1 text-label">
          <Link to="/power" className="font-semibold underline">
            {t('budget.line', s.source, s.port)}
          </Link>{' '}
          <span className={s.state === 'out' ? 'font-bold text-refused' : s.state === 'tooClose' ? 'font-bold text-noted' : 'text-ink-2'}>
            {s.why}
          </span>
        </p>
      ))}
    </Block>
  );
}

/** Where the limit and the expected value come from. */
export function Basis({ row, deviceId }: { row: CardRow; deviceId: string }) {
  if (!row.window && !row.expected?.from.length) return null;
  const between = row.expected?.between;
  return (
    <section className="py-3 text-label text-ink-2">
      <Link
        to="/trace/$deviceId"
        params={{ deviceId }}
        search={{ row: row.id }}
        className="mb-2 inline-flex min-h-11 items-center font-semibold text-ink underline"
      >
        {t('trace.open')}
      </Link>
      {row.window && (
        <>
          <h2 className="font-bold text-ink">
            {t('card.limits-from')}: {limitText(row)} {unitOf(row)}
          </h2>
          <ul className="mb-2">
            {row.window.parts.map((p) => (
              <li key={p.id}>
                {p.purpose} ({p.source})
              </li>
            ))}
          </ul>
        </>
      )}
      {row.expected && row.expected.from.length > 0 && (
        <>
          <h2 className="font-bold text-ink">{t('card.expected-from')}</h2>
          <p>
            {t(row.expected.method)}
            {between && (
              <b className="text-ink">
                {' '}
                {t('card.expected-between', between.low.toFixed(row.check.decimals), between.high.toFixed(row.check.decimals), unitOf(row))}
              </b>
            )}
          </p>
          <p>
            {row.expected.from.map((term, i) => (
              <span key={term.name}>
                {i > 0 && ', '}
                {t(term.name)} {term.value.startsWith('@') ? t(term.value.slice(1)) : term.value}
                {term.plusMinus && <span title={term.halfFrom ? say(term.halfFrom) : undefined}> ±{term.plusMinus}</span>}{' '}
                <span className="text-ink-3">({t(`origin.${term.origin}`)})</span>
              </span>
            ))}
          </p>
        </>
      )}
    </section>
  );
}
