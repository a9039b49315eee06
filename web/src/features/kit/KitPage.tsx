import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { useKit } from '../../api/queries';
import type { InstrumentFunction, KitAnswer, KitInstrument } from '../../api/types';
import { useMay } from '../../session/access';
import { useJob } from '../../session/useJob';
import '../access/accessTexts';
import { has, t } from '../../texts';
import { StateMark } from '../../ui/Marks';
import { day, moment } from '../../ui/format';
import { Waiting } from '../walk/WalkPage';
import { PersonSheet } from './PersonSheet';
import { InstrumentSheet } from './InstrumentSheet';
import { CheckSheet } from './ReferenceSheet';
import '../cards/cardTexts';
import '../pageTexts';

/** People and instruments: who may write and witness, what is in calibration, and what a reading of each is worth. */
export default function KitPage() {
  const { job, jobs } = useJob();
  const kit = useKit(job?.id);
  const mayAdmit = useMay('admit');
  const mayEquip = useMay('equip');
  const mayWork = useMay('work');
  const [person, setPerson] = useState<KitAnswer['people'][number] | 'new'>();
  const [instrument, setInstrument] = useState<string>();
  const [checking, setChecking] = useState<KitInstrument>();
  if (!job || !kit.data) return <Waiting error={jobs.error ?? kit.error} again={() => void kit.refetch()} />;
  const editing = instrument === 'new' ? undefined : kit.data.instruments.find((i) => i.id === instrument);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('kit.title')}</h1>
      <div className="mt-4 grid grid-cols-1 gap-x-10 gap-y-8 min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,2.4fr)]">
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('kit.people')}</h2>
          <ul>
            {kit.data.people.map((p) => (
              <li key={p.id}>
                <button
                  disabled={!mayEquip}
                  className="flex min-h-12 w-full items-baseline justify-between gap-3 border-b border-hairline py-2"
                  onClick={() => setPerson(p)}
                >
                  <span className={p.left ? 'text-ink-3 line-through' : 'font-bold'}>{p.name}</span>
                  <span className="text-label text-ink-2">
                    {[p.role, p.mayWitness && t('kit.witness'), p.left && t('kit.left')].filter(Boolean).join(', ')}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {mayEquip && (
            <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setPerson('new')}>
              {t('kit.add-person')}
            </button>
          )}
          {mayAdmit && (
            <Link to="/access" className="ml-6 inline-flex min-h-11 items-center font-semibold underline">
              {t('access.title')}
            </Link>
          )}
        </section>
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('kit.instruments')}</h2>
          {kit.data.instruments.length === 0 && <p className="py-3 text-ink-2">{t('kit.none')}</p>}
          <ul>
            {kit.data.instruments.map((i) => {
              const counts = (i.calibration === 'valid' || i.calibration === 'dueSoon') && i.inDoubt.length === 0;
              const last = i.checks.at(-1);
              return (
                <li key={i.id} className={`border-b border-hairline py-3 ${i.retired ? 'text-ink-3' : ''}`}>
                  <div className="flex flex-wrap items-baseline gap-x-3">
                    <span className="text-body font-bold">{i.name}</span>
                    <span className="font-read text-label text-ink-2">{i.serial}</span>
                    <span className="text-label text-ink-2">
                      {i.kind && has(`instrument.${i.kind}`) ? t(`instrument.${i.kind}`) : i.kind}
                    </span>
                    <span className={`ml-auto text-label font-bold ${counts ? '' : 'text-refused'}`}>
                      {[
                        i.retired && t('kit.retired'),
                        t(`kit.${i.calibration}`, i.daysLeft ?? ''),
                        i.inDoubt.length > 0 && t('kit.in-doubt', i.inDoubt.map((u) => t(`unit.${u}`)).join(', ')),
                      ]
                        .filter(Boolean)
                        .join(', ')}
                    </span>
                  </div>
                  <p className="mt-1 text-label text-ink-2">
                    {i.calibratedOn && `${t('kit.from')} ${day(i.calibratedOn)}, ${t('ui.due', day(i.calibrationDue))}`}
                    {i.certificate && `, ${t('kit.certificate')} ${i.certificate}`}
                  </p>
                  <p className="mt-1 flex flex-wrap gap-x-6 font-read text-label">
                    {i.functions.map((f, n) => (
                      <span key={n}>{accuracyText(f)}</span>
                    ))}
                  </p>
                  <div className="mt-1 flex flex-wrap items-center gap-x-5 text-label">
                    {last ? (
                      <span className="flex items-center gap-2">
                        <StateMark state={last.in === false ? 'out' : 'in'} />
                        {`${last.reading} ${t(`unit.${last.unit}`)} / ${last.reference}, ${t(last.in === false ? 'kit.out' : 'kit.in')}, ${moment(last.at, job.timeZone)}`}
                      </span>
                    ) : (
                      <span className="text-ink-3">{t('kit.no-checks')}</span>
                    )}
                    <span className="ml-auto flex gap-x-5">
                      {mayWork && (
                        <button className="min-h-9 font-semibold underline" onClick={() => setChecking(i)}>
                          {t('kit.check')}
                        </button>
                      )}
                      {mayEquip && (
                        <button className="min-h-9 font-semibold underline" onClick={() => setInstrument(i.id)}>
                          {t('practice.edit')}
                        </button>
                      )}
                    </span>
                  </div>
                </li>
              );
            })}
          </ul>
          {mayEquip && (
            <button className="mt-2 min-h-11 font-semibold underline" onClick={() => setInstrument('new')}>
              {t('kit.add-instrument')}
            </button>
          )}
        </section>
      </div>
      {person && <PersonSheet jobId={job.id} person={person === 'new' ? undefined : person} onClose={() => setPerson(undefined)} />}
      {instrument && <InstrumentSheet jobId={job.id} kit={kit.data} instrument={editing} onClose={() => setInstrument(undefined)} />}
      {checking && <CheckSheet jobId={job.id} instrument={checking} onClose={() => setChecking(undefined)} />}
    </main>
  );
}

/** How far it may be off, as its sheet says it: 2 % of the reading and two digits of 0.1 m. */
const accuracyText = ({ unit, upTo, accuracy: a }: InstrumentFunction) => {
  const name = t(`unit.${unit}`);
  const parts = [
    a.percentOfReading > 0 && t('kit.of-reading', a.percentOfReading),
    a.counts > 0 && t('kit.digits', a.counts, `${a.resolution ?? ''} ${name}`.trim()),
    a.absolute > 0 && `${a.absolute} ${name}`,
  ].filter(Boolean);
  return `${name}${upTo ? ` ${t('report.up-to', upTo)}` : ''}: ${parts.length > 0 ? `± ${parts.join(' + ')}` : t('kit.exact')}`;
};
