import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useRef } from 'react';
import type { Verdict, WalkAnswer, WalkStop } from '../../api/types';
import { NoNetworkError, ProblemError } from '../../api/client';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { Here, Sign, VerdictMark } from '../../ui/Marks';
import { MiniPath } from '../../ui/SignalPath';
import { StopLine } from '../../ui/StopLine';
import { useKeys } from '../../ui/keys';
import { FirstJob } from './FirstJob';
import { PlanView } from './PlanView';

const order: Verdict[] = ['accepted', 'acceptedWithNote', 'refused', 'open'];

/** What a page says while there is nothing to show. */
export function Waiting({ error, again }: { error: unknown; again: () => void }) {
  if (!error)
    return (
      <p className="p-6 text-ink-2" role="status">
        {t('ui.loading')}
      </p>
    );
  const why = error instanceof NoNetworkError ? t('ui.offline-nothing') : error instanceof ProblemError ? error.problem.detail : t('ui.failed');
  return (
    <div className="p-6" role="alert">
      <p className="mb-3">{why}</p>
      <button className="plain" onClick={again}>
        {t('ui.again')}
      </button>
    </div>
  );
}

export function WalkPage() {
  const { job, jobs, walk } = useJob();
  const { find } = useSearch({ from: '/' });
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const hand = useHand();
  const next = walk.data?.next;
  const stops = walk.data?.areas.flatMap((a) => a.stops) ?? [];
  const stop = stops.find((s) => s.id === next?.id);
  const open = (s?: WalkStop) => s && void navigate({ to: '/card/$deviceId', params: { deviceId: s.id } });
  useKeys({
    '/': (e) => {
      e.preventDefault();
      field.current?.focus();
    },
    Enter: (e) => {
      if (!(e.target instanceof HTMLAnchorElement || e.target instanceof HTMLButtonElement)) open(stop);
    },
    c: () => open(stop),
  });
  if (jobs.data && jobs.data.length === 0) return <FirstJob />;
  if (job && walk.data && stops.length === 0) return <FirstJob jobId={job.id} />;
  if (!walk.data || !job) return <Waiting error={jobs.error ?? walk.error} again={() => void (jobs.error ? jobs.refetch() : walk.refetch())} />;
  const done = stops.length - (walk.data.verdicts.open ?? 0);
  const line = (
    <>
      <div className="px-5 pb-1 pt-3">
        <p className="mb-2 text-label text-ink-2">{t('walk.verdicts', done, stops.length)}</p>
        <label className="text-label font-semibold text-ink-2" htmlFor="find">
          {t('walk.find')}
        </label>
        <span className="flex items-center gap-2 text-label text-ink-2">
          <input
            id="find"
            ref={field}
            type="search"
            className="field !min-h-9 !py-1"
            value={find ?? ''}
            onChange={(e) => void navigate({ to: '/', search: { find: e.target.value || undefined }, replace: true })}
            onKeyDown={(e) => {
              if (e.key === 'Escape') void navigate({ to: '/', search: { find: undefined }, replace: true });
              if (e.key === 'Enter') {
                const wanted = (find ?? '').toLowerCase();
                open(stops.find((s) => `${s.label} ${s.name} ${s.area}`.toLowerCase().includes(wanted)));
              }
            }}
            aria-label={t('walk.find')}
          />
          <span className="whitespace-nowrap max-sm:hidden">
            <span className="key">/</span> {t('key.find')}
          </span>
        </span>
      </div>
      <StopLine walk={walk.data} current={next?.id} filter={find} grow />
    </>
  );
  if (hand)
    return (
      <main className="flex min-h-0 flex-1 flex-col">
        {stop && <NextStop walk={walk.data} stop={stop} compact />}
        {line}
      </main>
    );
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1">
        <section className="flex w-[300px] shrink-0 flex-col border-r border-hairline">{line}</section>
        <section className="flex min-w-0 flex-1 flex-col p-6">
          <ul className="mb-2 flex flex-wrap gap-x-6 gap-y-1">
            {order.map((verdict) => (
              <li key={verdict} className="flex items-center gap-2">
                <span className="font-read font-bold">{walk.data.verdicts[verdict] ?? 0}</span> <VerdictMark verdict={verdict} size={15} label="" />{' '}
                {t(`verdict.${verdict}`)}
              </li>
            ))}
          </ul>
          <PlanView walk={walk.data} current={next?.id} onStop={open} />
        </section>
        <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-hairline p-6 max-[1151px]:hidden">
          {stop ? <NextStop walk={walk.data} stop={stop} /> : <p className="text-lead font-bold">{t('walk.all-done')}</p>}
        </aside>
      </div>
      <footer className="flex h-9 shrink-0 items-center gap-5 border-t border-hairline px-6 text-label">
        <span>
          <span className="key">Up Down</span> {t('key.stop')}
        </span>
        <span>
          <span className="key">Enter</span> {t('key.open')}
        </span>
        <span>
          <span className="key">/</span> {t('key.find')}
        </span>
        <span>
          <span className="key">D</span> {t('key.night')}
        </span>
        <span>
          <span className="key">?</span> {t('key.all')}
        </span>
      </footer>
    </main>
  );
}

function NextStop({ walk, stop, compact }: { walk: WalkAnswer; stop: WalkStop; compact?: boolean }) {
  const next = walk.next!;
  const head = (
    <>
      <p className="text-label text-ink-2">{t('walk.next')}</p>
      <p className="flex items-center gap-3">
        <Here size={14} />
        <span className="font-read text-code font-bold leading-none">{stop.label}</span>
        <VerdictMark verdict={stop.verdict} size={20} label="" />
      </p>
      <p className="mt-1 text-lead font-semibold">{stop.name}</p>
      <p className="text-label text-ink-2">
        {stop.area}
        {next.metres ? `, ${t('walk.away', Math.round(next.metres))}` : ''}. {t('walk.taken', stop.taken, stop.total)}.
      </p>
    </>
  );
  if (compact)
    return (
      <Link to="/card/$deviceId" params={{ deviceId: stop.id }} className="block border-b border-ink px-4 py-3">
        {head}
        <p className="mt-1 text-table">{say(next.why)}</p>
        <span className="forward mt-3 flex min-h-glove items-center justify-center text-lead">{t('walk.open-card')}</span>
      </Link>
    );
  return (
    <>
      {head}
      <div className="mt-3">
        <MiniPath legs={stop.legs} width={250} height={16} />
      </div>
      <h2 className="mt-5 border-t border-hairline pt-4 text-label font-bold">{t('walk.why')}</h2>
      <p className="text-table">{say(next.why)}</p>
      {stop.signs.length > 0 && (
        <p className="mt-3 flex items-center gap-3">
          <span className="text-label font-bold">{t('walk.waits')}</span>
          {stop.signs.map((sign) => (
            <Sign key={sign} sign={sign} word />
          ))}
        </p>
      )}
      <Link to="/card/$deviceId" params={{ deviceId: stop.id }} className="forward mt-6 inline-flex items-center">
        {t('walk.open-card')}
      </Link>
    </>
  );
}
