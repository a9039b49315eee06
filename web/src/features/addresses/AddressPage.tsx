import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import { useDemo, useKit } from '../../api/queries';
import { entry, sendFile, troubleOf } from '../../api/send';
import type { WorkAnswer } from '../../api/types';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { useKeys } from '../../ui/keys';
import { FieldWork } from '../readings/FieldWork';
import { useFieldWork } from '../readings/useFieldWork';
import { Waiting } from '../walk/WalkPage';
import { Detail } from './Detail';
import { GiveSheet } from './GiveSheet';
import { groupsOf, type LedgerRow } from './ledger';
import { Index, isStacked, LedgerTable } from './LedgerTable';
import { Leases } from './Leases';
import { ListSheet } from './ListSheet';
import { LookSheet, nothingGiven, TrialSheet } from './LookSheet';
import { PlanSheet } from './PlanSheet';
import { Ports } from './Ports';
import { Strip } from './Strip';
import '../cards/cardTexts';
import '../pageTexts';
import './addressTexts';

type Open = 'plan' | 'give' | 'look' | 'trial' | 'factory' | 'lists' | 'demo' | undefined;
const DemoNetwork = lazy(() => import('../demo/DemoNetwork'));

/** Planned, found and registered side by side; every difference with what it means, what to do, and the part that one press can do. */
export default function AddressPage() {
  const { job, walk } = useJob();
  const client = useQueryClient();
  const me = useIdentity();
  const kit = useKit(job?.id);
  const access = useAccess().data;
  const demo = useDemo().data?.demo;
  const path = { params: { path: { jobId: job?.id ?? '' } } };
  const ledger = useQuery({
    queryKey: ['network', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/network', path)),
  });
  const [open, setOpen] = useState<Open>();
  const [active, setActive] = useState<string>();
  const [given, setGiven] = useState(nothingGiven);
  const field = useFieldWork(() => void client.invalidateQueries({ queryKey: ['network', job?.id] }));
  const { running, setTrouble } = field;
  const lines = ledger.data?.rows;
  const groups = useMemo(() => groupsOf(lines ?? []), [lines]);
  const areas = useMemo(() => new Map(walk.data?.areas.flatMap((a) => a.stops.map((s) => [s.id, a.name] as const)) ?? []), [walk.data]);
  const order = useMemo(() => [...groups.mend, ...groups.missing, ...groups.agree], [groups]);
  const chosen = order.find((l) => l.key === active) ?? groups.mend[0] ?? groups.missing[0];
  const chosenKey = chosen && chosen.key;
  const aside = useRef<HTMLElement>(null);
  const box = useRef<HTMLElement>(null);
  // Where both stand one under the other, what was asked for is brought to the eye: at once, and again once it stands there.
  const wanted = useRef<string>(undefined);
  const show = () => aside.current?.scrollIntoView({ block: 'start' });
  const pick = useCallback((key: string) => {
    setActive(key);
    if (!isStacked()) return;
    wanted.current = key;
    show();
  }, []);
  // All that is known of it is asked for where somebody looks at it.
  const detail = useQuery({
    queryKey: ['network', job?.id, 'row', chosenKey],
    enabled: !!job && !!chosenKey,
    queryFn: () =>
      answered(
        api.GET('/api/jobs/{jobId}/network/rows', {
          params: { path: { jobId: job!.id }, query: { key: chosenKey, skip: 0, take: 1 } },
        }),
      ).then((r) => r.rows[0] ?? null),
  }).data;
  useEffect(() => {
    if (!detail || detail.key !== wanted.current) return;
    wanted.current = undefined;
    show();
  }, [detail]);
  const step = (by: number) => {
    const at = order.findIndex((l) => l.key === chosenKey);
    const next = order[Math.min(Math.max(at + by, 0), order.length - 1)];
    if (next) pick(next.key);
  };
  const mayWork = !access?.me || mayDo(access, 'work');
  const mayPlan = !access?.me || mayDo(access, 'plan');
  useKeys({
    l: () => mayWork && ledger.data?.plan && !running && setOpen('look'),
    ArrowDown: () => step(1),
    ArrowUp: () => step(-1),
  });
  if (!job || !ledger.data) return <Waiting error={ledger.error} again={() => void ledger.refetch()} />;
  const by = kit.data?.people.find((p) => p.id === me.personId)?.name ?? '';
  const begin = (call: Promise<WorkAnswer>) => {
    setOpen(undefined);
    field.begin(t('address.look.running'), call);
  };
  const data = ledger.data;
  const { hasSearched: hasLooked, strip, uncompared } = data;
  const edit = async (row: LedgerRow, values: Record<string, string>) => {
    setTrouble(undefined);
    try {
      await answered(
        api.POST('/api/jobs/{jobId}/register/edits', {
          ...path,
          body: {
            ...entry(),
            why: null,
            edits: Object.entries(values).map(([field, value]) => ({ deviceId: row.planned!.id, field, text: value })),
          },
        }),
      );
      await client.invalidateQueries({ queryKey: ['network', job.id] });
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  const mend = (row: LedgerRow, what: NonNullable<LedgerRow['notes'][number]['mend']>) => {
    const { found, planned } = row;
    if (!found || !planned) return;
    if (what === 'planFollows') void edit(row, { address: found.address });
    else if (what === 'noteUnit')
      void edit(row, {
        ...(found.serial ? { serial: found.serial.trim() } : {}),
        ...(found.hardwareAddress ? { hardware_address: found.hardwareAddress } : {}),
      });
    else
      begin(
        answered(
          api.POST('/api/jobs/{jobId}/network/mends', {
            ...path,
            body: { deviceId: planned.id, mend: what, logins: given.logins, by: me.personId! },
          }),
        ),
      );
  };
  const word = 'min-h-11 text-label font-semibold underline disabled:opacity-40';
  const figure = (n: number, what: string, bad?: boolean) => (
    <span className="flex items-baseline gap-2">
      <b className={`font-read text-[2.6rem] leading-none ${bad && n > 0 ? 'text-refused' : ''}`}>{n}</b> {t(`address.count.${what}`)}
    </span>
  );
  const last = data.looks[0];
  return (
    <main ref={box} className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-3 max-sm:px-4">
      <h1 className="sr-only">{t('address.title')}</h1>
      <div className="flex flex-wrap items-baseline gap-x-9 gap-y-1">
        {figure(groups.mend.length, 'wrong', true)}
        {hasLooked ? figure(groups.agree.length, 'asPlanned') : figure(groups.agree.length + groups.unlooked.length, 'planned')}
        {figure(groups.missing.length, 'missing')}
        <span className="ml-auto text-right text-label text-ink-2 max-sm:ml-0 max-sm:text-left">
          {last
            ? t(
                'address.looked',
                last.kind === 'list' ? t('address.list-of', last.of) : t(`address.way.${last.of}`),
                dayAndClock(last.at, job.timeZone),
              )
            : t('address.looks.none')}
          <br />
          {data.tester?.because.slice(-1).map(say).join(' ')}
          {demo && mayWork && (
            <>
              {' '}
              <button className="font-semibold underline" onClick={() => setOpen('demo')}>
                {t('address.demo')}
              </button>
            </>
          )}
        </span>
      </div>
      {data.plan && strip ? (
        <Strip strip={strip} subnet={data.plan.subnet} active={chosenKey} onPick={pick} />
      ) : (
        <p className="my-4 max-w-2xl">{t('address.no-plan')}</p>
      )}
      {data.wrong.map((w) => (
        <p key={w.field} className="font-semibold text-refused">
          {say(w.why)}
        </p>
      ))}
      {data.network.map((f) => (
        <p key={f} className="font-semibold text-refused">
          {t(`lan.finding.${f}`)}
        </p>
      ))}
      <div className="mt-2 flex flex-wrap items-center gap-x-5 border-t border-hairline pt-1">
        {mayWork && data.plan && (
          <>
            <button className="forward disabled:opacity-40" disabled={running} onClick={() => setOpen('look')}>
              {t(data.next ? `address.look.${data.next}` : 'address.look')}
            </button>
            <span className="min-w-0 max-w-80 text-label text-ink-2">{data.because.map(say).join(' ')}</span>
            {data.hasAsMade && (
              <button className={word} disabled={running} onClick={() => setOpen('factory')}>
                {t('address.give-factory')}
              </button>
            )}
            {hasLooked && (
              <>
                <button className={word} disabled={running} onClick={() => setOpen('trial')}>
                  {t('address.trial')}
                </button>
                <button
                  className={word}
                  disabled={running}
                  onClick={() => begin(answered(api.POST('/api/jobs/{jobId}/network/rows', path)))}
                >
                  {t('address.rows')}
                </button>
              </>
            )}
          </>
        )}
        {mayWork && data.canReadLists && (
          <button
            className={word}
            disabled={running}
            onClick={() => begin(answered(api.POST('/api/jobs/{jobId}/network/ports', { ...path, body: { by } })))}
          >
            {t('address.ask-ports')}
          </button>
        )}
        {mayWork && data.recorders.length > 0 && (
          <button className={word} disabled={running} onClick={() => setOpen('lists')}>
            {t('address.lists')}
          </button>
        )}
        <a className={`${word} inline-flex items-center`} href={`/api/jobs/${job.id}/schedule.csv`} download>
          {t('address.csv')}
        </a>
        {mayPlan && (
          <Link to="/import" className={`${word} inline-flex items-center`}>
            {t('address.csv-in')}
          </Link>
        )}
        {mayPlan && (
          <>
            <button className={word} onClick={() => setOpen('plan')}>
              {t('address.plan.edit')}
            </button>
            {data.plan && (
              <button className={word} onClick={() => setOpen('give')}>
                {t('address.give')}
              </button>
            )}
          </>
        )}
      </div>
      <FieldWork of={field} jobId={job.id} />
      {data.leases && <Leases leases={data.leases} />}
      {data.ports && (
        <Ports
          ports={data.ports}
          onPick={(device) => {
            const line = order.find((l) => l.deviceId === device);
            if (line) pick(line.key);
          }}
        />
      )}
      <div className="mt-3 grid grid-cols-[1fr_18rem] gap-x-8 max-[1100px]:grid-cols-1">
        <div className="min-w-0">
          {groups.mend.length > 0 && <LedgerTable lines={groups.mend} active={chosenKey} box={box} onPick={pick} />}
          {data.ambiguous.map((a) => (
            <p key={`${a.list} ${a.key} ${a.value}`} className="mt-1 text-label text-noted">
              {t('address.twice', a.value, t(`address.${a.list}`), a.ids.length)}
            </p>
          ))}
          {groups.missing.length > 0 && (
            <section className="mt-4 border-t border-hairline pt-2" aria-label={t('address.count.missing')}>
              <h2 className="mb-1 font-bold">{t('address.n-missing', groups.missing.length)}</h2>
              <Index lines={groups.missing} areas={areas} active={chosenKey} dim onPick={pick} />
            </section>
          )}
          {groups.unlooked.length > 0 && (
            <section className="mt-4 border-t border-hairline pt-2" aria-label={t('address.n-planned', groups.unlooked.length)}>
              <h2 className="mb-1 font-bold">{t('address.n-planned', groups.unlooked.length)}</h2>
              <Index lines={groups.unlooked} areas={areas} active={chosenKey} onPick={pick} />
            </section>
          )}
          {groups.agree.length > 0 && (
            <section className="mt-4 border-t border-hairline pt-2" aria-label={t('address.count.asPlanned')}>
              <h2 className="mb-1 font-bold">{t('address.n-agree', groups.agree.length)}</h2>
              {uncompared > 0 && <p className="mb-1 text-label text-ink-2">{t('address.n-uncompared', uncompared)}</p>}
              <Index lines={groups.agree} areas={areas} active={chosenKey} onPick={pick} />
            </section>
          )}
        </div>
        <aside
          ref={aside}
          className="min-w-0 self-start min-[1101px]:sticky min-[1101px]:top-0 min-[1101px]:max-h-[calc(100dvh-6rem)] min-[1101px]:overflow-y-auto max-[1100px]:mt-4 max-[1100px]:border-t max-[1100px]:border-ink max-[1100px]:pt-3"
        >
          {detail && (
            <Detail
              row={detail}
              busy={running}
              mayWork={mayWork}
              mayPlan={mayPlan}
              onMend={(m) => mend(detail, m)}
              onRestart={() =>
                begin(
                  answered(
                    api.POST('/api/jobs/{jobId}/network/restarts', {
                      ...path,
                      body: { deviceId: detail.planned!.id, logins: given.logins, by: me.personId! },
                    }),
                  ),
                )
              }
            />
          )}
        </aside>
      </div>
      {open === 'plan' && (
        <PlanSheet
          jobId={job.id}
          plan={data.plan}
          onClose={() => setOpen(undefined)}
          onKept={(next) => {
            client.setQueryData(['network', job.id], next);
            setOpen(undefined);
          }}
        />
      )}
      {open === 'give' && (
        <GiveSheet
          jobId={job.id}
          onClose={() => setOpen(undefined)}
          onKept={() => {
            setOpen(undefined);
            void client.invalidateQueries({ queryKey: ['network', job.id] });
          }}
        />
      )}
      {open === 'lists' && (
        <ListSheet
          recorders={data.recorders}
          canRead={data.canReadLists}
          onClose={() => setOpen(undefined)}
          onRead={(r) => begin(answered(api.POST('/api/jobs/{jobId}/network/lists/read', { ...path, body: { recorder: r, by } })))}
          onFile={(r, file) =>
            begin(
              sendFile<WorkAnswer>(
                `/api/jobs/${job.id}/network/lists/file?recorder=${encodeURIComponent(r)}&by=${encodeURIComponent(by)}`,
                file,
              ),
            )
          }
        />
      )}
      {open === 'look' && (
        <LookSheet
          onAnew={
            hasLooked
              ? () => {
                  setOpen(undefined);
                  answered(api.POST('/api/jobs/{jobId}/network/anew', path))
                    .then((next) => client.setQueryData(['network', job.id], next))
                    .catch((error: unknown) => setTrouble(troubleOf(error)));
                }
              : undefined
          }
          ledger={data}
          given={given}
          onGiven={setGiven}
          onClose={() => setOpen(undefined)}
          onLook={(way, names) =>
            begin(
              answered(
                way === 'leases'
                  ? api.POST('/api/jobs/{jobId}/network/lease-servers', { ...path, body: { by } })
                  : api.POST('/api/jobs/{jobId}/network/looks', {
                      ...path,
                      body: { way, confirmed: true, names, logins: given.logins, by },
                    }),
              ),
            )
          }
        />
      )}
      {open === 'demo' && (
        <Suspense>
          <DemoNetwork onClose={() => setOpen(undefined)} />
        </Suspense>
      )}
      {(open === 'trial' || open === 'factory') && (
        <TrialSheet
          given={given}
          withOwn={open === 'trial'}
          title={t(open === 'trial' ? 'address.trial' : 'address.give-factory')}
          hint={t(open === 'trial' ? 'address.login.hint' : 'address.give-factory-hint')}
          go={t(open === 'trial' ? 'address.trial.go' : 'address.give-factory')}
          onGiven={setGiven}
          onClose={() => setOpen(undefined)}
          onGo={() =>
            begin(
              open === 'trial'
                ? answered(
                    api.POST('/api/jobs/{jobId}/network/trials', {
                      ...path,
                      body: { own: given.logins, factory: given.factory?.user ? given.factory : null, by },
                    }),
                  )
                : answered(api.POST('/api/jobs/{jobId}/network/given', { ...path, body: { factory: given.factory!, by: me.personId! } })),
            )
          }
        />
      )}
    </main>
  );
}
