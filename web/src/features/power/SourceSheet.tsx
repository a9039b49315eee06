import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { MoreCamera, PowerPort, PowerSupply, PowerSwitch, SourceFigures } from '../../api/types';
import { identity } from '../../session/identity';
import { useMay } from '../../session/access';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { NumberField } from '../../ui/NumberField';
import { nameOf } from './sourceText';
import { Budget } from './Budget';
import { Supply } from './Supply';
import { Trouble } from '../../ui/Trouble';

export type Source = { id: string; figures: SourceFigures; sw?: PowerSwitch; supply?: PowerSupply };

/** Figures of a source, tried while they are typed; kept only when it is said. */
export function SourceSheet({ jobId, source, onClose }: { jobId: string; source: Source; onClose: () => void }) {
  const client = useQueryClient();
  const [f, setF] = useState<SourceFigures>(source.figures);
  const [ports, setPorts] = useState(() =>
    (source.sw?.ports ?? []).map((p) => ({ portId: p.portId, priority: p.priority, uplink: p.uplink })),
  );
  const may = useMay('register');
  const [more, setMore] = useState<MoreCamera[]>([]);
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
        body: { figures: f, ports, by: null, why: null, more },
      }),
    )
      .then((next) => {
        if (mine !== latest.current) return;
        setTrial({ id: source.id, figures: f, sw: next.switch ?? undefined, supply: next.supply ?? undefined });
        setTrouble(undefined);
      })
      .catch((error: unknown) => mine === latest.current && setTrouble(troubleOf(error)));
  }, [f, ports, more, jobId, source.id]);
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
      <Trouble text={trouble} className="my-2" />
      <div className="mt-3 grid grid-cols-3 gap-x-4 max-sm:grid-cols-1">
        {isSupply && !source.figures.label && (
          <Labelled label={t('power.label')}>
            <input className="field" value={f.label} maxLength={60} onChange={(e) => setF({ ...f, label: e.target.value })} />
          </Labelled>
        )}
        <Labelled label={t('field.model')}>
          <input className="field" value={f.model} maxLength={80} onChange={(e) => setF({ ...f, model: e.target.value })} />
        </Labelled>
        {!isSupply && (
          <>
            <Labelled label={t('power.kind')}>
              <select className="field" value={f.kind} onChange={(e) => setF({ ...f, kind: e.target.value as 'switch' | 'injector' })}>
                {(['switch', 'injector'] as const).map((k) => (
                  <option key={k} value={k}>
                    {t(`source.kind.${k}`)}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t('power.mode')}>
              <select className="field" value={f.mode} onChange={(e) => setF({ ...f, mode: e.target.value as SourceFigures['mode'] })}>
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
              <select className="field" value={f.range} onChange={(e) => setF({ ...f, range: e.target.value as SourceFigures['range'] })}>
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
      {!isSupply && trial.sw && <More more={more} ports={trial.sw.ports} onChange={setMore} />}
      <Labelled label={t('power.why')}>
        <input className="field" value={why} maxLength={400} onChange={(e) => setWhy(e.target.value)} />
      </Labelled>
      <button
        className="forward mt-4 w-full text-center disabled:opacity-50"
        disabled={!may || !!trouble || keep.isPending || (isSupply && !f.label?.trim())}
        onClick={() => keep.mutate()}
      >
        {t(may ? 'power.keep' : 'access.only-tried')}
      </button>
      {(source.sw ?? source.supply)?.changes.map((c) => (
        <p key={c.version} className="mt-1 text-label text-ink-2">
          {t('power.edition', c.version, c.by, c.at.slice(0, 16).replace('T', ' '), c.why)}
        </p>
      ))}
    </Sheet>
  );
}

/** Cameras that hang nowhere yet: what would their ports take, and who would go dark? Nothing of it is kept. */
function More({ more, ports, onChange }: { more: MoreCamera[]; ports: PowerPort[]; onChange: (more: MoreCamera[]) => void }) {
  const [powerClass, setClass] = useState(3);
  const [watts, setWatts] = useState<number | null>(null);
  const tried = ports.filter((p) => p.label.startsWith('+'));
  return (
    <fieldset className="mb-3 mt-2">
      <legend className="text-label font-semibold text-ink-2">{t('power.more')}</legend>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <label className="flex flex-col text-label">
          {t('term.class')}
          <select className="field !w-20" value={powerClass} onChange={(e) => setClass(Number(e.target.value))}>
            {[0, 1, 2, 3, 4, 5, 6, 7, 8].map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
        </label>
        <label className="flex flex-col text-label">
          {t('unit.watt')}
          <NumberField className="field font-read !w-24" value={watts} optional onChange={setWatts} />
        </label>
        <button type="button" className="plain" onClick={() => onChange([...more, { powerClass, watts }])}>
          {t('power.more-add')}
        </button>
      </div>
      <ul className="text-label">
        {tried.map((p, i) => (
          <li key={p.number} className="flex min-h-9 items-center gap-3 border-b border-dotted border-hairline">
            <span className={`flex-1 ${p.refusedByDraw ? 'font-bold text-refused' : ''}`}>
              {t(
                'power.more-at',
                p.number,
                p.powerClass ?? 0,
                p.plannedWatts === null ? t('power.more-class-watts') : `${p.plannedWatts} ${t('unit.watt')}`,
              )}
              {p.refusedByDraw && `. ${t('power.over', p.number)}`}
            </span>
            <button type="button" className="font-semibold underline" onClick={() => onChange(more.filter((_, n) => n !== i))}>
              {t('path.remove')}
            </button>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
