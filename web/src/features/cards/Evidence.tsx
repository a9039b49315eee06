import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { answered, api } from '../../api/client';
import type { Attempt, CardRow } from '../../api/types';
import { has, say, t } from '../../texts';
import { clock, limitText, nameOf, qualifierOf, spareText, unitOf, valueOf } from '../../ui/format';
import { stateColour, StateMark, UnexpectedMark } from '../../ui/Marks';
import { WireMap } from '../../ui/WireMap';
import { SeenIn } from './SeenIn';
import type { CardView } from './CardPage';

/** What proves the rows, aligned with the row at hand: its attempts, its wire map, its likely causes, its limits and where they come from. */
export function Evidence({ view }: { view: CardView }) {
  const { answer, active } = view;
  if (!active) return null;
  const runId = active.key.on!.id;
  const mapRow = answer.card.rows.find((r) => r.check.entry === 'wireMap' && r.key.on!.id === runId);
  const faults = answer.card.faults;
  return (
    <div className="flex flex-col">
      <RowActions view={view} row={active} />
      {active.check.entry !== 'wireMap' && active.state !== 'notTaken' && <Attempts view={view} row={active} />}
      {active.causes.length > 0 && (
        <Block title={t('card.causes')}>
          <ol>
            {active.causes.map((cause, i) => (
              <li key={cause.id} className="mb-2 flex gap-3 text-label">
                <span className="font-bold">{i + 1}</span>
                <span>
                  <b>{t(`cause.${cause.id}`)}.</b> <span className="text-ink-2">{say(cause.evidence)}</span> <b>{t(`cause.${cause.id}.try`)}</b>{' '}
                  {cause.minutes} min
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
              {f.open && f.mayEnd && (
                <button className="min-h-9 font-semibold underline" onClick={() => view.sheet('faultEnd', undefined, f.fault.id)}>
                  {t('button.end-fault')}
                </button>
              )}
            </div>
          ))}
        </Block>
      )}
      {(active.check.leg === 'power' || active.check.leg === 'port') && <SourceLine deviceId={answer.place.id!} />}
      <Basis row={active} deviceId={answer.place.id} />
    </div>
  );
}

/** Whether the switch or injector that feeds this place has enough for everything on it. */
function SourceLine({ deviceId }: { deviceId: string }) {
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
            {t('budget.line', s.source!, s.port!)}
          </Link>{' '}
          <span className={s.state === 'out' ? 'font-bold text-refused' : s.state === 'tooClose' ? 'font-bold text-noted' : 'text-ink-2'}>
            {s.why}
          </span>
        </p>
      ))}
    </Block>
  );
}

function Block({ title, right, children }: { title: string; right?: string; children: React.ReactNode }) {
  return (
    <section className="border-b border-hairline py-3">
      <h2 className="mb-1.5 flex items-baseline justify-between gap-2 text-body font-bold">
        {title} {right && <span className="text-label font-normal text-ink-2">{right}</span>}
      </h2>
      {children}
    </section>
  );
}

function RowActions({ view, row }: { view: CardView; row: CardRow }) {
  const button = 'min-h-9 text-label font-semibold underline';
  return (
    <div className="flex flex-wrap gap-x-4 border-b border-hairline py-1" role="group" aria-label={nameOf(row)}>
      {row.isFailing && (
        <button className={`${button} !text-refused`} onClick={() => view.sheet('fault', row)}>
          {t('button.raise')}
        </button>
      )}
      {row.isForTheEye && (
        <button className={`${button} !text-noted`} onClick={() => view.sheet('ruling', row)}>
          {t('button.judge')}
        </button>
      )}
      {row.unexpected.length > 0 && (
        <button className={`${button} ${row.isUnexplained ? '!text-noted' : ''}`} onClick={() => view.sheet('ruling', row)}>
          {t(row.isUnexplained ? 'button.explain' : 'button.explain-again')}
        </button>
      )}
      <button className={button} onClick={() => view.sheet('act', row)}>
        {t('card.record-work')}
      </button>
      {row.isFailing && !row.conceded && (
        <button className={button} onClick={() => view.sheet('concede', row)}>
          {t('button.concede')}
        </button>
      )}
      <button className={button} onClick={() => view.sheet('note', row)}>
        {t('button.note')}
      </button>
      <button className={button} onClick={() => view.sheet('na', row)}>
        {t('button.na')}
      </button>
      {row.attempts.some((a) => a.standing !== 'withdrawn') && (
        <button className={button} onClick={() => view.sheet('withdraw', row)}>
          {t('button.withdraw')}
        </button>
      )}
    </div>
  );
}

function standing(attempt: Attempt) {
  return attempt.standing === 'withdrawn'
    ? t(
        'standing.withdrawn',
        has(`withdraw.${attempt.withdrawnBecause}`) ? t(`withdraw.${attempt.withdrawnBecause}`) : (attempt.withdrawnBecause ?? ''),
      )
    : t(`standing.${attempt.standing}`);
}

