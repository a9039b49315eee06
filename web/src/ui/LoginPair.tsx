import { t } from '../texts';
import { Labelled } from './Dialog';

/** User and password of a device: no browser keeps them. */
export function LoginPair({
  user,
  password,
  onChange,
}: {
  user: string;
  password: string;
  onChange: (user: string, password: string) => void;
}) {
  return (
    <>
      <Labelled label={t('login.user')}>
        <input className="field" autoComplete="off" data-1p-ignore value={user} onChange={(e) => onChange(e.target.value, password)} />
      </Labelled>
      <Labelled label={t('login.password')}>
        <input
          className="field"
          type="password"
          autoComplete="new-password"
          data-1p-ignore
          value={password}
          onChange={(e) => onChange(user, e.target.value)}
        />
      </Labelled>
    </>
  );
}
