import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useSearch } from '@tanstack/react-router';
import { lazy, Suspense, useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import { useDemo, useKit } from '../../api/queries';
import { sendFile, troubleOf } from '../../api/send';
import type { WorkAnswer, WrittenChannel } from '../../api/types';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { clock, dayAndClock } from '../../ui/format';
import { useKeys } from '../../ui/keys';
import { call } from '../demo/call';
import { FieldWork } from '../readings/FieldWork';
import { useFieldWork } from '../readings/useFieldWork';
import { Waiting } from '../walk/WalkPage';
import { ChannelAside, type Way } from './ChannelAside';
import { first } from './channels';
import { EventLinks } from './EventLinks';
import { Facts } from './Facts';
import { Matrix } from './Matrix';
import { SetSheet } from './SetSheet';
import '../cards/cardTexts';
import '../pageTexts';
import './recordingTexts';

const DemoRecorders = lazy(() => import('../demo/DemoRecorders'));
const TypeSheet = lazy(() => import('./TypeSheet'));
const Holds = lazy(() => import('../cards/Holds'));

/** Whether both stand one under the other. */
const isStacked = () => window.innerWidth <= 1100;

/** Each recorder: who is on which channel, what is recorded, how long it holds, and the proof of it before and after a restart. */
export default function RecordingPage() {
  const { job } = useJob();
  const client = useQueryClient();
  const me = useIdentity();
  const kit = useKit(job?.id);
  const access = useAccess().data;
  const demo = useDemo().data?.demo;
  const list = useQuery({
    queryKey: ['recorders', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/recorders', { params: { path: { jobId: job!.id } } })),
  });
  const [wanted, setWanted] = useState<string>();
  // Who comes from a Card is led to its channel.
  const from = useSearch({ from: '/recording' }).device;
  const recorderId = (
    list.data?.recorders.find((r) => r.id === wanted) ??
    list.data?.recorders.find((r) => !!from && (r.id === from || r.devices.includes(from))) ??
    // Else to the one that has the most to prove.
    list.data?.recorders.reduce((a, b) => (b.devices.length > a.devices.length ? b : a), list.data.recorders[0])
  )?.id;
  const path = { params: { path: { jobId: job?.id ?? '', recorderId: recorderId ?? '' } } };
  const one = useQuery({
    queryKey: ['recorders', job?.id, recorderId],
    enabled: !!job && !!recorderId,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/recorders/{recorderId}', path)),
  });
  const [active, setActive] = useState<number>();
  const [open, setOpen] = useState<'set' | 'demo' | 'type'>();
  const aside = useRef<HTMLElement>(null);
  const field = useFieldWork(() => {
    void client.invalidateQueries({ queryKey: ['recorders', job?.id] });
    void client.invalidateQueries({ queryKey: ['card', recorderId, 'recording'] });
  });
  const { running, setTrouble, setWords } = field;
  const lines = one.data?.channels ?? [];
  const chosen = lines.find((l) => l.number === active) ?? lines.find((l) => !!from && l.deviceId === from) ?? first(lines);
  const pick = (channel: number) => {
    setActive(channel);
    if (isStacked()) requestAnimationFrame(() => aside.current?.scrollIntoView({ block: 'start' }));
  };
  const step = (by: number) => {
    const at = lines.findIndex((l) => l.number === chosen?.number);
    const next = lines[Math.min(Math.max(at + by, 0), lines.length - 1)];
    if (next) pick(next.number);
  };
  const mayWork = !access?.me || mayDo(access, 'work');
  const canRead = !!list.data?.canRead && mayWork;
  const by = kit.data?.people.find((p) => p.id === me.personId)?.name ?? '';
  const begin = (what: string, asked: Promise<WorkAnswer>) => {
    setOpen(undefined);
    field.begin(t(what), asked);
  };
  const read = () => begin('rec.running', answered(api.POST('/api/jobs/{jobId}/recorders/{recorderId}/read', { ...path, body: { by } })));
  useKeys({
    l: () => canRead && recorderId && !running && read(),
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
  });
  if (!job || !list.data) return <Waiting error={list.error} again={() => void list.refetch()} />;
  if (list.data.recorders.length === 0)
    return (
      <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-4">
        <h1 className="text-title font-bold">{t('rec.title')}</h1>
        <p className="mt-2 max-w-2xl">{t('rec.none')}</p>
      </main>
    );
  const page = one.data;
  if (!page) return <Waiting error={one.error} again={() => void one.refetch()} />;
  const told = page.channels.filter((c) => c.isTold).length;
  const clockOf = (at: string) => clock(Date.parse(at), job.timeZone);
  const event = async (way: Way, channels: number[]) => {
    setTrouble(undefined);
    const at = performance.now();
    try {
      // In the made-up world somebody must walk there, too.
      if (demo && job.simulated) await call(`recorders/${encodeURIComponent(page.label)}/events`, { channels, secondsAgo: 0 });
      const next = await answered(
        api.POST('/api/jobs/{jobId}/recorders/{recorderId}/events', {
          ...path,
          body: { way, channels, secondsAgo: (performance.now() - at) / 1000, by },
        }),
      );
      client.setQueryData(['recorders', job.id, recorderId], next);
      setWords([t('rec.noted', clock(Date.now(), job.timeZone))]);
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  const takeTyped = (channels: WrittenChannel[]) =>
    begin(
      'rec.running',
      answered(
        api.POST('/api/jobs/{jobId}/network/lists/typed', {
          params: { path: { jobId: job.id } },
          body: { recorder: page.label, channels, by },
        }),
      ),
    );
  const takeList = (file: File) => {
    const to = new URLSearchParams({ recorder: page.label, by });
    begin('rec.running', sendFile<WorkAnswer>(`/api/jobs/${job.id}/network/lists/file?${to.toString()}`, file));
  };
  const word = 'min-h-11 text-label font-semibold underline disabled:opacity-40';
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-3 max-sm:px-4">
      <h1 className="sr-only">{t('rec.title')}</h1>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-ink pb-2">
        <div role="radiogroup" aria-label={t('rec.choose')} className="flex flex-wrap items-baseline gap-x-5">
          {list.data.recorders.map((r) => (
            <button
              key={r.id}
              role="radio"
              aria-checked={r.id === page.id}
              className={`font-read min-h-11 min-w-11 ${r.id === page.id ? 'text-[2.6rem] font-bold leading-none' : 'text-title text-ink-2 underline'}`}
              onClick={() => {
                setWanted(r.id);
                setActive(undefined);
                setWords([]);
                setTrouble(undefined);
              }}
            >
              {r.label}
            </button>
          ))}
        </div>
        <span className="min-w-0">
          <b className="text-lead">{page.name}</b>
          <br />
          <span className="text-label text-ink-2">
            {page.readAt
              ? t(page.isTyped ? 'rec.typed' : told === 1 ? 'rec.read-at-1' : 'rec.read-at', told, dayAndClock(page.readAt, job.timeZone))
              : t(list.data.canRead ? 'rec.not-read' : 'rec.cannot')}
          </span>
        </span>
        <span className="ml-auto flex flex-wrap items-center gap-x-5 max-sm:ml-0">
          {canRead && (
            <button className={page.pending > 0 ? word : 'forward disabled:opacity-40'} disabled={running} onClick={read}>
              {t('rec.read', page.label)}
            </button>
          )}
          {canRead && page.pending > 0 && (
            <button
              className="forward disabled:opacity-40"
              disabled={running || !me.personId}
              onClick={() =>
                begin(
                  'rec.fetching',
                  answered(api.POST('/api/jobs/{jobId}/recorders/{recorderId}/proofs', { ...path, body: { by: me.personId! } })),
                )
              }
            >
              {page.pending === 1 ? t('rec.fetch-1') : t('rec.fetch', page.pending)}
            </button>
          )}
          {canRead && page.proposed.length > 0 && (
            <button className={word} disabled={running || !me.personId} onClick={() => setOpen('set')}>
              {page.proposed.length === 1 ? t('rec.set-1') : t('rec.set', page.proposed.length)}
            </button>
          )}
          <Link to="/identity/$recorderId" params={{ recorderId: page.id }} className={`${word} flex items-center`}>
            {t('rec.views')}
          </Link>
          {mayWork && page.readAt && (
            <button
              className={word}
              disabled={running}
              onClick={() =>
                begin('rec.running', answered(api.POST('/api/jobs/{jobId}/recorders/rows', { params: { path: { jobId: job.id } } })))
              }
            >
              {t('rec.rows')}
            </button>
          )}
          {mayWork && (!list.data.canRead || page.isTyped || !page.readAt) && (
            <label className={`${word} inline-flex cursor-pointer items-center`}>
              {t('rec.file')}
              <input
                type="file"
                className="sr-only"
                accept=".csv,.txt,.tsv,.xlsx"
                onChange={(e) => {
                  const file = e.target.files?.[0];
                  e.target.value = '';
                  if (file) takeList(file);
                }}
              />
            </label>
          )}
          {mayWork && (!list.data.canRead || page.isTyped || !page.readAt) && (
            <button className={word} disabled={running} onClick={() => setOpen('type')}>
              {t('rec.type-word')}
            </button>
          )}
          {demo && mayWork && job.simulated && (
            <button className={word} onClick={() => setOpen('demo')}>
              {t('rec.demo')}
            </button>
          )}
        </span>
      </div>
      <FieldWork of={field} jobId={job.id}>
        {page.pendingReadyAt && <p className="text-label text-ink-2">{t('rec.ready-at', clockOf(page.pendingReadyAt))}</p>}
      </FieldWork>
      {page.notes.map((n) => (
        <p key={`${n.code} ${n.args.join(' ')}`} className="mt-1 font-semibold text-refused">
          {n.code.startsWith('clock.') && `${t('rec.clock')}: `}
          {say(n)}
          {n.code === 'clock.step' && `. ${t('rec.clock-zone')}`}
        </p>
      ))}
      <div className="mt-1 grid grid-cols-[1fr_20rem] grid-rows-[auto_1fr] gap-x-8 max-[1100px]:grid-cols-1">
        <div className="min-w-0">
          <Matrix page={page} active={chosen?.number} clockOf={clockOf} onPick={pick} />
        </div>
        <aside
          ref={aside}
          className="row-span-2 min-w-0 self-start pt-2 min-[1101px]:sticky min-[1101px]:top-0 min-[1101px]:max-h-[calc(100dvh-6rem)] min-[1101px]:overflow-y-auto max-[1100px]:row-span-1 max-[1100px]:border-b max-[1100px]:border-ink max-[1100px]:pb-4"
        >
          {chosen && (
            <ChannelAside
              key={chosen.number}
              line={chosen}
              lines={lines}
              recorder={page.label}
              mayWork={mayWork}
              busy={running}
              isRead={!!page.readAt}
              clockOf={clockOf}
              onEvent={(way, channels) => void event(way, channels)}
              onStep={step}
            />
          )}
        </aside>
        <div className="min-w-0">
          <Suspense>
            <Holds deviceId={page.id} />
          </Suspense>
          <Facts
            page={page}
            when={(at) => dayAndClock(at, job.timeZone)}
            onAskTime={
              mayWork && page.hasTimeServer && !running
                ? () =>
                    begin(
                      'rec.running',
                      answered(api.POST('/api/jobs/{jobId}/recorders/clock', { params: { path: { jobId: job.id } }, body: { by } })),
                    )
                : undefined
            }
          />
          <EventLinks jobId={job.id} />
        </div>
      </div>
      {open === 'type' && (
        <Suspense>
          <TypeSheet page={page} onGo={takeTyped} onClose={() => setOpen(undefined)} />
        </Suspense>
      )}
      {open === 'set' && (
        <SetSheet
          page={page}
          onClose={() => setOpen(undefined)}
          onGo={(channels) =>
            begin(
              'rec.running',
              answered(
                api.POST('/api/jobs/{jobId}/recorders/{recorderId}/channels', {
                  ...path,
                  body: { seen: page.seen, channels, by: me.personId! },
                }),
              ),
            )
          }
        />
      )}
      {open === 'demo' && (
        <Suspense>
          <DemoRecorders label={page.label} onClose={() => setOpen(undefined)} />
        </Suspense>
      )}
    </main>
  );
}
