import { lazy, Suspense } from 'react';
import { say, t } from '../../texts';
import { clock, nameOf } from '../../ui/format';
import type { CardView } from './CardPage';
import { SourceLine, Basis } from './Basis';
import { Block } from './Block';
import { RowActions } from './RowActions';
import { Attempts, Maps } from './Attempts';

/** One cause for most of the Card, where the rows tell stories of their own: what to try first. */
function CardCause({ view }: { view: CardView }) {
  const { mostLikely, rows } = view.answer.card;
  if (!mostLikely) return null;
  const names = [...new Set(mostLikely.rows.map((id) => rows.find((r) => r.id === id)).flatMap((r) => (r ? [nameOf(r)] : [])))].join(', ');
  return (
    <Block title={t('card.most-likely', mostLikely.rows.length, mostLikely.of)}>
      <p className="mb-2 text-label">
        <b>{t(`cause.${mostLikely.id}`)}.</b> <span className="text-ink-2">{names}.</span> <b>{t(`cause.${mostLikely.id}.try`)}</b>{' '}
        {mostLikely.minutes} min
      </p>
    </Block>
  );
}

const Holds = lazy(() => import('./Holds'));
const Guide = lazy(() => import('./Guide').then((m) => ({ default: m.Guide })));

/**
 * What proves the rows, aligned with the row at hand: its attempts, its wire map, its likely causes, its limits and where they come
 * from.
 */
export function Evidence({ view }: { view: CardView }) {
  const { answer, active } = view;
  if (!active) return null;
  const runId = active.key.on.id;
  const mapRow = answer.card.rows.find((r) => r.check.entry === 'wireMap' && r.key.on.id === runId);
  const faults = answer.card.faults;
  return (
    <div className="flex flex-col">
      {view.readOnly ? (
        <p className="mt-2 border-l-4 border-hairline pl-3 text-label text-ink-2">{t(view.readOnly)}</p>
      ) : (
        <RowActions view={view} row={active} />
      )}
      {active.check.entry !== 'wireMap' && active.state !== 'notTaken' && <Attempts view={view} row={active} />}
      {(active.state === 'notTaken' || active.state === 'stale') && (
        <Suspense>
          <Guide answer={answer} row={active} />
        </Suspense>
      )}
      {active.check.id === 'recorder.store' && (
        <Suspense>
          <Holds deviceId={answer.place.id} />
        </Suspense>
      )}
      <CardCause view={view} />
      {active.causes.length > 0 && (
        <Block title={t('card.causes')}>
          <ol>
            {active.causes.map((cause, i) => (
              <li key={cause.id} className="mb-2 flex gap-3 text-label">
                <span className="font-bold">{i + 1}</span>
                <span>
                  <b>{t(`cause.${cause.id}`)}.</b> <span className="text-ink-2">{say(cause.evidence)}</span>{' '}
                  <b>{t(`cause.${cause.id}.try`)}</b> {cause.minutes} min
                </span>
              </li>
            ))}
          </ol>
        </Block>
      )}
      {mapRow && <Maps view={view} row={mapRow} />}
      {faults.length > 0 && (
        <Block title={t('card.faults')}>
          {faults.map((f) => (
            <div key={f.fault.id} className="mb-2 text-label" data-testid="fault">
              <p className={`font-bold ${f.open ? 'text-refused' : ''}`}>
                {f.fault.title} <span className="font-normal">({t(`severity.${f.fault.severity}`)})</span>
              </p>
              <p className="text-ink-2">
                {clock(f.fault.raisedAt, view.zone)} {t('fault.raised', view.nameOfPerson(f.fault.raisedBy))}{' '}
                {f.fault.causeId ? `${t(`cause.${f.fault.causeId}`)}.` : ''}
              </p>
              {f.repairs.map((a) => (
                <p key={a.id} className="text-ink-2">
                  {clock(a.at, view.zone)} {t(`act.${a.actKind}`)}
                  {a.end ? `, ${t(`end.${a.end}`)}` : ''}
                  {a.text ? `. ${a.text}` : ''}
                </p>
              ))}
              {answer.faultWords
                .filter((w) => w.faultId === f.fault.id)
                .map((w) => (
                  <p key={w.at} className="text-ink-2">
                    {clock(w.at, view.zone)} {w.text}
                  </p>
                ))}
              <p className="font-semibold">
                {f.open
                  ? t('fault.open')
                  : f.ended
                    ? t('fault.ended-by-word', clock(f.ended.at, view.zone), view.nameOfPerson(f.ended.by), f.ended.reason)
                    : `${clock(f.closedAt!, view.zone)} ${t('fault.closed-by-retest')}`}
              </p>
              {f.open && f.mayEnd && !view.readOnly && (
                <button className="min-h-9 font-semibold underline" onClick={() => view.sheet('faultEnd', undefined, f.fault.id)}>
                  {t('button.end-fault')}
                </button>
              )}
            </div>
          ))}
        </Block>
      )}
      {(active.check.leg === 'power' || active.check.leg === 'port') && <SourceLine deviceId={answer.place.id} />}
      <Basis row={active} deviceId={answer.place.id} />
    </div>
  );
}
