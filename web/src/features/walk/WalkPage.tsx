import { KeyHints } from '../../ui/KeyHints';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { lazy, Suspense, useDeferredValue, useMemo, useRef, useState } from 'react';
import type { Verdict, WalkAnswer, WalkStop } from '../../api/types';
import { NoNetworkError, ProblemError } from '../../api/client';
import { useFind } from '../../api/queries';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { useKept } from '../../session/kept';
import { say, t } from '../../texts';
import { Here, Sign, VerdictMark } from '../../ui/Marks';
import { legsOf, MiniPath } from '../../ui/MiniPath';
import { StopLine } from '../../ui/StopLine';
import { useKeys } from '../../ui/keys';

const FirstJob = lazy(() => import('./FirstJob').then((m) => ({ default: m.FirstJob })));
const MarkSheet = lazy(() => import('../register/MarkSheet'));
const PlanView = lazy(() => import('./PlanView').then((m) => ({ default: m.PlanView })));
const Along = lazy(() => import('./Along').then((m) => ({ default: m.Along })));
const OnSite = lazy(() => import('./OnSite'));
const PlanEditor = lazy(() => import('./PlanEditor'));

const order: Verdict[] = ['accepted', 'acceptedWithNote', 'refused', 'open'];

/** What a page says while there is nothing to show. */
export function Waiting({ error, again }: { error: unknown; again: () => void }) {
  if (!error)
    return (
      <main className="p-6 text-ink-2">
        <h1 role="status" className="text-body">
          {t('ui.loading')}
        </h1>
      </main>
    );
  const why =
    error instanceof NoNetworkError ? t('ui.offline-nothing') : error instanceof ProblemError ? error.problem.detail : t('ui.failed');
  return (
    <main className="p-6">
      <h1 role="alert" className="mb-3 text-body">
        {why}
      </h1>
      <div className="flex flex-wrap items-center gap-x-5">
        <button className="plain" onClick={again}>
          {t('ui.again')}
        </button>
        {/* In the hand a Card has no head to leave by. */}
        <Link to="/" className="flex min-h-11 items-center font-semibold underline">
          {t('nav.walk')}
        </Link>
      </div>
    </main>
  );
}

/** What the address bar narrows the Walk to. */
const nowhere: unknown[] = [];

export interface WalkSearch {
  find?: string;
  verdict?: Verdict;
  held?: boolean;
  /** In the hand: the plan instead of the list. */
  plan?: boolean;
}

const isLocal = (s: WalkStop, wanted: string) => `${s.label} ${s.name} ${s.area}`.toLowerCase().includes(wanted);

/** The Stops that the address bar asks for, and by what a Stop was found where its own words do not say so. */
function useNarrowed(walk: WalkAnswer | undefined, search: WalkSearch) {
  const wanted = (search.find ?? '').trim().toLowerCase();
  const late = useDeferredValue(wanted);
  const found = useFind(walk?.jobId, late);
  return useMemo(() => {
    if (!walk || (!wanted && !search.verdict && !search.held)) return { only: undefined, by: new Map<string, string>() };
    const by = new Map<string, string>();
    for (const f of (wanted.length > 1 && found.data?.found) || [])
      if (!['label', 'name', 'area'].includes(f.field)) by.set(f.deviceId, `${t(`field.${f.field}`)} ${f.text}`);
    const only = new Set<string>();
    for (const area of walk.areas)
      for (const stop of area.stops)
        if (
          (!wanted || isLocal(stop, wanted) || by.has(stop.id)) &&
          (!search.verdict || stop.verdict === search.verdict) &&
          (!search.held || stop.blocked)
        )
          only.add(stop.id);
    return { only, by };
  }, [walk, wanted, search.verdict, search.held, found.data]);
}

const intoLine = () =>
  (
    document.querySelector<HTMLElement>('#stops a[aria-current=step]') ?? document.querySelector<HTMLElement>('#stops :is(a,button)')
  )?.focus();

