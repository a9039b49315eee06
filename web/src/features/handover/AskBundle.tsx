import { useState } from 'react';
import type { WorkAnswer } from '../../api/types';
import { t } from '../../texts';
import { Fingerprint } from '../../ui/Fingerprint';

/** Anybody can seal a bundle: who did is shown, and somebody with a name takes it. */
export function AskBundle({
  ask,
  by,
  onTake,
  onLeave,
}: {
  ask: NonNullable<WorkAnswer['ask']>;
  by: string;
  onTake: () => void;
  onLeave: () => void;
}) {
  const [seen, setSeen] = useState(false);
  const { look, standing } = ask;
  const unknown = standing === 'unknown';
  return (
    <div className="mt-3 border-2 border-ink p-3" role="status">
      <p className="font-bold">{t(look.isNew ? 'handover.ask-new' : 'handover.ask-joined', look.name)}</p>
      <p className={`mt-1 text-label ${unknown ? 'font-semibold text-noted' : 'text-ink-2'}`}>{t(`handover.ask-${standing}`)}</p>
      <Fingerprint of={look.key} />
      {look.hasCatalogue && <p className="mt-1 text-label text-noted">{t('handover.ask-catalogue')}</p>}
      {unknown && (
        <label className="mt-2 flex min-h-11 items-center gap-3 text-label font-semibold">
          <input type="checkbox" className="h-5 w-5 accent-ink" checked={seen} onChange={(e) => setSeen(e.target.checked)} />
          {t('handover.ask-compared')}
        </label>
      )}
      {!by && <p className="mt-1 text-label text-refused">{t('ui.who')}</p>}
      <div className="mt-2 flex gap-3">
        <button className="forward disabled:opacity-40" disabled={(unknown && !seen) || !by} onClick={onTake}>
          {t('handover.ask-take')}
        </button>
        <button className="plain" onClick={onLeave}>
          {t('handover.ask-leave')}
        </button>
      </div>
    </div>
  );
}
