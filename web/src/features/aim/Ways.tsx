import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react';
import { answered, api } from '../../api/client';
import { useDemo } from '../../api/queries';
import { say, t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { LoginPair } from '../../ui/LoginPair';
import { Trouble } from '../../ui/Trouble';
import type { Login } from './useAim';
import type { Live } from './words';

/** A login lives as long as the page does, whether a camera is aimed or focused. */
const logins = new Map<string, Login>();

/** Looks through a camera: by the login that it was told before, and asks for one where it wants one. */
export function useLook(
  deviceId: string,
  label: string,
  live: Live | undefined,
  begin: (login: Login | null) => Promise<unknown>,
): { look: () => void; wantsLogin: boolean; sheet: ReactNode } {
  const isDemo = !!useDemo().data?.demo;
  const [asks, setAsks] = useState(false);
  const wantsLogin = live?.wantsLogin ?? false;
  useEffect(() => {
    if (wantsLogin) setAsks(true);
  }, [wantsLogin]);
  return {
    look: () => void begin(logins.get(deviceId) ?? null),
    wantsLogin,
    sheet: asks && (
      <LoginSheet
        label={label}
        isDemo={isDemo}
        why={live?.trouble ? say(live.trouble) : ''}
        onClose={() => setAsks(false)}
        onLogin={(login) => {
          logins.set(deviceId, login);
          setAsks(false);
          void begin(login);
        }}
      />
    ),
  };
}

const MonitorSheet = lazy(() => import('./MonitorSheet'));

/** A photograph of a monitor that shows the camera's picture: laid flat by its four corners. */
export function FromMonitor({ onFile, isBusy }: { onFile: (file: File, corners: string) => Promise<string>; isBusy: boolean }) {
  const [photo, setPhoto] = useState<File>();
  return (
    <>
      <FromFile onFile={setPhoto} isBusy={isBusy} word="aim.by-monitor" testId="aim-monitor" />
      {photo && (
        <Suspense>
          <MonitorSheet
            file={photo}
            onClose={() => setPhoto(undefined)}
            onCorners={async (corners) => {
              const why = await onFile(photo, corners);
              if (!why) setPhoto(undefined);
              return why;
            }}
          />
        </Suspense>
      )}
    </>
  );
}

/** A picture from a file. */
export function FromFile({
  onFile,
  isBusy,
  word = 'aim.file',
  testId = 'aim-file',
}: {
  onFile: (file: File) => void;
  isBusy: boolean;
  word?: string;
  testId?: string;
}) {
  return (
    <label className="plain inline-flex cursor-pointer items-center justify-center">
      {t(word)}
      <input
        type="file"
        accept="image/jpeg,image/png"
        className="sr-only"
        disabled={isBusy}
        data-testid={testId}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </label>
  );
}

/** The login of one camera; it is not kept. */
function LoginSheet({
  label,
  isDemo,
  why,
  onClose,
  onLogin,
}: {
  label: string;
  isDemo: boolean;
  why: string;
  onClose: () => void;
  onLogin: (login: Login) => void;
}) {
  const [user, setUser] = useState('');
  const [password, setPassword] = useState('');
  const fill = async () => {
    const told = (await answered(api.POST('/api/demo/logins'))) as unknown as { own: (Login & { at: string })[] };
    const own = told.own.find((l) => l.at === label);
    if (!own) return;
    setUser(own.user);
    setPassword(own.password);
  };
  return (
    <Sheet title={t('aim.login')} hint={t('aim.login-how')} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onLogin({ user: user.trim(), password });
        }}
      >
        <Trouble text={why} className="mt-2" />
        <LoginPair
          user={user}
          password={password}
          onChange={(u, p) => {
            setUser(u);
            setPassword(p);
          }}
        />
        {isDemo && (
          <button type="button" className="min-h-11 text-label font-semibold underline" onClick={() => void fill()}>
            {t('aim.login-demo')}
          </button>
        )}
        <button className="forward mt-3 w-full" disabled={!user.trim()}>
          {t('aim.login-go')}
        </button>
      </form>
    </Sheet>
  );
}
