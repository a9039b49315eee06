import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { TraceSteps } from '../handover/TraceSteps';
import { Waiting } from '../walk/WalkPage';
import { type Source, SourceSheet } from './SourceSheet';
import { WhyButton } from './WhyButton';
import { StartUp } from './StartUp';
import { nameOf } from './sourceText';
import { Budget, Ports } from './Budget';
import { Supply } from './Supply';
import '../cards/cardTexts';
import '../pageTexts';

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
      {switches.length > 0 && <p className="mb-2 text-label text-ink-2">{t('power.legend')}</p>}
      {nothing && <p className="py-6 text-ink-2">{t('power.nothing')}</p>}
      {switches.map((s) => (
        <section
          key={s.id}
          className="border-t border-ink py-3 [contain-intrinsic-size:auto_150px] [content-visibility:auto]"
          aria-label={nameOf(s)}
        >
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
              <button
                className="min-h-11 text-label font-semibold underline"
                onClick={() => setEditing({ id: s.id, figures: s.figures, sw: s })}
              >
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
        <section key={s.id} className="border-t border-ink py-3" aria-label={s.figures.label}>
          <div className="flex flex-wrap items-baseline gap-x-4">
            <h2 className="text-lead font-bold">
              <span className="font-read">{s.figures.label}</span> <span className="font-normal">{s.figures.model}</span>
            </h2>
            <span className="text-label text-ink-2">{t(`range.${s.figures.range}`)}</span>
            <span className="ml-auto flex gap-4">
              {s.why && <WhyButton of={s.figures.label} open={why === s.id} onClick={() => setWhy(why === s.id ? undefined : s.id)} />}
              <button
                className="min-h-11 text-label font-semibold underline"
                onClick={() => setEditing({ id: s.id, figures: s.figures, supply: s })}
              >
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
