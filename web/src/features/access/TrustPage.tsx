import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { t } from '../../texts';
import { Fingerprint } from '../../ui/Fingerprint';
import { Radios } from '../../ui/Radios';
import { Waiting } from '../walk/WalkPage';
import './accessTexts';
import { day } from '../../ui/format';

type System = 'iphone' | 'android' | 'computer';

const systemOf = (agent: string): System =>
  /iPhone|iPad|iPod/.test(agent) || (/Macintosh/.test(agent) && navigator.maxTouchPoints > 1)
    ? 'iphone'
    : /Android/.test(agent)
      ? 'android'
      : 'computer';

/** A phone on its first visit: what it is to trust, how that is compared, and the way to do it on its system. */
export default function TrustPage() {
  const trust = useQuery({ queryKey: ['trust'], queryFn: () => answered(api.GET('/api/trust')) });
  // The code on the screen names what is to be trusted; another one is somebody between this phone and the installation.
  const [scanned] = useState(() => window.location.hash.slice(1).toUpperCase());
  const [system, setSystem] = useState(() => systemOf(navigator.userAgent));
  if (!trust.data) return <Waiting error={trust.error} again={() => void trust.refetch()} />;
  const other = /^[0-9A-F]{64}$/.test(scanned) && scanned !== trust.data.fingerprint;
  const steps = t(`trust.steps.${system}`).split('\n');
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-6 max-sm:px-4">
      <div className="mx-auto max-w-[560px]">
        <h1 className="text-title font-bold">{t('trust.title')}</h1>
        {other ? (
          <p role="alert" className="mt-4 border-l-4 border-refused pl-3 font-bold text-refused">
            {t('trust.other')}
          </p>
        ) : trust.data.isGiven ? (
          <p className="mt-3">{t('trust.given')}</p>
        ) : (
          <>
            <p className="mt-1 text-ink-2">{t('trust.why')}</p>
            <Radios label={t('trust.system')} className="mt-5 flex border-t border-ink">
              {(['iphone', 'android', 'computer'] as const).map((s) => (
                <button
                  key={s}
                  role="radio"
                  aria-checked={s === system}
                  className={`min-h-11 flex-1 border-b-2 px-2 ${s === system ? 'border-ink font-bold' : 'border-transparent text-ink-2'}`}
                  onClick={() => setSystem(s)}
                >
                  {t(`trust.${s}`)}
                </button>
              ))}
            </Radios>
            <ol className="mt-3 list-decimal pl-6">
              {steps.map((step, n) => (
                <li key={n} className="border-b border-hairline py-2 pl-1">
                  {step}
                </li>
              ))}
            </ol>
            <a
              className="forward mt-5 inline-flex items-center"
              href={`/api/trust/authority.${system === 'iphone' ? 'mobileconfig' : 'crt'}`}
              download={system === 'iphone' ? undefined : 'walkdown-authority.crt'}
            >
              {t('trust.fetch')}
            </a>
            <h2 className="mt-8 border-t border-ink pt-2 text-lead font-bold">{t('trust.compare')}</h2>
            <p className="text-label text-ink-2">{t('trust.compare-hint')}</p>
            <p className="mt-2 font-semibold">{trust.data.name}</p>
            <Fingerprint of={trust.data.fingerprint} />
            <p className="mt-1 text-label text-ink-2">{t('trust.until', day(trust.data.until.slice(0, 10)))}</p>
          </>
        )}
        {!other && (
          <a className="mt-6 flex min-h-11 items-center font-semibold underline" href="/">
            {t('trust.go-on')}
          </a>
        )}
      </div>
    </main>
  );
}
