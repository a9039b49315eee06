import { useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { accepted, answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import { useOutbox } from '../../outbox/outbox';
import { someoneElseAnew, useAccess } from '../../session/access';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { moment } from '../../ui/format';
import { Waiting } from '../walk/WalkPage';
import './accessTexts';
import { canPasskey, makePasskey } from './passkeys';
import { NewPassphraseField, PassphraseField, ShortCodeField } from './Fields';
import { SessionList } from './SessionList';

/** What somebody can do about himself: signing out, passphrase, passkeys, the short code of a shared tablet, his sessions. */
export default function MePage() {
  const access = useAccess();
  const { job } = useJob();
  const waiting = useOutbox().filter((item) => !item.refused).length;
  const mine = useQuery({ queryKey: ['me'], queryFn: () => answered(api.GET('/api/access/me')) });
  const [old, setOld] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [proof, setProof] = useState('');
  const [code, setCode] = useState('');
  const [said, setSaid] = useState<{ text: string; bad?: boolean }>();
  if (!access.data || !mine.data) return <Waiting error={access.error ?? mine.error} again={() => void mine.refetch()} />;
  const me = access.data.me;
  const zone = job?.timeZone ?? 'UTC';
  const act = async (work: () => Promise<void>, text: string) => {
    try {
      await work();
      setSaid({ text });
      void mine.refetch();
      void access.refetch();
      return true;
    } catch (error) {
      setSaid({ text: error instanceof DOMException ? t('access.passkey-none') : troubleOf(error), bad: true });
      return false;
    }
  };
  const signOut = async () => {
    await api.POST('/api/access/sign-out').catch(() => undefined);
    await someoneElseAnew();
  };
  if (!me)
    return (
      <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
        <h1 className="text-title font-bold">{t('access.me')}</h1>
        <p className="mt-2">{t(access.data.isDemo ? 'access.demo' : 'access.alone')}</p>
      </main>
    );
  const changePassphrase = async (event: FormEvent) => {
    event.preventDefault();
    const ok = await act(() => accepted(api.PUT('/api/access/passphrase', { body: { old, passphrase } })), t('access.passphrase-changed'));
    if (!ok) return;
    setOld('');
    setPassphrase('');
  };
  const setShort = async (event: FormEvent) => {
    event.preventDefault();
    const ok = await act(() => accepted(api.PUT('/api/access/code', { body: { passphrase: proof, code } })), t('access.code-set'));
    if (!ok) return;
    setProof('');
    setCode('');
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-2">
        <div>
          <h1 className="text-title font-bold">{me.name}</h1>
          <p className="text-ink-2">
            <span className="font-read">{me.userName}</span>, {me.roles.map((role) => t(`role.${role}`)).join(', ')}
          </p>
        </div>
        <button className="plain" onClick={() => void signOut()}>
          {t('access.sign-out')}
        </button>
      </div>
      {waiting > 0 && <p className="mt-2 border-l-4 border-noted pl-3 font-semibold">{t('access.outbox', waiting)}</p>}
      {said && (
        <p role={said.bad ? 'alert' : 'status'} className={`mt-3 font-semibold ${said.bad ? 'text-refused' : ''}`}>
          {said.text}
        </p>
      )}
      <div className="mt-5 grid grid-cols-1 gap-x-10 gap-y-8 min-[1000px]:grid-cols-2">
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.sessions-mine')}</h2>
          <SessionList
            sessions={mine.data.sessions}
            zone={zone}
            onEnded={() => {
              void mine.refetch();
              void access.refetch();
            }}
          />
        </section>
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.passkeys')}</h2>
          <ul>
            {mine.data.passkeys.map((p) => (
              <li key={p.id} className="flex min-h-12 items-center justify-between gap-4 border-b border-hairline">
                <span>
                  <span className="font-semibold">{p.name}</span> <span className="text-label text-ink-2">{moment(p.madeAt, zone)}</span>
                </span>
                <button
                  className="min-h-11 text-label font-semibold underline"
                  onClick={() =>
                    void act(
                      () => accepted(api.DELETE('/api/access/passkeys/{id}', { params: { path: { id: p.id } } })),
                      t('access.passkey-gone'),
                    )
                  }
                >
                  {t('access.remove')}
                </button>
              </li>
            ))}
          </ul>
          {access.data.passkeys && canPasskey() ? (
            <button className="plain mt-3" onClick={() => void act(() => makePasskey(''), t('access.passkey-made'))}>
              {t('access.passkey-make')}
            </button>
          ) : (
            <p className="py-3 text-label text-ink-2">{t('access.passkey-cannot')}</p>
          )}
        </section>
        <form onSubmit={changePassphrase}>
          <h2 className="mb-3 border-t border-ink pt-2 text-lead font-bold">{t('access.passphrase')}</h2>
          <PassphraseField value={old} onChange={setOld} label={t('access.old-passphrase')} />
          <NewPassphraseField value={passphrase} onChange={setPassphrase} />
          <button className="plain" disabled={!old || !passphrase}>
            {t('access.change-passphrase')}
          </button>
        </form>
        <form onSubmit={setShort}>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.short-code')}</h2>
          <p className="mb-3 text-label text-ink-2">{t('access.short-code-hint')}</p>
          <ShortCodeField value={code} onChange={setCode} label={t('access.short-code-new')} />
          <PassphraseField value={proof} onChange={setProof} label={t('access.old-passphrase')} />
          <button className="plain" disabled={code.length < 6 || !proof}>
            {t('access.short-code-set')}
          </button>
        </form>
      </div>
    </main>
  );
}
