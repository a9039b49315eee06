import { useState } from 'react';
import { keep } from '../../outbox/outbox';
import { t } from '../../texts';
import { Trouble } from '../../ui/Trouble';

/** Keeps what a sheet was filled with, and says so where this device has no room: the sheet then stays open with what was typed. */
export function useKeeping(onKept: () => void) {
  const [trouble, setTrouble] = useState(false);
  const put = async (...entry: Parameters<typeof keep>) => {
    const kept = (await keep(...entry)) !== null;
    setTrouble(!kept);
    if (kept) onKept();
    return kept;
  };
  const notice = <Trouble text={trouble ? t('ui.not-kept') : null} className="mb-2" />;
  return { put, notice };
}