function Attempts({ view, row }: { view: CardView; row: CardRow }) {
  return (
    <Block title={[nameOf(row), qualifierOf(row)].filter(Boolean).join(', ')}>
      {[...row.attempts].reverse().map((a) => {
        const v = valueOf(row, a.value, a.map);
        const counts = a.readingId === row.counts;
        const instrument = view.kit?.instruments.find((i) => i.id === a.instrumentId);
        return (
          <div key={a.readingId} className={`mb-1.5 ${counts ? '' : 'text-ink-2'}`}>
            <p className="flex items-center gap-2">
              <StateMark state={a.state} />
              <span className={`font-read font-bold ${counts ? stateColour[a.state] : 'text-ink-2'}`}>
                {v.big} {v.unit}
              </span>
              <span className="text-label">{a.spare ? spareText(row, a.spare) : t(`state.${a.state}`)}</span>
              <span className="ml-auto text-label">{clock(a.takenAt, view.zone)}</span>
            </p>
            <p className="pl-8 text-tick text-ink-2">
              {[
                standing(a),
                view.nameOfPerson(a.by),
                t(`source.${a.source}`),
                instrument?.name,
                a.halfWidth ? t('card.meter', `${a.halfWidth.toFixed(row.check.decimals + 1)} ${unitOf(row)}`) : '',
              ]
                .filter(Boolean)
                .join(', ')}
            </p>
            <SeenIn attempt={a} deviceId={view.answer.place.id} />
            {counts && a.because.length > 0 && <p className={`pl-8 text-label ${stateColour[a.state]}`}>{a.because.map((m) => say(m)).join(' ')}</p>}
          </div>
        );
      })}
      {row.state === 'stale' && row.because[0] && <p className="text-label font-semibold text-open">{say(row.because[0])}</p>}
      {row.unexpected.length > 0 && (
        <p className={`mt-1 flex gap-2 text-label ${row.isUnexplained ? 'font-semibold text-noted' : 'text-ink-2'}`} data-testid="unexpected">
          <UnexpectedMark /> <span>{row.unexpected.map(say).join(' ')}</span>
        </p>
      )}
      {row.ruling && (
        <p className="text-label font-semibold" data-testid="ruling">
          {t(`report.ruling.${row.ruling.says}`, row.ruling.ruledBy, row.ruling.reason)}
        </p>
      )}
      {row.conceded && (
        <p className="text-label text-noted">
          {t('report.conceded', nameOf(row), row.conceded.allowedBy, row.conceded.reason)}{' '}
          {row.conceded.until && t('dialog.until-day', row.conceded.until)}
        </p>
      )}
      {row.exemptedBecause && <p className="text-label">{row.exemptedBecause}</p>}
      {row.notes.map((n) => (
        <p key={n.id} className="text-label">
          {t('button.note')}: {n.text} <span className="text-ink-2">({view.nameOfPerson(n.by)})</span>
        </p>
      ))}
    </Block>
  );
}

/** The latest map full size, the one before below it, kept. */
function Maps({ view, row }: { view: CardView; row: CardRow }) {
  const run = view.answer.place.runs.find((r) => r.id === row.key.on!.id);
  const shown = row.attempts
    .filter((a) => a.standing !== 'withdrawn')
    .slice(-3)
    .reverse();
  if (shown.length === 0) return null;
  const measured = view.answer.card.rows.find((r) => String(r.key.check) === 'cable.length' && r.key.on!.id === row.key.on!.id);
  const lengthReading = measured?.attempts.find((a) => a.readingId === measured.counts)?.value;
  const length = lengthReading?.kind === 'number' ? lengthReading.value : run?.plannedMetres;
  return shown.map((a, i) => {
    if (a.value.kind !== 'wireMap') return null;
    const conclusion = a.because.map(say).join(' ');
    const latest = i === 0;
    return (
      <Block
        key={a.readingId}
        title={latest ? nameOf(row) : t('card.first-attempt')}
        right={`${clock(a.takenAt, view.zone)}${latest ? (row.counts === a.readingId ? '' : `, ${t(`state.${row.state}`)}`) : `, ${t('card.kept')}`}`}
      >
        <WireMap map={a.value} scheme={run?.scheme ?? 'T568B'} conclusion={conclusion} pitch={latest ? 17 : 11} names={latest} length={length} />
        <p className={`mt-1 text-label ${latest ? stateColour[a.state] : 'text-ink-2'}`}>
          <b>{a.because[0] ? say(a.because[0]) : ''}</b> {a.because.slice(1).map(say).join(' ')}
        </p>
        {latest && row.state === 'stale' && row.because[0] && <p className="text-label font-semibold text-open">{say(row.because[0])}</p>}
      </Block>
    );
  });
}

/** Where the limit and the expected value come from. */
function Basis({ row, deviceId }: { row: CardRow; deviceId: string }) {
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
                {t(term.name!)} {term.value!.startsWith('@') ? t(term.value!.slice(1)) : term.value}
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