export function WalkPage() {
  const { job, jobs, walk } = useJob();
  const search = useSearch({ from: '/' });
  const navigate = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const hand = useHand();
  const [sheet, setSheet] = useState<'mark' | 'plan' | 'site'>();
  const unkept = useKept<unknown[]>('places', nowhere)[0].length;
  const next = walk.data?.next;
  const stops = useMemo(() => walk.data?.areas.flatMap((a) => a.stops) ?? [], [walk.data?.areas]);
  const stop = stops.find((s) => s.id === next?.id);
  const { only, by } = useNarrowed(walk.data, search);
  const open = (s?: WalkStop) => s && void navigate({ to: '/card/$deviceId', params: { deviceId: s.id } });
  const narrow = (change: Partial<WalkSearch>) => void navigate({ to: '/', search: { ...search, ...change }, replace: true });
  useKeys({
    '/': (e) => {
      e.preventDefault();
      field.current?.focus();
    },
    Enter: (e) => {
      if (!(e.target instanceof HTMLAnchorElement || e.target instanceof HTMLButtonElement)) open(stop);
    },
    // From anywhere on the page the arrows lead into the line of Stops; within it they go on.
    ArrowDown: (e) => (e.preventDefault(), intoLine()),
    ArrowUp: (e) => (e.preventDefault(), intoLine()),
    c: () => open(stop),
    e: () => void navigate({ to: '/register' }),
    k: () => void navigate({ to: '/kit' }),
    p: () => void navigate({ to: '/practice' }),
  });
  if ((jobs.data && jobs.data.length === 0) || (job && walk.data && stops.length === 0))
    return (
      <Suspense>
        <FirstJob jobId={job?.id} />
      </Suspense>
    );
  if (!walk.data || !job)
    return <Waiting error={jobs.error ?? walk.error} again={() => void (jobs.error ? jobs.refetch() : walk.refetch())} />;
  const done = stops.length - (walk.data.verdicts.open ?? 0);
  const held = stops.filter((s) => s.blocked).length;
  const first = only ? stops.find((s) => only.has(s.id)) : undefined;
  const line = (
    <>
      <div className="px-5 pb-1 pt-3">
        <p className="mb-1 flex items-baseline justify-between text-label text-ink-2">
          {t('walk.verdicts', done, stops.length)}
          <button className="min-h-6 font-semibold underline max-sm:min-h-11" onClick={() => setSheet('site')}>
            {t('onsite.title')}
          </button>
        </p>
        <label className="text-label font-semibold text-ink-2" htmlFor="find">
          {t('walk.find')}
        </label>
        <span className="flex items-center gap-2 text-label text-ink-2">
          <input
            id="find"
            ref={field}
            type="search"
            className="field !min-h-9 !py-1"
            value={search.find ?? ''}
            aria-describedby="find-hint"
            onChange={(e) => narrow({ find: e.target.value || undefined })}
            onKeyDown={(e) => {
              if (e.key === 'Escape') narrow({ find: undefined });
              if (e.key === 'Enter') open(first);
            }}
          />
          <span className="whitespace-nowrap max-sm:hidden">
            <span className="key">/</span> {t('key.find')}
          </span>
        </span>
        <p id="find-hint" className="mt-1 text-tick text-ink-3">
          {only && first && by.has(first.id) ? `${first.label}: ${t('walk.by', by.get(first.id)!)}` : t('walk.find-hint')}
        </p>
        {only && (
          <p className="mt-1 flex flex-wrap items-center gap-x-4 text-label">
            <span role="status">{t('walk.shown', only.size, stops.length)}</span>
            {only.size > 0 && (
              <button className="min-h-9 font-semibold underline" onClick={() => setSheet('mark')}>
                {t('walk.mark', only.size)}
              </button>
            )}
            <button className="min-h-9 font-semibold underline" onClick={() => void navigate({ to: '/', search: {}, replace: true })}>
              {t('walk.clear')}
            </button>
          </p>
        )}
      </div>
      <div id="stops" className="flex min-h-0 flex-1 flex-col">
        <StopLine walk={walk.data} current={next?.id} only={only} />
      </div>
      <Suspense>
        <Along jobId={job.id} zone={job.timeZone} areas={walk.data.areas.map((a) => ({ name: a.name, cards: a.stops.length }))} />
      </Suspense>
    </>
  );
  const mark =
    sheet === 'site' ? (
      <Suspense>
        <OnSite
          jobId={job.id}
          zone={job.timeZone}
          areas={walk.data.areas.map((a) => a.name)}
          at={stop?.area ?? ''}
          onClose={() => setSheet(undefined)}
        />
      </Suspense>
    ) : (
      sheet === 'mark' &&
      only && (
        <Suspense>
          <MarkSheet jobId={job.id} stops={stops.filter((s) => only.has(s.id))} onClose={() => setSheet(undefined)} />
        </Suspense>
      )
    );
  if (hand)
    return (
      <main className="flex min-h-0 flex-1 flex-col">
        <h1 className="sr-only">{t('nav.walk')}</h1>
        {stop && !only && !search.plan && <NextStop walk={walk.data} stop={stop} compact />}
        {search.plan ? (
          <Suspense fallback={<p className="p-6 text-ink-2">{t('ui.loading')}</p>}>
            <div className="flex min-h-0 flex-1 flex-col px-4 pb-2">
              <PlanView walk={walk.data} current={next?.id} only={only} onStop={open} />
            </div>
          </Suspense>
        ) : (
          line
        )}
        <div role="group" aria-label={t('walk.view')} className="flex shrink-0 border-t border-hairline">
          {([undefined, true] as const).map((plan) => (
            <button
              key={String(plan)}
              aria-pressed={search.plan === plan}
              className={`min-h-12 flex-1 border-t-[3px] text-center font-semibold ${search.plan === plan ? 'border-ink' : 'border-transparent text-ink-2'}`}
              onClick={() => narrow({ plan })}
            >
              {t(plan ? 'walk.as-plan' : 'walk.as-list')}
            </button>
          ))}
        </div>
        {mark}
      </main>
    );
  const legend = 'flex min-h-8 items-center gap-2 border-b-2 px-0.5';
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <h1 className="sr-only">{t('nav.walk')}</h1>
      <div className="flex min-h-0 flex-1">
        <section className="flex w-[300px] shrink-0 flex-col border-r border-hairline">{line}</section>
        <section className="flex min-w-0 flex-1 flex-col p-6 pt-4">
          <div className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1" role="group" aria-label={t('walk.filter')}>
            {order.map((verdict) => (
              <button
                key={verdict}
                aria-pressed={search.verdict === verdict}
                className={`${legend} ${search.verdict === verdict ? 'border-ink' : 'border-transparent'}`}
                onClick={() => narrow({ verdict: search.verdict === verdict ? undefined : verdict })}
              >
                <span className="font-read font-bold">{walk.data.verdicts[verdict] ?? 0}</span>{' '}
                <VerdictMark verdict={verdict} size={15} label="" /> {t(`verdict.${verdict}`)}
              </button>
            ))}
            {(held > 0 || search.held) && (
              <button
                aria-pressed={!!search.held}
                className={`${legend} ${search.held ? 'border-ink' : 'border-transparent'}`}
                onClick={() => narrow({ held: search.held ? undefined : true })}
              >
                <span className="font-read font-bold">{held}</span> <Sign sign="blocked" word />
              </button>
            )}
            <Link to="/coverage" className="ml-auto flex min-h-8 items-center text-label font-semibold underline">
              {t('plan.coverage')}
            </Link>
            <button className="min-h-8 text-label font-semibold underline" onClick={() => setSheet(sheet === 'plan' ? undefined : 'plan')}>
              {sheet === 'plan' ? t('ui.done') : unkept > 0 ? t('plan.edit-unkept', unkept) : t('plan.edit')}
            </button>
          </div>
          {sheet === 'plan' ? (
            <Suspense fallback={<p className="p-6 text-ink-2">{t('ui.loading')}</p>}>
              <PlanEditor walk={walk.data} onDone={() => setSheet(undefined)} />
            </Suspense>
          ) : (
            <Suspense>
              <PlanView walk={walk.data} current={next?.id} only={only} onStop={open} />
            </Suspense>
          )}
        </section>
        {sheet !== 'plan' && (
          <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-hairline p-6 max-[1151px]:hidden">
            {stop ? <NextStop walk={walk.data} stop={stop} /> : <p className="text-lead font-bold">{t('walk.all-done')}</p>}
          </aside>
        )}
      </div>
      {mark}
      <footer className="flex h-9 shrink-0 items-center gap-5 border-t border-hairline px-6 text-label">
        <KeyHints
          keys={[
            ['Up Down', 'key.stop'],
            ['Enter', 'key.open'],
            ['/', 'key.find'],
            ['D', 'key.night'],
            ['?', 'key.all'],
          ]}
        />
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
        <MiniPath legs={legsOf(stop.legs)} width={250} height={16} />
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
