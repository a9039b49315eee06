import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { AccessAnswer } from '../../api/types';
import { send, useOutbox } from '../../outbox/outbox';
import { someoneElse } from '../../session/access';
import { t } from '../../texts';
import { Brand } from '../../ui/Marks';
import './accessTexts';
import { PassphraseField, ShowIt, TakeOver, UserNameField } from './Fields';
import { canPasskey, signInByPasskey } from './passkeys';
import { Trouble } from '../../ui/Trouble';

/** The door, seen from outside: a passkey, a name with its passphrase, a short code where this browser is shared, or an invitation. */
export default function SignIn({ access }: { access: AccessAnswer }) {
  const client = useQueryClient();
  const waiting = useOutbox().filter((item) => !item.refused).length;
  const [userName, setUserName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [shown, setShown] = useState(false);
  const [byCode, setByCode] = useState(access.here.length > 0);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), [byCode]);
  const enter = async (how: () => Promise<unknown>) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await how();
      setPassphrase('');
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
  return (
    <main className="fixed inset-0 z-50 overflow-y-auto bg-paper px-6 py-8 max-sm:px-4">
      <div className="mx-auto max-w-[440px]">
        <p className="flex items-center gap-2 font-bold">
          <Brand /> {t('brand')}
        </p>
        <h1 className="mt-8 text-title font-bold">{t('access.sign-in')}</h1>
        <p className="text-ink-2">{t(access.isHere ? 'access.hint-here' : 'access.hint')}</p>
        {waiting > 0 && <p className="mt-2 border-l-4 border-noted pl-3 font-semibold">{t('access.outbox', waiting)}</p>}
        {byCode && access.here.length > 0 ? (
          <div className="mt-5 border-t border-ink pt-4">
            <TakeOver here={access.here} label={t('access.who')} busy={busy} enter={(how) => void enter(how)} ref={first}>
              <button type="button" className="min-h-11 font-semibold underline" onClick={() => setByCode(false)}>
                {t('access.with-passphrase')}
              </button>
            </TakeOver>
          </div>
        ) : (
          <form className="mt-5 border-t border-ink pt-4" onSubmit={byPassphrase}>
            {access.passkeys && canPasskey() && (
              <button type="button" className="plain mb-4 w-full" disabled={busy} onClick={() => void enter(signInByPasskey)}>
                {t('access.passkey')}
              </button>
            )}
            <UserNameField value={userName} onChange={setUserName} ref={first} />
            <PassphraseField value={passphrase} onChange={setPassphrase} shown={shown} />
            <div className="flex flex-wrap items-center gap-4">
              <button className="forward" disabled={busy || !userName || !passphrase}>
                {t(busy ? 'access.entering' : 'access.enter')}
              </button>
              <ShowIt shown={shown} onChange={setShown} className="min-h-11" />
              {access.here.length > 0 && (
                <button type="button" className="min-h-11 font-semibold underline" onClick={() => setByCode(true)}>
                  {t('access.with-code')}
                </button>
              )}
            </div>
          </form>
        )}
        <Trouble text={trouble} className="mt-4" />
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
