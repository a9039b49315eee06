import { useState, type ReactNode, type Ref } from 'react';
import { answered, api } from '../../api/client';
import type { AccessAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';

interface Field {
  value: string;
  onChange: (value: string) => void;
  label?: string;
  ref?: Ref<HTMLInputElement>;
}

/** The name that somebody signs in by. */
export const UserNameField = ({ value, onChange, label, ref }: Field) => (
  <Labelled label={label ?? t('access.user-name')}>
    <input
      ref={ref}
      className="field"
      autoComplete="username"
      autoCapitalize="none"
      spellCheck={false}
      maxLength={60}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  </Labelled>
);

/** The passphrase that somebody has. */
export const PassphraseField = ({ value, onChange, label, shown }: Field & { shown?: boolean }) => (
  <Labelled label={label ?? t('access.passphrase')}>
    <input
      className="field"
      type={shown ? 'text' : 'password'}
      autoComplete="current-password"
      maxLength={256}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  </Labelled>
);

export const ShowIt = ({ shown, onChange, className }: { shown: boolean; onChange: (shown: boolean) => void; className: string }) => (
  <button type="button" className={`${className} font-semibold underline`} aria-pressed={shown} onClick={() => onChange(!shown)}>
    {t(shown ? 'access.hide' : 'access.show')}
  </button>
);

/** A passphrase to be: what makes one is said beforehand. */
export function NewPassphraseField({ value, onChange }: Field) {
  const [shown, setShown] = useState(false);
  return (
    <>
      <Labelled label={t('access.new-passphrase')}>
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
        {t('access.passphrase-hint')} <ShowIt shown={shown} onChange={setShown} className="min-h-6 max-sm:block max-sm:min-h-11" />
      </p>
    </>
  );
}

/** Digits for a shared browser. */
export const ShortCodeField = ({ value, onChange, label, ref }: Field) => (
  <Labelled label={label ?? t('access.short-code')}>
    <input
      ref={ref}
      className="field font-read"
      type="password"
      inputMode="numeric"
      autoComplete="off"
      maxLength={12}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  </Labelled>
);

/** Somebody who signed in on this browser before takes it over by his short code. */
export function TakeOver({
  here,
  label,
  busy,
  enter,
  ref,
  children,
}: {
  here: AccessAnswer['here'];
  label: string;
  busy?: boolean;
  /** Does what it is given, and says what went wrong with it. */
  enter: (how: () => Promise<unknown>) => void;
  ref?: Ref<HTMLInputElement>;
  children?: ReactNode;
}) {
  const [who, setWho] = useState(here[0].id);
  const [code, setCode] = useState('');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        setCode('');
        enter(() => answered(api.POST('/api/access/switch', { body: { accountId: who, code } })));
      }}
    >
      <Labelled label={label}>
        <select className="field" value={who} onChange={(e) => setWho(e.target.value)}>
          {here.map((h) => (
            <option key={h.id} value={h.id}>
              {h.name}
            </option>
          ))}
        </select>
      </Labelled>
      <ShortCodeField value={code} onChange={setCode} ref={ref} />
      <div className="flex flex-wrap items-center gap-4">
        <button className="forward" disabled={busy || code.length < 6}>
          {t('access.enter')}
        </button>
        {children}
      </div>
    </form>
  );
}
