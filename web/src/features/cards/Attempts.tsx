import type { Attempt, CardRow } from '../../api/types';
import { has, say, t } from '../../texts';
import { clock, day, nameOf, qualifierOf, spareText, unitOf } from '../../ui/format';
import { valueOf } from './ways';
import { stateColour, StateMark, UnexpectedMark } from '../../ui/Marks';
import { WireMap } from '../../ui/WireMap';
import { SeenIn } from './SeenIn';
import type { CardView } from './CardPage';
import { Block } from './Block';

function standing(attempt: Attempt) {
  return attempt.standing === 'withdrawn'
    ? t(
        'standing.withdrawn',
        has(`withdraw.${attempt.withdrawnBecause}`) ? t(`withdraw.${attempt.withdrawnBecause}`) : (attempt.withdrawnBecause ?? ''),
      )
    : t(`standing.${attempt.standing}`);
}

export function Attempts({ view, row }: { view: CardView; row: CardRow }) {
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
            {counts && a.because.length > 0 && (
              <p className={`pl-8 text-label ${stateColour[a.state]}`}>{a.because.map((m) => say(m)).join(' ')}</p>
            )}
          </div>
        );
      })}
      {row.state === 'stale' && row.because[0] && <p className="text-label font-semibold text-open">{say(row.because[0])}</p>}
      {row.unexpected.length > 0 && (
        <p
          className={`mt-1 flex gap-2 text-label ${row.isUnexplained ? 'font-semibold text-noted' : 'text-ink-2'}`}
          data-testid="unexpected"
        >
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
          {row.conceded.until && t('dialog.until-day', day(row.conceded.until))}
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
export function Maps({ view, row }: { view: CardView; row: CardRow }) {
  const run = view.answer.place.runs.find((r) => r.id === row.key.on.id);
  const shown = row.attempts
    .filter((a) => a.standing !== 'withdrawn')
    .slice(-3)
    .reverse();
  if (shown.length === 0) return null;
  const measured = view.answer.card.rows.find((r) => String(r.key.check) === 'cable.length' && r.key.on.id === row.key.on.id);
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
        <WireMap
          map={a.value}
          scheme={run?.scheme ?? 'T568B'}
          conclusion={conclusion}
          pitch={latest ? 17 : 11}
          names={latest}
          length={length}
          fine={a.state === 'in'}
        />
        <p className={`mt-1 text-label ${latest ? stateColour[a.state] : 'text-ink-2'}`}>
          <b>{a.because[0] ? say(a.because[0]) : ''}</b> {a.because.slice(1).map(say).join(' ')}
        </p>
        {latest && row.state === 'stale' && row.because[0] && <p className="text-label font-semibold text-open">{say(row.because[0])}</p>}
      </Block>
    );
  });
}
