import { say, t } from '../../texts';
import { joinWords, type HeadJoins } from './joins';

/** Where the views of neighbouring heads meet, as both hang now; those of the head that is looked at in bold. */
export function Joins({ joins, head }: { joins: HeadJoins; head: number }) {
  return (
    <section aria-label={t('join.title')} className="mt-3 border-t border-hairline pt-2" data-testid="joins">
      <p className="text-label">
        <b>{t('join.title')}</b> <span className="text-ink-3">{t('join.how')}</span>
      </p>
      {joins.why && <p className="text-label text-ink-2">{say(joins.why)}</p>}
      <ul>
        {joins.joins.map((join) => {
          const words = joinWords(join);
          return (
            <li
              key={`${join.left} ${join.right}`}
              className={`flex flex-wrap items-baseline gap-x-3 border-b border-dotted border-hairline py-1 text-table ${
                join.left === head || join.right === head ? 'font-semibold' : ''
              }`}
            >
              <span className="font-read">{words.pair}</span>
              {words.now ? (
                <span className={join.outcome === 'in' ? 'text-accepted' : join.outcome === 'out' ? 'text-refused' : 'text-noted'}>
                  {words.now}
                  {join.outcome === 'tooClose' && `, ${t('aim.off.tooClose')}`}
                </span>
              ) : (
                <span className="font-normal text-ink-2">{words.why}</span>
              )}
              <span className="ml-auto font-normal text-ink-2">{words.agreed}</span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
