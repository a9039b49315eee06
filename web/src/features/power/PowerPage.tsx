import { Link } from '@tanstack/react-router';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { PowerPort, PowerSupply, PowerSwitch, SourceFigures } from '../../api/types';
import { identity } from '../../session/identity';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { NumberField } from '../../ui/NumberField';
import { TapLadder } from '../../ui/VoltageLadder';
import { TraceSteps } from '../handover/TraceSteps';
import { Waiting } from '../walk/WalkPage';
import '../cards/cardTexts';
import '../pageTexts';

type Source = { id: string; figures: SourceFigures; sw?: PowerSwitch; supply?: PowerSupply };

/** What every switch, injector and supply has left, and what falls out when it is gone. */
export default function PowerPage() {
  const { job } = useJob();
  const power = useQuery({
    queryKey: ['power', job?.id],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/power', { params: { path: { jobId: job!.id } } })),
  });
  const [editing, setEditing] = useState<Source>();
  const [open, setOpen] = useState<string>();
  const [why, setWhy] = useState<string>();
  if (!job || !power.data) return <Waiting error={power.error} again={() => void power.refetch()} />;
  const { switches, supplies } = power.data;
  const nothing = switches.length === 0 && supplies.length === 0;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-10 pt-4 max-sm:px-4">
      <h1 className="text-title font-bold">{t('power.title')}</h1>
      {nothing && <p className="py-6 text-ink-2">{t('power.nothing')}</p>}
      {switches.map((s) => (
        <section key={s.id} className="border-t border-ink py-3 [contain-intrinsic-size:auto_150px] [content-visibility:auto]" aria-label={nameOf(s)}>
          <div className="flex flex-wrap items-baseline gap-x-4">
            <h2 className="text-lead font-bold">
              <span className="font-read">{nameOf(s)}</span> <span className="font-normal">{s.figures.model}</span>
            </h2>
            <span className="text-label text-ink-2">
              {[
                t(`source.kind.${s.figures.kind}`),
                s.figures.mode !== 'standard' && t(`source.mode.${s.figures.mode}`),
                t('power.measured', s.budget.measured, s.budget.powered),
              ]
                .filter(Boolean)
                .join(', ')}
            </span>
            <span className="ml-auto flex gap-4">
              <WhyButton of={nameOf(s)} open={why === s.id} onClick={() => setWhy(why === s.id ? undefined : s.id)} />
              <button
                className="min-h-11 text-label font-semibold underline"
                onClick={() => setOpen(open === s.id ? undefined : s.id)}
                aria-expanded={open === s.id}
              >
                {t(open === s.id ? 'power.fold' : 'power.ports', s.ports.length)}
              </button>
              <button className="min-h-11 text-label font-semibold underline" onClick={() => setEditing({ id: s.id, figures: s.figures, sw: s })}>
                {t('power.try')}
              </button>
            </span>
          </div>
          <Budget sw={s} />
          {open === s.id && <Ports ports={s.ports} />}
          {why === s.id && <TraceSteps steps={s.why.steps} />}
        </section>
      ))}
      {supplies.map((s) => (
        <section key={s.id} className="border-t border-ink py-3" aria-label={s.figures.label!}>
          <div className="flex flex-wrap items-baseline gap-x-4">
            <h2 className="text-lead font-bold">
              <span className="font-read">{s.figures.label}</span> <span className="font-normal">{s.figures.model}</span>
            </h2>
            <span className="text-label text-ink-2">{t(`range.${s.figures.range}`)}</span>
            <span className="ml-auto flex gap-4">
              {s.why && <WhyButton of={s.figures.label!} open={why === s.id} onClick={() => setWhy(why === s.id ? undefined : s.id)} />}
              <button className="min-h-11 text-label font-semibold underline" onClick={() => setEditing({ id: s.id, figures: s.figures, supply: s })}>
                {t('power.try')}
              </button>
            </span>
          </div>
          <Supply supply={s} />
          {s.why && why === s.id && <TraceSteps steps={s.why.steps} />}
        </section>
      ))}
      <button
        className="mt-3 min-h-11 font-semibold underline"
        onClick={() =>
          setEditing({
            id: v7(),
            figures: {
              kind: 'supply',
              cabinetId: null,
              label: '',
              model: '',
              mode: 'standard',
              budgetWatts: null,
              reservePercent: 0,
              portLimitWatts: null,
              range: 'v12Dc',
              volts: 12,
              regulationPercent: 0,
              ratedAmperes: null,
              fuseAmperes: null,
              cableAmperes: null,
              wireGaugeAwg: 18,
              wireAreaMm2: null,
              temperatureC: 20,
            },
          })
        }
      >
        {t('power.add-supply')}
      </button>
      <StartUp jobId={job.id} />
      {editing && <SourceSheet jobId={job.id} source={editing} onClose={() => setEditing(undefined)} />}
    </main>
  );
}

