import { Link, useParams } from '@tanstack/react-router';
import { lazy, Suspense, useState } from 'react';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { DemoNight } from './DemoTurn';
import { HeadLine, HeadPage, type OnHead } from './HeadPage';
import { Kept } from './Kept';
import { NightPicture } from './NightPicture';
import { NightWords } from './NightWords';
import { nightState, STALE_NIGHT_MS } from './nightWords';
import { type Point, useVoice } from './useAim';
import { useHeadWork } from './useHeadWork';
import { FromFile } from './Ways';
import '../pageTexts';
import './aimTexts';
import './nightTexts';

const BesideNight = lazy(() => import('./BesideNight'));

/** What the dark does to a camera's picture, why, and what to try first. */
export default function NightPage() {
  const { deviceId } = useParams({ from: '/night/$deviceId' });
  return <HeadPage deviceId={deviceId} Work={Night} />;
}

function Night(on: OnHead) {
  const { views, head, deviceId } = on;
  const { job } = useJob();
  const hand = useHand();
  const [target, setTarget] = useState<Point>({ x: 0.5, y: 0.6 });
  const { aim, live, age, isOld, isLive, hasPicture, hasName, mayWork, demo, ...work } = useHeadWork('night', on, STALE_NIGHT_MS, target);
  const { keepThis, kept, setKept, isKeeping } = work;
  const look = live?.night?.look ?? undefined;
  const against = live?.night?.against ?? null;
  const [speaks, setSpeaks] = useState(false);
  const [isMapped, setMapped] = useState(true);
  const [isDay, setDay] = useState(false);
  const state = nightState(live, age);
  useVoice(state === 'none' ? '' : t(`night.state.${state}`), state === 'clear', speaks);
  const when = against?.at ? dayAndClock(against.at, job?.timeZone ?? 'UTC') : '';
  const held = !against
    ? say({ code: 'night.no-day', args: [] })
    : against.why
      ? say(against.why)
      : [
          t(against.isFocus ? 'night.against-focus' : 'night.against-agreed', when),
          look?.veil && t(look.sameView === null ? 'night.same-open' : look.sameView ? 'night.same-yes' : 'night.same-no'),
        ]
          .filter(Boolean)
          .join(': ');
  const says = live?.night?.says;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className={`mx-auto max-w-[1440px] pb-8 ${hand ? '' : 'px-6'}`}>
        <HeadLine {...{ ...on, live, age, isOld }} title={t('night.title')} />
        <div className="grid gap-x-8 gap-y-3 min-[900px]:grid-cols-[minmax(0,1.5fr)_minmax(20rem,1fr)] min-[900px]:pt-3">
          <div className="min-w-0">
            <div className={hand ? 'sticky top-0' : ''}>
              <NightPicture
                seen={work.seen}
                look={look}
                byDay={isDay && against ? `/api/cards/${deviceId}/pictures/${against.pictureId}.jpg` : undefined}
                isMapped={isMapped}
                isOld={isOld}
                onTarget={(at) => {
                  setTarget(at);
                  void aim.focus(at);
                }}
              />
            </div>
            {hasPicture && (
              <div className={`mt-2 flex flex-wrap items-center gap-2 ${hand ? 'px-4' : ''}`}>
                {against && !against.why && (
                  <button className="plain" aria-pressed={isDay} onClick={() => setDay(!isDay)}>
                    {t(isDay ? 'night.by-night' : 'night.by-day')}
                  </button>
                )}
                {look?.veil && (
                  <>
                    <button
                      className={`plain ${isMapped ? '!border-2 !border-ink font-bold' : ''}`}
                      aria-pressed={isMapped}
                      onClick={() => setMapped(!isMapped)}
                    >
                      {t('night.map')}
                    </button>
                    {isMapped && (
                      <span className={`text-label text-ink-2 ${hand ? 'w-full' : 'min-w-0 flex-1'}`}>{t('night.map-legend')}</span>
                    )}
                  </>
                )}
              </div>
            )}
            {!hand && demo && <DemoNight label={views.label} head={head.number} hasLight={!!look?.lamp} />}
          </div>
          <div className={`min-w-0 ${hand ? 'px-4' : ''}`}>
            <Trouble text={work.wrong} className="mb-2" />
            {work.elsewhere && <p className="mb-2 text-table font-semibold text-noted">{work.elsewhere}</p>}
            {look && live?.night && state !== 'none' && (
              <NightWords
                look={look}
                state={state}
                tries={live.night.tries}
                next={live.night.next}
                mayTry={mayWork}
                onTried={(act) => void aim.tried(act)}
                onWalked={isLive ? () => void aim.walked() : undefined}
              >
                <p className="text-label text-ink-2">{held}</p>
                <p className="text-label" data-testid="night-says">
                  {says ? t('night.says', t(`choice.night.picture.${says}`)) : t('night.says-none')}
                </p>
              </NightWords>
            )}
            <div className="mt-3 grid grid-cols-2 gap-2">
              {!isLive && (
                <button className="forward col-span-2" disabled={!mayWork} onClick={work.begin}>
                  {t('aim.begin')}
                </button>
              )}
              {hasPicture && (
                <>
                  <button
                    className={`${isLive ? 'forward' : 'plain'} col-span-2 disabled:opacity-40`}
                    disabled={isKeeping || !hasName || isOld}
                    onClick={() => void keepThis(t('night.kept-as'))}
                  >
                    {isKeeping ? t('aim.keeping') : t('night.keep')}
                  </button>
                  <button className="plain" disabled={!mayWork} onClick={() => void aim.focus(target)}>
                    {t('focus.anew')}
                  </button>
                  {isLive && (
                    <button className="plain" aria-pressed={speaks} onClick={() => setSpeaks(!speaks)}>
                      {speaks ? t('aim.speak-off') : t('aim.speak')}
                    </button>
                  )}
                </>
              )}
              {!isLive && <FromFile onFile={(file) => void work.fromFile(file)} isBusy={aim.isBusy} />}
              <Link to="/focus/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
                {t('night.to-focus')}
              </Link>
            </div>
            {hand && demo && <DemoNight label={views.label} head={head.number} hasLight={!!look?.lamp} />}
            {!hasPicture && <p className="mt-2 text-label text-ink-2">{t('night.begin-how')}</p>}
            <Suspense>
              <BesideNight deviceId={deviceId} />
            </Suspense>
            <p className="mt-2 text-label text-ink-2">{t('night.caution')}</p>
          </div>
        </div>
      </div>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} none={t('night.keep-none')} />}
      {work.login}
    </main>
  );
}
