import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { AccessAnswer } from '../../api/types';
import { send, useOutbox } from '../../outbox/outbox';
import { someoneElse } from '../../session/access';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Brand } from '../../ui/Marks';
import './accessTexts';
import { canPasskey, signInByPasskey } from './passkeys';

/** The door, seen from outside: a passkey, a name with its passphrase, a short code where this browser is shared, or an invitation. */
export default function SignIn({ access }: { access: AccessAnswer }) {
  const client = useQueryClient();
  const waiting = useOutbox().filter((item) => !item.refused).length;
  const [userName, setUserName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [shown, setShown] = useState(false);
  const [short, setShort] = useState<string | undefined>(access.here[0]?.id);
  const [code, setCode] = useState('');
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), [short]);
  const enter = async (how: () => Promise<unknown>) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await how();
      setPassphrase('');
      setCode('');
      await someoneElse(client);
      void send();
    } catch (error) {
      setTrouble(error instanceof DOMException || (error instanceof Error && !error.message) ? t('access.passkey-none') : troubleOf(error));
      setBusy(false);
    }
  };
  const byPassphrase = (event: FormEvent) => {
    event.preventDefault();
    void enter(() => answered(api.POST('/api/access/sign-in', { body: { userName, passphrase } })));
  };
  const byCode = (event: FormEvent) => {
    event.preventDefault();
    void enter(() => answered(api.POST('/api/access/switch', { body: { accountId: short!, code } })));
  };
  return (
    <main className="fixed inset-0 z-50 overflow-y-auto bg-paper px-6 py-8 max-sm:px-4">
      <div className="mx-auto max-w-[440px]">
        <p className="flex items-center gap-2 font-bold">
          <Brand /> {t('brand')}
        </p>
        <h1 className="mt-8 text-title font-bold">{t('access.sign-in')}</h1>
        <p className="text-ink-2">{t(access.isHere ? 'access.hint-here' : 'access.hint')}</p>
        {waiting > 0 && <p className="mt-2 border-l-4 border-noted pl-3 font-semibold">{t('access.outbox', waiting)}</p>}
        {short ? (
          <form className="mt-5 border-t border-ink pt-4" onSubmit={byCode}>
            <Labelled label={t('access.who')}>
              <select className="field" value={short} onChange={(e) => setShort(e.target.value)}>
                {access.here.map((h) => (
                  <option key={h.id} value={h.id}>
                    {h.name}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled label={t('access.short-code')}>
              <input
                ref={first}
                className="field font-read text-lead"
                type="password"
                inputMode="numeric"
                autoComplete="off"
                maxLength={12}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            </Labelled>
            <div className="flex flex-wrap items-center gap-4">
              <button className="forward" disabled={busy || code.length < 6}>
                {t('access.enter')}
              </button>
              <button type="button" className="min-h-11 font-semibold underline" onClick={() => setShort(undefined)}>
                {t('access.with-passphrase')}
              </button>
            </div>
          </form>
        ) : (
          <form className="mt-5 border-t border-ink pt-4" onSubmit={byPassphrase}>
            {access.passkeys && canPasskey() && (
              <button type="button" className="plain mb-4 w-full" disabled={busy} onClick={() => void enter(signInByPasskey)}>
                {t('access.passkey')}
              </button>
            )}
            <Labelled label={t('access.user-name')}>
              <input
                ref={first}
                className="field"
                autoComplete="username"
                autoCapitalize="none"
                spellCheck={false}
                maxLength={60}
                value={userName}
                onChange={(e) => setUserName(e.target.value)}
              />
            </Labelled>
            <Labelled label={t('access.passphrase')}>
              <input
                className="field"
                type={shown ? 'text' : 'password'}
                autoComplete="current-password"
                maxLength={256}
                value={passphrase}
                onChange={(e) => setPassphrase(e.target.value)}
              />
            </Labelled>
            <div className="flex flex-wrap items-center gap-4">
              <button className="forward" disabled={busy || !userName || !passphrase}>
                {t(busy ? 'access.entering' : 'access.enter')}
              </button>
              <button type="button" className="min-h-11 font-semibold underline" aria-pressed={shown} onClick={() => setShown(!shown)}>
                {t(shown ? 'access.hide' : 'access.show')}
              </button>
              {access.here.length > 0 && (
                <button type="button" className="min-h-11 font-semibold underline" onClick={() => setShort(access.here[0].id)}>
                  {t('access.with-code')}
                </button>
              )}
            </div>
          </form>
        )}
        {trouble && (
          <p role="alert" className="mt-4 font-semibold text-refused">
            {trouble}
          </p>
        )}
        <p className="mt-8 flex flex-wrap gap-x-6 border-t border-hairline pt-3">
          <a className="flex min-h-11 items-center font-semibold underline" href="/join">
            {t('access.have-invitation')}
          </a>
          {!access.isHere && (
            <a className="flex min-h-11 items-center font-semibold underline" href="/trust">
              {t('access.trust-phone')}
            </a>
          )}
        </p>
      </div>
    </main>
  );
}
