import { type CSSProperties, useState } from 'react';
import { answered, api } from '../../api/client';
import { useDemo } from '../../api/queries';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { LoginPair } from '../../ui/LoginPair';
import { Trouble } from '../../ui/Trouble';
import { type FoundBy, type GivenLogin, type NetworkLedger, readLogins } from './ledger';

/** What a person gives for the work at the network. It stays in this page's memory until it is forgotten or the page is left. */
export interface Given {
  logins: GivenLogin[];
  factory: GivenLogin | null;
}

export const nothingGiven: Given = { logins: [], factory: null };

/** Logins, typed or pasted. */
export function LoginFields({ given, onChange }: { given: Given; onChange: (given: Given) => void }) {
  const forAll = given.logins.find((l) => !l.at);
  const [text, setText] = useState('');
  const { logins, unread } = readLogins(text);
  const each = text ? logins : given.logins.filter((l) => l.at);
  const demo = useDemo().data?.demo;
  const fill = async () => {
    const told = (await answered(api.POST('/api/demo/logins'))) as unknown as { own: GivenLogin[]; factory: GivenLogin };
    setText(told.own.map((l) => `${l.at},${l.user},${l.password}`).join('\n'));
    onChange({ logins: told.own, factory: { at: '', user: told.factory.user, password: told.factory.password } });
  };
  const all = (user: string, password: string) => (user || password ? [{ at: '', user, password }] : []);
  const change = (user: string, password: string, own: GivenLogin[]) => onChange({ ...given, logins: [...all(user, password), ...own] });
  return (
    <fieldset className="mt-2 border-t border-hairline pt-2">
      <legend className="pr-3 font-semibold">{t('address.login')}</legend>
      <p className="text-label text-ink-2">{t('address.login.hint')}</p>
      <div className="mt-1 grid grid-cols-2 gap-x-4">
        <LoginPair
          user={forAll?.user ?? ''}
          password={forAll?.password ?? ''}
          onChange={(user, password) => change(user, password, each)}
        />
      </div>
      <Labelled label={t('address.login.list')}>
        <textarea
          className="field font-read"
          rows={3}
          style={{ WebkitTextSecurity: 'disc' } as CSSProperties}
          autoComplete="off"
          spellCheck={false}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            change(forAll?.user ?? '', forAll?.password ?? '', readLogins(e.target.value).logins);
          }}
        />
      </Labelled>
      {demo && (
        <button type="button" className="min-h-11 text-label font-semibold underline" onClick={() => void fill()}>
          {t('address.login.demo')}
        </button>
      )}
      {each.length > 0 && <p className="text-label">{t('address.login.count', each.length)}</p>}
      <Trouble text={unread.length > 0 ? t('address.login.unread', unread.join(', ')) : undefined} className="mt-1" />
    </fieldset>
  );
}

/** A way to look for devices, or the question who gives addresses. */
export type Way = FoundBy | 'leases';
const ways: Way[] = ['search', 'searchAgain', 'rangeScan', 'otherNetwork', 'byHand', 'leases'];

