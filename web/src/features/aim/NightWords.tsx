import type { ReactNode } from 'react';
import { say, t } from '../../texts';
import { percent } from './focusWords';
import { chanceWords, figures, lampSays, triedWords, triesAsk, type NightAct, type NightLook, type NightTry } from './nightWords';

/** What the dark does to the picture, why, and what to try first. */
export function NightWords({
  look,
  state,
  tries,
  next,
  mayTry,
  onTried,
  onWalked,
  children,
}: {
  look: NightLook;
  state: NightLook['state'];
  tries: NightTry[];
  next: NightAct[];
  mayTry: boolean;
  onTried: (act: NightAct) => void;
  /** Somebody walks through what its white light watches; undefined: nobody looks through it live. */
  onWalked?: () => void;
  children: ReactNode;
}) {
  const how =
    state === 'veiled'
      ? t('night.how.veiled', percent(look.worst))
      : state === 'soft' || state === 'noise' || state === 'clear'
        ? t(`night.how.${state}`)
        : '';
  const asks = triesAsk(state, next, tries);
  return (
    <div className="flex flex-col gap-1">
      <div role="status" aria-live="polite" data-testid="night-words">
        <p className="text-[2.6rem] leading-[1.1] font-bold max-[599px]:text-[2rem]">
          {t(`night.state.${look.lamp?.isLit && state === 'look' ? 'lamp' : state}`)}
        </p>
        {state === 'veiled' && (
          <p className="flex flex-wrap items-baseline gap-x-2">
            <b className="font-read text-[2rem] leading-tight">{percent(look.share)}</b>
          </p>
        )}
        <p className="text-table">
          {how} {look.why && <b className="text-noted">{say(look.why)}</b>}
        </p>
      </div>
      {look.switch && (
        <p className={`text-table font-semibold ${look.switch.says === 'hunts' ? 'text-refused' : ''}`} data-testid="night-switch">
          {say(look.switch.told)}
        </p>
      )}
      {look.lamp && (
        <section aria-label={t('night.lamp')} className="mt-1 border-y border-dotted border-hairline py-1">
          <h2 className="text-label font-semibold">{t('night.lamp')}</h2>
          <p className="text-table font-semibold" role="status" data-testid="night-lamp">
            {say(look.lamp.told)}
          </p>
          <p className="text-label">{lampSays(look.lamp)}</p>
          {onWalked && (
            <button className="plain mt-1" disabled={!mayTry} onClick={onWalked}>
              {t('night.lamp-walk')}
            </button>
          )}
          <p className="mt-1 text-label text-ink-2">{t('night.lamp-how')}</p>
        </section>
      )}
      {children}
      {look.suspects.length > 0 && (
        <p className="text-table" data-testid="night-suspects">
          {t('night.suspects', look.suspects.map((r) => t(`night.reason.${r}`)).join(', '))}
        </p>
      )}
      {look.reasons.length > 0 && (
        <section aria-label={t('night.reasons')} className="mt-1">
          <h2 className="text-label font-semibold">{t('night.reasons')}</h2>
          <ol>
            {look.reasons.slice(0, 3).map((r) => (
              <li key={r.reason} className="border-b border-dotted border-hairline py-1">
                <span className="flex items-center gap-3">
                  <b className="min-w-0 flex-1">{t(`night.reason.${r.reason}`)}</b>
                  <svg viewBox="0 0 100 8" className="h-2 w-20 shrink-0" preserveAspectRatio="none" aria-hidden>
                    <rect width="100" height="8" className="fill-band" />
                    <rect width={100 * r.chance} height="8" fill="currentColor" />
                  </svg>
                  <span className="w-16 shrink-0 text-right font-read font-bold whitespace-nowrap">{chanceWords(r.chance)}</span>
                </span>
                <span className="block text-label text-ink-2">{r.because.map(say).join(' ')}</span>
              </li>
            ))}
          </ol>
        </section>
      )}
      {tries.length > 0 && (
        <section aria-label={t('night.tried')} className="mt-1">
          <h2 className="text-label font-semibold">{t('night.tried')}</h2>
          <ul data-testid="night-tries">
            {tries.map((tried, i) => (
              <li key={i} className="flex flex-wrap gap-x-3 border-b border-dotted border-hairline py-1">
                <b>{t(`night.act.${tried.act}`)}</b>
                <span className="font-read">{triedWords(tried)}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {asks && (
        <section aria-label={asks} className="mt-1">
          <h2 className="text-label font-semibold">{asks}</h2>
          {state === 'veiled' && <p className="text-label text-ink-2">{t('night.try-how')}</p>}
          <div className="mt-1 flex flex-wrap gap-2">
            {(state === 'veiled' ? next.slice(0, 3) : next).map((act) => (
              <button key={act} className="plain" disabled={!mayTry} onClick={() => onTried(act)}>
                {t(`night.${state === 'veiled' ? 'do' : 'act'}.${act}`)}
              </button>
            ))}
          </div>
        </section>
      )}
      <table className="mt-2 w-full text-table" aria-label={t('night.figures')}>
        <tbody>
          {figures(look).map((f) => (
            <tr key={f.name} className="border-b border-dotted border-hairline">
              <th className="py-0.5 text-left font-normal">{f.name}</th>
              <td className="font-read font-bold whitespace-nowrap">{f.value}</td>
              <td className="pl-2 text-label">{f.means}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-label text-ink-2">{t('night.reach-asks')}</p>
    </div>
  );
}
