import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import { setIdentity } from '../../session/identity';
import { setCurrentJob } from '../../session/job';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import '../access/accessTexts';

/** Zones that this browser knows; any other can be typed. */
const zones: string[] = typeof Intl.supportedValuesOf === 'function' ? Intl.supportedValuesOf('timeZone') : [];

/** A time zone of the world's list: this browser's are offered, any other can be typed. */
function ZoneField({ zone, onChange }: { zone: string; onChange: (zone: string) => void }) {
  return (
    <Labelled label={t('first.zone')}>
      <input className="field" list="zones" value={zone} maxLength={60} onChange={(e) => onChange(e.target.value)} />
      <datalist id="zones">
        {zones.map((z) => (
          <option key={z} value={z} />
        ))}
      </datalist>
    </Labelled>
  );
}

/** The name and the time zone of a job that is on record. */
export function JobChange({ job, onDone }: { job: { id: string; name: string; timeZone: string }; onDone: () => void }) {
  const client = useQueryClient();
  const [name, setName] = useState(job.name);
  const [zone, setZone] = useState(job.timeZone);
  const keep = useMutation({
    mutationFn: () => answered(api.PUT('/api/jobs/{jobId}', { params: { path: { jobId: job.id } }, body: { name, timeZone: zone } })),
    onSuccess: async () => {
      await client.invalidateQueries();
      onDone();
    },
  });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <Labelled label={t('first.name')}>
        <input className="field" autoFocus value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <ZoneField zone={zone} onChange={setZone} />
      <p className="mb-3 text-label text-ink-2">{t('jobs.change-hint')}</p>
      <Trouble text={keep.error ? troubleOf(keep.error) : undefined} />
      <button className="forward w-full text-center disabled:opacity-50" disabled={keep.isPending || !name.trim()}>
        {t('jobs.keep')}
      </button>
    </form>
  );
}

/** A new job, and who works on it first. Sent twice, it is one job and one person. */
export function JobForm({ onMade }: { onMade?: () => void }) {
  const client = useQueryClient();
  const [id] = useState(() => v7());
  const [personId] = useState(() => v7());
  const [name, setName] = useState('');
  const [zone, setZone] = useState(() => Intl.DateTimeFormat().resolvedOptions().timeZone);
  const [person, setPerson] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await answered(api.POST('/api/jobs', { body: { id, name, timeZone: zone, rule: 'guarded', scheme: 't568B' } }));
      await answered(
        api.POST('/api/jobs/{jobId}/people', {
          params: { path: { jobId: id } },
          body: { id: personId, name: person, role: 'technician', mayWitness: false },
        }),
      );
      setCurrentJob(id);
      // Who makes the job is who holds this device.
      setIdentity({ personId });
      await client.invalidateQueries();
      onMade?.();
    } catch (error) {
      setTrouble(troubleOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() && person.trim() && !busy) void make();
      }}
    >
      <Labelled label={t('first.name')}>
        <input className="field" autoFocus value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <ZoneField zone={zone} onChange={setZone} />
      <Labelled label={t('first.person')}>
        <input className="field" value={person} maxLength={80} onChange={(e) => setPerson(e.target.value)} />
      </Labelled>
      <Trouble text={trouble} />
      <button className="forward disabled:opacity-50" disabled={busy || !name.trim() || !person.trim()}>
        {t(busy ? 'ui.loading' : 'first.go')}
      </button>
    </form>
  );
}
