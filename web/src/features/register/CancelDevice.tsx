import { useState } from 'react';
import type { RegisterLine } from '../../api/types';
import { t } from '../../texts';

export function CancelDevice(props: {
  row: RegisterLine;
  busy: boolean;
  why: string;
  setWhy: (w: string) => void;
  onSave: (text: string) => Promise<void>;
}) {
  const [asking, setAsking] = useState<string>();
  if (props.row.cancelled)
    return (
      <button className="min-h-9 font-semibold underline" disabled={props.busy} onClick={() => void props.onSave('')}>
        {t('register.back')}
      </button>
    );
  if (asking !== props.row.id)
    return (
      <button className="min-h-9 font-semibold underline" onClick={() => setAsking(props.row.id)}>
        {t('register.cancel')}
      </button>
    );
  return (
    <span className="flex items-center gap-2">
      <label className="flex items-center gap-2">
        {t('dialog.reason')}
        <input
          autoFocus
          className="field !min-h-9 !w-64 !py-1"
          value={props.why}
          onChange={(e) => props.setWhy(e.target.value)}
          maxLength={400}
        />
      </label>
      <button
        className="plain !min-h-9 disabled:opacity-50"
        disabled={props.busy || !props.why.trim()}
        onClick={() => void props.onSave('cancelled').then(() => setAsking(undefined))}
      >
        {t('register.cancel')}
      </button>
    </span>
  );
}
