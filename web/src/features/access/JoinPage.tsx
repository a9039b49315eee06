import { useEffect, useState, type FormEvent } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import { someoneElseAnew } from '../../session/access';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import './accessTexts';
import { NewPassphraseField, UserNameField } from './Fields';
import { Trouble } from '../../ui/Trouble';

interface Invited {
  name: string;
  roles: string[];
  needsName: boolean;
}

/** An invitation in hand: the code, then a name to sign in by and a passphrase. */
export default function JoinPage() {
  // What stands after # is sent to nobody.
  const [code, setCode] = useState(() => decodeURIComponent(window.location.hash.slice(1)));
  const [invited, setInvited] = useState<Invited>();
  const [userName, setUserName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const act = async (work: () => Promise<void>) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await work();
    } catch (error) {
      setTrouble(troubleOf(error));
    }
    setBusy(false);
  };
  const look = () => act(async () => setInvited(await answered(api.POST('/api/access/invited', { body: { code } }))));
  useEffect(() => {
    if (!code) return;
    history.replaceState(history.state, '', window.location.pathname);
    void look();
    // Once, for the code that came with the address.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const join = (event: FormEvent) => {
    event.preventDefault();
    void act(async () => {
      await answered(api.POST('/api/access/join', { body: { code, userName, passphrase } }));
      await someoneElseAnew();
    });
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-8 max-sm:px-4">
      <div className="mx-auto max-w-[440px]">
        <h1 className="text-title font-bold">{t('access.join')}</h1>
        {!invited ? (
          <form
            className="mt-4 border-t border-ink pt-4"
            onSubmit={(event) => {
              event.preventDefault();
              void look();
            }}
          >
            <Labelled label={t('access.code')}>
              <input
                className="field font-read text-lead uppercase"
                autoComplete="one-time-code"
                autoCapitalize="characters"
                spellCheck={false}
                maxLength={14}
                value={code}
                onChange={(e) => setCode(e.target.value)}
              />
            </Labelled>
            <p className="-mt-2 mb-3 text-label text-ink-2">{t('access.code-hint')}</p>
            <button className="forward" disabled={busy || !code.trim()}>
              {t('access.look')}
            </button>
          </form>
        ) : (
          <form className="mt-4 border-t border-ink pt-4" onSubmit={join}>
            <p className="mb-4">
              {t('access.you-are', invited.name)}{' '}
              <span className="text-ink-2">{invited.roles.map((role) => t(`role.${role}`)).join(', ')}</span>
            </p>
            {invited.needsName && <UserNameField value={userName} onChange={setUserName} label={t('access.user-name-new')} />}
            <NewPassphraseField value={passphrase} onChange={setPassphrase} />
            <button className="forward" disabled={busy || (invited.needsName && !userName) || !passphrase}>
              {t(busy ? 'access.entering' : 'access.come-in')}
            </button>
          </form>
        )}
        <Trouble text={trouble} className="mt-4" />
      </div>
    </main>
  );
}