/** Which way to look, with which login; a range is asked only where somebody says that he may. */
export function LookSheet({
  ledger,
  given,
  onGiven,
  onLook,
  onAnew,
  onClose,
}: {
  ledger: NetworkLedger;
  given: Given;
  onGiven: (given: Given) => void;
  onLook: (way: Way, names: { address: string; port: number; path: string; tls: boolean }[]) => void;
  /** Where something was found already: it counts no more. */
  onAnew?: () => void;
  onClose: () => void;
}) {
  const [way, setWay] = useState<Way>(ledger.next ?? 'search');
  const [may, setMay] = useState(false);
  const [address, setAddress] = useState('');
  const [port, setPort] = useState('');
  const [path, setPath] = useState('');
  const [tls, setTls] = useState(false);
  const asks = way === 'rangeScan' ? ledger.rangeSize : way === 'otherNetwork' ? (ledger.plan?.factory.length ?? 0) : 0;
  return (
    <Sheet title={t('address.look')} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onLook(way, way === 'byHand' ? [{ address: address.trim(), port: Number(port) || 0, path: path.trim(), tls }] : []);
        }}
      >
        <div role="radiogroup" aria-label={t('address.look')} className="mt-2 grid">
          {ways.map((w) => (
            <label key={w} className="flex min-h-11 items-center gap-3">
              <input type="radio" name="way" className="h-5 w-5 accent-ink" checked={way === w} onChange={() => setWay(w)} />
              {t(`address.look.${w}`)}
              {ledger.next === w && <span className="text-label text-ink-2">{t('address.next')}</span>}
            </label>
          ))}
        </div>
        {asks > 0 && (
          <label className="flex min-h-11 items-center gap-3 font-semibold">
            <input type="checkbox" className="h-5 w-5 shrink-0 accent-ink" checked={may} onChange={(e) => setMay(e.target.checked)} />
            {t('address.look.confirm', asks, way === 'rangeScan' ? (ledger.plan?.subnet ?? '') : (ledger.plan?.factory.join(' ') ?? ''))}
          </label>
        )}
        {way === 'byHand' && (
          <div className="grid grid-cols-[1.4fr_.7fr_1.4fr] gap-x-3">
            <Labelled label={t('address.found')}>
              <input className="field font-read" value={address} maxLength={40} onChange={(e) => setAddress(e.target.value)} />
            </Labelled>
            <Labelled label={t('address.port')}>
              <input className="field font-read" inputMode="numeric" value={port} maxLength={5} onChange={(e) => setPort(e.target.value)} />
            </Labelled>
            <Labelled label={t('address.path')}>
              <input className="field font-read" value={path} maxLength={200} onChange={(e) => setPath(e.target.value)} />
            </Labelled>
            <label className="flex min-h-11 items-center gap-3">
              <input type="checkbox" className="h-5 w-5 accent-ink" checked={tls} onChange={(e) => setTls(e.target.checked)} />
              {t('address.tls')}
            </label>
          </div>
        )}
        {way === 'leases' ? (
          <p className="text-label text-ink-2">{t('address.look.leases-hint')}</p>
        ) : (
          <LoginFields given={given} onChange={onGiven} />
        )}
        <div className="mt-3 flex flex-wrap items-center gap-x-5">
          <button className="forward disabled:opacity-40" disabled={(asks > 0 && !may) || (way === 'byHand' && !address.trim())}>
            {t(`address.look.${way}`)}
          </button>
          {onAnew && (
            <button type="button" className="min-h-11 text-label font-semibold underline" title={t('address.anew-hint')} onClick={onAnew}>
              {t('address.anew')}
            </button>
          )}
          {(given.logins.length > 0 || given.factory) && (
            <button type="button" className="min-h-11 text-label font-semibold underline" onClick={() => onGiven(nothingGiven)}>
              {t('address.forget')}
            </button>
          )}
        </div>
      </form>
    </Sheet>
  );
}

/** The factory's login, which must be refused, and the job's, which must open. */
export function TrialSheet({
  given,
  title,
  go,
  withOwn,
  hint,
  onGiven,
  onGo,
  onClose,
}: {
  given: Given;
  title: string;
  go: string;
  withOwn: boolean;
  hint: string;
  onGiven: (given: Given) => void;
  onGo: () => void;
  onClose: () => void;
}) {
  const factory = given.factory ?? { at: '', user: '', password: '' };
  const change = (part: Partial<GivenLogin>) => onGiven({ ...given, factory: { ...factory, ...part } });
  return (
    <Sheet title={title} hint={hint} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onGo();
        }}
      >
        <fieldset className="mt-2">
          <legend className="font-semibold">{t('address.trial.factory')}</legend>
          <div className="mt-1 grid grid-cols-2 gap-x-4">
            <LoginPair user={factory.user} password={factory.password} onChange={(user, password) => change({ user, password })} />
          </div>
        </fieldset>
        {withOwn && <LoginFields given={given} onChange={onGiven} />}
        <button className="forward mt-3 disabled:opacity-40" disabled={!factory.user && (!withOwn || given.logins.length === 0)}>
          {go}
        </button>
      </form>
    </Sheet>
  );
}
