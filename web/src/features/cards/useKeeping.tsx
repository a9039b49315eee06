import { useState } from 'react';
import { keep } from '../../outbox/outbox';
import { t } from '../../texts';

/** Keeps what a sheet was filled with, and says so where this device has no room: the sheet then stays open with what was typed. */
export function useKeeping(onKept: () => void) {
  const [trouble, setTrouble] = useState(false);
  const put = async (...entry: Parameters<typeof keep>) => {
    const kept = (await keep(...entry)) !== null;
    setTrouble(!kept);
    if (kept) onKept();
    return kept;
  };
  const notice = trouble ? (
    <p role="alert" className="mb-2 font-semibold text-refused">
      {t('ui.not-kept')}
    </p>
  ) : null;
  return { put, notice };
}
