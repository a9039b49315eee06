import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import type { AnswerTold, CardAnswer, CardRow } from '../../api/types';
import { has, say, t } from '../../texts';
import { choiceText, nameOf, qualifierOf, unitOf } from '../../ui/format';
import { stateColour, StateMark } from '../../ui/Marks';
import { Block } from './Block';
import './howTexts';
import { Pressed } from './Pressed';
import { ToRecorder } from './ToRecorder';
import { valueOf } from './ways';

/** The rows that a row leans on: what holds it, what should be in first, what its wait began with. */
export function leansOn(row: CardRow, rows: readonly CardRow[]): CardRow[] {
  const checks = new Set<string>([
    ...row.check.holdUntil.map(String),
    ...row.check.gates.map(String),
    ...(row.wait?.for.startsWith('check.') ? [row.wait.for.slice('check.'.length)] : []),
  ]);
  return rows.filter(
    (r) =>
      checks.has(r.check.id) && (r.key.on.kind !== row.key.on.kind || r.key.on.id === row.key.on.id) && (r.isDue || r.attempts.length > 0),
  );
}

const wordOf = (row: CardRow, told: AnswerTold): string => {
  const { value } = told;
  return value.kind === 'choice'
    ? choiceText(row, value.choice)
    : value.kind === 'yesNo'
      ? t(value.yes ? 'ui.yes' : 'ui.no')
      : `${t(told.beyond === 'min' ? 'guide.under' : 'guide.over', (told.beyond === 'min' ? row.window?.min : row.window?.max) ?? 0)} ${unitOf(row)}`;
};

/** Why an answer would not be in, where that says more than the answer and its row do. */
const reasonOf = (told: AnswerTold) => {
  const why = told.because.find((b) => !plain.has(b.code));
  return why && say(why);
};
const plain = new Set(['choice.wrong', 'choice.not-planned', 'because.no-picture']);

/** How to do the row at hand, what it leans on, and what each answer would tell. */
export function Guide({ answer, row, hand = false }: { answer: CardAnswer; row: CardRow; hand?: boolean }) {
  const deviceId = answer.place.id;
  const told = useQuery({
    queryKey: ['card', deviceId, 'answers', row.id],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/answers', { params: { path: { deviceId }, query: { row: row.id } } })),
    staleTime: 60_000,
    retry: false,
  });
  const leans = leansOn(row, answer.card.rows);
  const steps = has(`check.${row.check.id}.how`) ? t(`check.${row.check.id}.how`).split('\n') : [];
  // Of answers that are right nothing more is said than that they are.
  const answers = (told.data ?? []).filter((a) => a.state !== 'in' || row.check.entry === 'choice');
  return (
    <>
      <Block title={t('guide.how')}>
        {steps.length > 0 ? (
          <ol className="list-decimal pl-5 text-label">
            {steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
        ) : (
          <p className="text-label">{t(`check.${row.check.id}.ask`)}</p>
        )}
        {row.dueBecause && <p className="mt-1 text-label font-semibold">{say(row.dueBecause)}</p>}
        <p className="mt-1 text-tick text-ink-2">
          {[
            t('guide.minutes', row.check.minutes),
            row.check.tools.length > 0 && t('guide.with', row.check.tools.map((id) => t(`tool.${id}`)).join(', ')),
          ]
            .filter(Boolean)
            .join(', ')}
        </p>
        <ToRecorder check={row.check.id} deviceId={deviceId} />
        {!hand && <Pressed check={row.check.id} deviceId={deviceId} className="mt-1" />}
      </Block>
      {row.sheet.length > 0 && (
        <Block title={t('sheet.title')}>
          {row.sheet.map((line) => (
            <p key={say(line)} className="text-label">
              {say(line)}
            </p>
          ))}
        </Block>
      )}
      {leans.length > 0 && (
        <Block title={t('guide.leans')}>
          {leans.map((r) => {
            const counts = r.attempts.find((a) => a.readingId === r.counts);
            const value = counts && valueOf(r, counts.value, counts.map);
            return (
              <p key={r.id} className="flex items-center gap-2 text-label">
                <StateMark state={r.state} />
                <span className="min-w-0 flex-1 truncate">{[nameOf(r), qualifierOf(r)].filter(Boolean).join(', ')}</span>
                <span className="font-read max-w-40 truncate font-bold">
                  {value ? `${value.big} ${value.unit}` : t(`state.${r.state}`)}
                </span>
              </p>
            );
          })}
        </Block>
      )}
      {answers.length > 0 && (
        <Block title={t('guide.tells')}>
          <dl>
            {answers.map((a) => (
              <div key={wordOf(row, a)} className="border-b border-dotted border-hairline py-1 text-label last:border-0">
                <dt className="inline font-semibold">{wordOf(row, a)}: </dt>
                <dd className="inline">
                  <b className={stateColour[a.state]}>{t(`state.${a.state}`)}</b>
                  {a.causes.length === 0 && a.state !== 'in' && reasonOf(a) && <span className="block text-ink-2">{reasonOf(a)}</span>}
                  {a.causes.map((c) => (
                    <span key={c.id} className="block text-ink-2">
                      <b>{t(`cause.${c.id}`)}.</b> {t(`cause.${c.id}.try`)} {c.minutes} min
                    </span>
                  ))}
                </dd>
              </div>
            ))}
          </dl>
        </Block>
      )}
    </>
  );
}
