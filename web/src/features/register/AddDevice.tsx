import { useNavigate } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api, ProblemError } from '../../api/client';
import { entry, troubleOf } from '../../api/send';
import type { RegisterAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';

import type { CellTrouble } from './cellTrouble';
import { Trouble } from '../../ui/Trouble';

export function AddDevice({
  jobId,
  register,
  reason,
  onClose,
}: {
  jobId: string;
  register: RegisterAnswer;
  /** Why it is in no schedule, where that is known beforehand and need not be asked. */
  reason?: string;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [id] = useState(() => v7());
  const [values, setValues] = useState<Record<string, string>>({});
  const [why, setWhy] = useState(reason ?? '');
  const [trouble, setTrouble] = useState<string>();
  const fields = ['label', 'name', 'area', 'kind', 'model', 'serial', 'cabinet', 'port', 'run', 'length_m'];
  const save = async () => {
    try {
      const added = await answered(
        api.POST('/api/jobs/{jobId}/register/devices', { params: { path: { jobId } }, body: { ...entry(id), values, why } }),
      );
      await client.invalidateQueries({ queryKey: ['register'] });
      await client.invalidateQueries({ queryKey: ['walk'] });
      void navigate({ to: '/card/$deviceId', params: { deviceId: added.deviceId } });
    } catch (error) {
      const cells = error instanceof ProblemError ? ((error.problem as { cells?: CellTrouble[] }).cells ?? []) : [];
      setTrouble(cells[0] ? cells.map((c) => `${c.what} ${c.mend}`).join(' ') : troubleOf(error));
    }
  };
  return (
    <Sheet title={t('register.add')} hint={t('register.add-hint')} onClose={onClose} wide>
      <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
        {fields.map((f) => (
          <Labelled key={f} label={t(`field.${f}`)}>
            {f === 'kind' ? (
              <select className="field" value={values[f] ?? ''} onChange={(e) => setValues({ ...values, [f]: e.target.value })}>
                <option value="" />
                {register.kinds.map((k) => (
                  <option key={k} value={k}>
                    {t(`kind.${k}`)}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className="field"
                list={f === 'cabinet' ? 'add-cabinets' : undefined}
                value={values[f] ?? ''}
                onChange={(e) => setValues({ ...values, [f]: e.target.value })}
              />
            )}
          </Labelled>
        ))}
        <datalist id="add-cabinets">
          {register.cabinets.map((c) => (
            <option key={c} value={c} />
          ))}
        </datalist>
      </div>
      {!reason && (
        <Labelled label={t('register.why-label')}>
          <textarea className="field" rows={2} maxLength={400} value={why} onChange={(e) => setWhy(e.target.value)} />
        </Labelled>
      )}
      <Trouble text={trouble} />
      <button
        className="forward w-full text-center disabled:opacity-50"
        disabled={!values.label || !values.kind || !why.trim()}
        onClick={() => void save()}
      >
        {t('register.add')}
      </button>
    </Sheet>
  );
}