/** Opens how the numbers of a source came about. */
function WhyButton({ of, open, onClick }: { of: string; open: boolean; onClick: () => void }) {
  return (
    <button className="min-h-11 text-label font-semibold underline" aria-expanded={open} aria-label={t('sum.open', of)} onClick={onClick}>
      {t(open ? 'sum.fold' : 'sum.show')}
    </button>
  );
}

/** The order in which the site is switched on, what to wait for, and how each device came up. */
function StartUp({ jobId }: { jobId: string }) {
  const start = useQuery({
    queryKey: ['power', jobId, 'start'],
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/power/start', { params: { path: { jobId } } })),
  });
  const [open, setOpen] = useState<number>();
  if (!start.data || start.data.stages.every((s) => s.devices.length === 0)) return null;
  return (
    <section className="mt-4 border-t border-ink py-3" aria-labelledby="start-up">
      <h2 id="start-up" className="text-lead font-bold">
        {t('start.title')}
      </h2>
      <p className="text-label text-ink-2">{t(start.data.switchFirst ? 'start.switch-first' : 'start.recorder-first')}</p>
      <p className="text-label text-noted">{t('start.caution')}</p>
      <ol className="mt-2">
        {start.data.stages.map((stage, i) => {
          const timed = stage.devices.filter((d) => d.timing !== 'notTimed');
          const shown = open === i ? stage.devices : stage.devices.slice(0, 10);
          return (
            <li
              key={i}
              className="grid grid-cols-[28px_150px_minmax(0,1fr)] gap-x-3 border-b border-dotted border-hairline py-2 max-sm:grid-cols-[28px_minmax(0,1fr)]"
            >
              <span className="font-read font-bold">{i + 1}</span>
              <span className="font-bold">{t(`start.stage.${stage.kind}`, stage.cabinet ?? '')}</span>
              <span className="text-label max-sm:col-start-2">
                <span className="block text-ink-2">
                  {stage.waitMostSeconds === null ? t('start.no-wait') : t('start.wait', stage.waitLeastSeconds!, stage.waitMostSeconds)}
                  {timed.length > 0 && ` ${t('start.timed', timed.length, stage.devices.length)}.`}
                </span>
                <span className="flex flex-wrap items-baseline gap-x-4">
                  {shown.map((d) => (
                    <Link key={d.id} to="/card/$deviceId" params={{ deviceId: d.id! }} className="inline-flex min-h-9 items-center gap-1.5">
                      <span className="font-read font-bold underline">{d.label}</span>
                      {d.timing !== 'notTimed' && (
                        <span
                          className={
                            d.timing === 'tooLate' ? 'font-bold text-refused' : d.timing === 'tooEarly' ? 'font-bold text-noted' : 'text-ink-2'
                          }
                        >
                          {t('start.seconds', d.seconds!)}, {t(`start.timing.${d.timing}`)}
                        </span>
                      )}
                    </Link>
                  ))}
                  {stage.devices.length > 10 && (
                    <button className="min-h-9 font-semibold underline" onClick={() => setOpen(open === i ? undefined : i)}>
                      {open === i ? t('power.fold') : t('start.more', stage.devices.length - 10)}
                    </button>
                  )}
                </span>
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

const nameOf = (s: PowerSwitch) => [s.cabinet, s.figures.label].filter(Boolean).join(' ');
const watts = (w: number | null | undefined) => (w === null || w === undefined ? '–' : w.toFixed(1));

/** A budget as a rail: what it can give, what is asked by class and by draw, port after port in the order they are granted. */
function Budget({ sw, stacked }: { sw: PowerSwitch; stacked?: boolean }) {
  const b = sw.budget;
  const most = Math.max(b.usableWatts ?? 0, b.byClass.demandWatts!, b.byDraw.demandWatts!, 1);
  const hand = useHand();
  const w = hand ? 380 : stacked ? 640 : 900;
  const x = (v: number) => (v / most) * w;
  const rails = (['byDraw', 'byClass'] as const).map((k) => {
    let at = 0;
    const segments = b.inOrder.map((share) => {
      const size = (k === 'byDraw' ? share.drawWatts : share.classWatts)!;
      const from = at;
      at += size;
      return { port: share.port!, from, size, refused: b[k].refused.includes(share.port!) };
    });
    return { k, segments };
  });
  const over = b.byDraw.refused.length > 0;
  return (
    <div className={`mt-1 grid items-center gap-x-8 ${stacked ? '' : 'grid-cols-[minmax(0,1fr)_300px] max-[1151px]:grid-cols-1'}`}>
      <svg viewBox={`0 0 ${w} 74`} width="100%" role="img" aria-label={summary(sw)}>
        {rails.map(({ k, segments }, row) => (
          <g key={k} transform={`translate(0 ${row * 30})`}>
            {segments.map(({ port, from, size, refused }) => (
              <g key={port}>
                <rect
                  x={x(from) + 0.5}
                  y="4"
                  width={Math.max(1, x(size) - 1.5)}
                  height={k === 'byDraw' ? 20 : 12}
                  fill={refused ? 'none' : k === 'byDraw' ? 'var(--color-ink)' : 'var(--color-rule)'}
                  stroke={refused ? 'var(--color-refused)' : 'none'}
                  strokeWidth="1.6"
                  strokeDasharray={refused ? '3 2' : undefined}
                />
                {k === 'byDraw' && x(size) > 22 && (
                  <text
                    x={x(from + size / 2)}
                    y="18"
                    textAnchor="middle"
                    fontSize="11"
                    className="font-read"
                    fill={refused ? 'var(--color-refused)' : 'var(--color-paper)'}
                  >
                    {port}
                  </text>
                )}
              </g>
            ))}
          </g>
        ))}
        {b.usableWatts !== null && (
          <g>
            <path d={`M${Math.min(w - 1, x(b.usableWatts))} 0V56`} stroke="var(--color-ink)" strokeWidth="2.4" />
            <text
              x={Math.min(w - 2, x(b.usableWatts))}
              y="70"
              textAnchor="end"
              fontSize="13"
              fontWeight="700"
              className="font-read"
              fill="var(--color-ink)"
            >
              {t('power.usable', b.usableWatts.toFixed(0))}
            </text>
          </g>
        )}
      </svg>
      <div className="text-label leading-snug">
        <p className={`text-body font-bold ${over ? 'text-refused' : ''}`}>
          {b.usableWatts === null
            ? t('power.unknown-budget', b.byDraw.demandWatts!.toFixed(0))
            : over
              ? t('power.over', b.byDraw.refused.join(', '))
              : t('power.left', watts(b.byDraw.leftWatts))}
        </p>
        <p className="text-ink-2">
          {t('power.by-draw', b.byDraw.demandWatts!.toFixed(0))}. {t('power.by-class', b.byClass.demandWatts!.toFixed(0))}
          {b.byClass.refused.length > 0 && b.usableWatts !== null ? `, ${t('power.class-over', b.byClass.refused.join(', '))}` : ''}.
        </p>
        {b.firstToDrop !== null && !over && (
          <p className="text-ink-2">{t('power.first-to-drop', b.firstToDrop, sw.ports.find((p) => p.number === b.firstToDrop)?.label ?? '')}</p>
        )}
        {b.findings.map((_, i) => (
          <p key={i} className="font-semibold text-noted">
            {sw.ports.find((p) => p.number === b.findings[i]!.port)?.findings.join(' ')}
          </p>
        ))}
      </div>
    </div>
  );
}

const summary = (s: PowerSwitch) =>
  `${nameOf(s)}: ${s.budget.usableWatts === null ? t('power.unknown-budget', s.budget.byDraw.demandWatts!.toFixed(0)) : s.budget.byDraw.refused.length > 0 ? t('power.over', s.budget.byDraw.refused.join(', ')) : t('power.left', watts(s.budget.byDraw.leftWatts))}`;

function Ports({ ports }: { ports: PowerPort[] }) {
  return (
    <div className="mt-2 overflow-x-auto">
      <table className="w-full min-w-[640px] text-table">
        <thead>
          <tr className="border-b border-ink text-left text-label">
            {['port', 'device', 'class', 'planned', 'measured', 'priority', 'state'].map((h) => (
              <th key={h} scope="col" className={`py-1 pr-3 font-semibold ${['class', 'planned', 'measured'].includes(h) ? 'text-right' : ''}`}>
                {t(`power.col.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ports.map((p) => (
            <tr key={p.portId} className="border-b border-dotted border-hairline">
              <td className="font-read py-1 pr-3">{p.number}</td>
              <td className="pr-3">
                {p.deviceId ? (
                  <Link to="/card/$deviceId" params={{ deviceId: p.deviceId }} className="font-read font-bold underline">
                    {p.label}
                  </Link>
                ) : (
                  <span className="text-ink-3">{t('power.free')}</span>
                )}{' '}
                <span className="text-label text-ink-2">{p.name}</span>
              </td>
              <td className="font-read pr-3 text-right">{p.powered ? (p.powerClass ?? '?') : ''}</td>
              <td className="font-read pr-3 text-right">{p.powered ? watts(p.plannedWatts) : ''}</td>
              <td className="font-read pr-3 text-right font-bold">{p.powered ? watts(p.measuredWatts) : ''}</td>
              <td className="pr-3 text-label">{p.uplink ? t('power.uplink') : t(`priority.${p.priority}`)}</td>
              <td className={`text-label ${p.refusedByDraw ? 'font-bold text-refused' : ''}`}>
                {[
                  !p.powered && p.deviceId
                    ? t('power.not-from-here')
                    : p.refusedByDraw
                      ? t('power.dropped')
                      : p.refusedByClass
                        ? t('power.class-dropped')
                        : '',
                  ...p.findings,
                ]
                  .filter(Boolean)
                  .join(' ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Supply({ supply, stacked }: { supply: PowerSupply; stacked?: boolean }) {
  const f = supply.figures;
  return (
    <div
      className={`mt-1 grid gap-x-8 ${stacked ? 'grid-cols-[1.4fr_1fr] max-sm:grid-cols-1' : 'grid-cols-[460px_minmax(0,1fr)] max-[1151px]:grid-cols-1'}`}
    >
      {supply.taps.length > 0 && f.volts !== null ? (
        <TapLadder
          volts={f.volts}
          min={supply.minVolts ?? f.volts}
          max={supply.maxVolts ?? f.volts}
          taps={supply.taps.map((x) => ({ label: x.label!, metres: x.metres!, volts: x.volts, outOfRange: x.outOfRange! }))}
        />
      ) : (
        <p className="py-2 text-ink-2">{t('power.no-taps')}</p>
      )}
      <div className="text-label leading-snug">
        {supply.taps.length > 0 && !supply.solved && (
          <p className="text-body font-bold text-refused">
            {t(supply.taps.some((x) => x.watts === null) ? 'power.unknown-watts' : 'power.no-solution')}
          </p>
        )}
        {supply.supplyAmperes !== null && (
          <p className={`text-body font-bold ${supply.supplyOk === false ? 'text-refused' : ''}`}>
            {supply.usableAmperes === null
              ? t('power.amperes', supply.supplyAmperes.toFixed(2))
              : t(supply.supplyOk ? 'power.amperes-ok' : 'power.amperes-over', supply.supplyAmperes.toFixed(2), supply.usableAmperes.toFixed(2))}
          </p>
        )}
        <p className={supply.fuse === 'ok' || supply.fuse === 'notChecked' ? 'text-ink-2' : 'font-bold text-refused'}>{t(`fuse.${supply.fuse}`)}</p>
        <p className="text-ink-2">
          {f.wireAreaMm2 !== null ? `${f.wireAreaMm2} mm²` : `${f.wireGaugeAwg ?? 18} AWG`}
          {supply.longestMetres !== null && `, ${t('power.longest', supply.longestMetres.toFixed(0))}`}
        </p>
        <ul className="mt-1">
          {supply.taps.map((x) => (
            <li key={x.deviceId} className={x.outOfRange ? 'font-bold text-refused' : ''}>
              <Link to="/card/$deviceId" params={{ deviceId: x.deviceId! }} className="font-read font-bold underline">
                {x.label}
              </Link>{' '}
              {t('power.tap', x.metres!, watts(x.watts))}
              {!x.metresKnown && ` (${t('origin.assumed')})`}
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

/** Figures of a source, tried while they are typed; kept only when it is said. */
function SourceSheet({ jobId, source, onClose }: { jobId: string; source: Source; onClose: () => void }) {
  const client = useQueryClient();
  const [f, setF] = useState<SourceFigures>(source.figures);
  const [ports, setPorts] = useState(() => (source.sw?.ports ?? []).map((p) => ({ portId: p.portId!, priority: p.priority!, uplink: p.uplink! })));
  const [trial, setTrial] = useState<Source>(source);
  const [trouble, setTrouble] = useState<string>();
  const [why, setWhy] = useState('');
  const latest = useRef(0);
  const isSupply = f.kind === 'supply';
  useEffect(() => {
    const mine = ++latest.current;
    answered(
      api.POST('/api/jobs/{jobId}/power/{sourceId}/try', {
        params: { path: { jobId, sourceId: source.id } },
        body: { figures: f, ports, by: null, why: null },
      }),
    )
      .then((next) => {
        if (mine !== latest.current) return;
        setTrial({ id: source.id, figures: f, sw: next.switch ?? undefined, supply: next.supply ?? undefined });
        setTrouble(undefined);
      })
      .catch((error: unknown) => mine === latest.current && setTrouble(troubleOf(error)));
  }, [f, ports, jobId, source.id]);
  const keep = useMutation({
    mutationFn: () =>
      answered(
        api.PUT('/api/jobs/{jobId}/power/{sourceId}', {
          params: { path: { jobId, sourceId: source.id } },
          body: { figures: f, ports, by: identity().personId ?? null, why: why.trim() || null },
        }),
      ),
    onSuccess: async (next) => {
      client.setQueryData(['power', jobId], next);
      await client.invalidateQueries({ queryKey: ['card'] });
      onClose();
    },
    onError: (error) => setTrouble(troubleOf(error)),
  });
  const field = (k: keyof SourceFigures, label: string, optional = true) => (
    <Labelled label={t(label)}>
      <NumberField
        className="field font-read"
        value={f[k] as number | null}
        optional={optional}
        onChange={(v) => setF({ ...f, [k]: v ?? (optional ? null : 0) })}
      />
    </Labelled>
  );
  return (
    <Sheet title={isSupply ? f.label || t('power.add-supply') : nameOf(source.sw!)} hint={t('power.try-hint')} onClose={onClose} wide>
      {trial.sw && <Budget sw={trial.sw} stacked />}
      {trial.supply && <Supply supply={trial.supply} stacked />}
      {trouble && (
        <p role="alert" className="my-2 font-semibold text-refused">
          {trouble}
        </p>
      )}
      <div className="mt-3 grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
        {isSupply && !source.figures.label && (
          <Labelled label={t('power.label')}>
            <input className="field" value={f.label!} maxLength={60} onChange={(e) => setF({ ...f, label: e.target.value })} />
          </Labelled>
        )}
        <Labelled label={t('field.model')}>
          <input className="field" value={f.model!} maxLength={80} onChange={(e) => setF({ ...f, model: e.target.value })} />
        </Labelled>
        {!isSupply && (
          <>
            <Labelled label={t('power.kind')}>
              <select className="field" value={f.kind!} onChange={(e) => setF({ ...f, kind: e.target.value as 'switch' | 'injector' })}>
                {(['switch', 'injector'] as const).map((k) => (
                  <option key={k} value={k}>
                    {t(`source.kind.${k}`)}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t('power.mode')}>
              <select className="field" value={f.mode!} onChange={(e) => setF({ ...f, mode: e.target.value as SourceFigures['mode'] })}>
                {(['standard', 'legacyHighPower', 'passive'] as const).map((k) => (
                  <option key={k} value={k}>
                    {t(`source.mode.${k}`)}
                  </option>
                ))}
              </select>
            </Labelled>
            {field('budgetWatts', 'power.budget')}
            {field('reservePercent', 'power.reserve', false)}
            {field('portLimitWatts', 'power.port-limit')}
          </>
        )}
        {isSupply && (
          <>
            <Labelled label={t('power.range')}>
              <select className="field" value={f.range!} onChange={(e) => setF({ ...f, range: e.target.value as SourceFigures['range'] })}>
                {(['v12Dc', 'v24Dc', 'v24Ac'] as const).map((k) => (
                  <option key={k} value={k}>
                    {t(`range.${k}`)}
                  </option>
                ))}
              </select>
            </Labelled>
            {field('volts', 'power.volts')}
            {field('regulationPercent', 'power.regulation', false)}
            {field('ratedAmperes', 'power.rated')}
            {field('fuseAmperes', 'power.fuse')}
            {field('cableAmperes', 'power.cable-amperes')}
            {field('wireGaugeAwg', 'power.gauge')}
            {field('wireAreaMm2', 'power.area')}
            {field('temperatureC', 'path.temperatureC')}
          </>
        )}
      </div>
      {!isSupply && trial.sw && (
        <fieldset className="mt-1">
          <legend className="text-label font-semibold text-ink-2">{t('power.order')}</legend>
          <div className="grid grid-cols-2 gap-x-6 max-sm:grid-cols-1">
            {trial.sw.ports
              .filter((p) => p.deviceId)
              .map((p) => {
                const mine = ports.find((x) => x.portId === p.portId);
                return (
                  <label key={p.portId} className="flex min-h-10 items-center gap-2 border-b border-dotted border-hairline text-label">
                    <span className="font-read w-8">{p.number}</span>
                    <span className={`font-read flex-1 ${p.refusedByDraw ? 'font-bold text-refused' : ''}`}>{p.label}</span>
                    <select
                      className="field !min-h-8 !w-auto !py-0"
                      value={mine?.uplink ? 'uplink' : mine?.priority}
                      onChange={(e) =>
                        setPorts(
                          ports.map((x) =>
                            x.portId !== p.portId
                              ? x
                              : {
                                  ...x,
                                  uplink: e.target.value === 'uplink',
                                  priority: e.target.value === 'uplink' ? x.priority : (e.target.value as 'critical' | 'high' | 'low'),
                                },
                          ),
                        )
                      }
                    >
                      {(['critical', 'high', 'low'] as const).map((k) => (
                        <option key={k} value={k}>
                          {t(`priority.${k}`)}
                        </option>
                      ))}
                      <option value="uplink">{t('power.uplink')}</option>
                    </select>
                  </label>
                );
              })}
          </div>
        </fieldset>
      )}
      <Labelled label={t('power.why')}>
        <input className="field" value={why} maxLength={400} onChange={(e) => setWhy(e.target.value)} />
      </Labelled>
      <button
        className="forward mt-4 w-full text-center disabled:opacity-50"
        disabled={!!trouble || keep.isPending || (isSupply && !f.label?.trim())}
        onClick={() => keep.mutate()}
      >
        {t('power.keep')}
      </button>
      {(source.sw ?? source.supply)?.changes.map((c) => (
        <p key={c.version} className="mt-1 text-label text-ink-2">
          {t('power.edition', c.version!, c.by!, c.at!.slice(0, 16).replace('T', ' '), c.why!)}
        </p>
      ))}
    </Sheet>
  );
}
