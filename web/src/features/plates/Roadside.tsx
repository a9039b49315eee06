import { useState } from 'react';
import { t } from '../../texts';
import { countNow, leftNow, nextPass, secondsUntil, type Plates, type Waiting } from './driveWords';
import { useNow, type usePlates } from './usePlates';

/** The one at the roadside: who comes next and when, and a button for each vehicle that passes. */
export function Roadside({ answer, plates, mayWork }: { answer: Plates; plates: ReturnType<typeof usePlates>; mayWork: boolean }) {
  const { trial } = answer;
  const { waiting } = plates;
  const now = useNow();
  const [last, setLast] = useState('');
  const next = nextPass(trial, waiting);
  const early = next && secondsUntil(next.from, now);
  const left = leftNow(trial, waiting);
  const count = countNow(trial);
  const driven = (count?.passes ?? 0) + waiting.length;
  const tick = async (vehicle: string) => {
    const kept = await plates.tick({ vehicle, planned: next?.planned });
    if (kept) setLast(kept[0]);
    navigator.vibrate?.(30);
  };
  return (
    <section aria-label={t('plates.page.roadside')}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-read text-[2rem] leading-tight font-bold" data-testid="driven">
          {driven}
        </span>
        <span className="text-lead">
          {t('plates.page.driven', t(trial.isDark ? 'drive.of.night' : 'drive.of.day').toLowerCase())}
          {left ? `, ${t('plates.page.left', left)}` : ''}
        </span>
      </p>
      <p
        className={`text-table ${trial.plan?.passes.some((p) => p.findsRule) ? 'min-h-[3.2em]' : 'min-h-[1.6em]'}`}
        aria-live="polite"
        data-testid="next-pass"
      >
        {next ? (
          <>
            {t('plates.page.next')} <b>{next.planned.vehicle}</b>, {t('drive.of.speed', next.planned.kmh)}
            {next.planned.lane && `, ${next.planned.lane}`}
            {trial.design?.bothWays && `, ${t(`drive.way.${next.planned.way}`)}`}
            {': '}
            <b className={early === null ? '' : 'text-noted'}>{early === null ? t('plates.page.now') : t('plates.page.in', early ?? 0)}</b>
            {next.planned.findsRule && <span className="block text-label text-ink-2">{t('plates.page.finds-rule')}</span>}
          </>
        ) : (
          t(left === null ? 'plates.page.mend' : left > 0 ? 'plates.page.any' : 'plates.page.all-driven')
        )}
      </p>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {trial.design?.vehicles.map((v) => (
          <button
            key={v.name}
            className={`plain flex h-24 flex-col items-center justify-center ${
              next?.planned.vehicle === v.name ? '!border-2 !border-ink' : ''
            }`}
            disabled={!mayWork}
            onClick={() => void tick(v.name)}
          >
            <span className="text-lead font-bold">{t('plates.page.passed', v.name)}</span>
            <span className="font-read text-label text-ink-2">{v.plate}</span>
          </button>
        ))}
      </div>
      <p className="mt-1 text-label text-ink-2">{t('plates.page.caution-road')}</p>
      <p className="flex min-h-11 flex-wrap items-center gap-x-4 text-label">
        {last && (
          <button
            className="min-h-11 font-semibold underline"
            onClick={() => {
              void plates.takeBack(last);
              setLast('');
            }}
          >
            {t('plates.page.take-back')}
          </button>
        )}
        <Unsent waiting={waiting} />
      </p>
    </section>
  );
}

const Unsent = ({ waiting }: { waiting: Waiting[] }) =>
  waiting.length > 0 && (
    <span className="text-ink-2" role="status">
      {t('plates.page.unsent', waiting.length)}
    </span>
  );
