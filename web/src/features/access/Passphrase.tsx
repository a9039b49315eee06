import { useState } from 'react';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';

/** A new passphrase: seen while it is typed, if wished, and what makes one said beforehand. */
export function NewPassphrase({ value, onChange, label }: { value: string; onChange: (value: string) => void; label?: string }) {
  const [shown, setShown] = useState(false);
  return (
    <>
      <Labelled label={label ?? t('access.new-passphrase')}>
        <input
          className="field"
          type={shown ? 'text' : 'password'}
          autoComplete="new-password"
          maxLength={256}
          value={value}
          aria-describedby="passphrase-hint"
          onChange={(e) => onChange(e.target.value)}
        />
      </Labelled>
      <p id="passphrase-hint" className="-mt-2 mb-3 text-label text-ink-2">
        {t('access.passphrase-hint')}{' '}
        <button
          type="button"
          className="min-h-6 font-semibold underline max-sm:min-h-11"
          aria-pressed={shown}
          onClick={() => setShown(!shown)}
        >
          {t(shown ? 'access.hide' : 'access.show')}
        </button>
      </p>
    </>
  );
}
