import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { DemoRing } from './DemoTurn';
import { FocusPicture } from './FocusPicture';
import { FocusWords } from './FocusWords';
import { againstWords, focusSentence, focusState, STALE_FOCUS_MS } from './focusWords';
import { HeadLine, HeadPage, type OnHead } from './HeadPage';
import { Kept } from './Kept';
import { Motor } from './Motor';
import { type Point, useVoice } from './useAim';
import { useHeadWork } from './useHeadWork';
import { FromFile } from './Ways';
import '../pageTexts';
import './aimTexts';

/** How sharp a camera sees, told by its own pictures while its ring is turned. */
export default function FocusPage() {
  const { deviceId } = useParams({ from: '/focus/$deviceId' });
  return <HeadPage deviceId={deviceId} Work={Focus} />;
}

function Focus(on: OnHead) {
  const { views, head, deviceId } = on;
  const { job } = useJob();
  const hand = useHand();
  const [target, setTarget] = useState<Point>({ x: 0.5, y: 0.5 });
  const { aim, live, age, isOld, isLive, hasPicture, hasName, mayWork, demo, ...work } = useHeadWork('focus', on, STALE_FOCUS_MS, target);
  const { keepThis, kept, setKept, isKeeping } = work;
  const look = live?.focus?.look ?? undefined;
  const against = live?.focus?.against ?? null;
  const [speaks, setSpeaks] = useState(false);
  const [covered, setCovered] = useState<boolean>();
  const state = focusState(live, age);
  useVoice(focusSentence(live, age), state === 'stop', speaks);
  const moveTarget = (at: Point) => {
    setTarget(at);
    void aim.focus(at);
  };
  const says = live?.focus?.says;
  // What has no cover need not be told how that is.
  const hasCover = live?.focus?.hasCover ?? false;
  const isSaid = !hasCover || covered !== undefined;
  const when = against && dayAndClock(against.at, job?.timeZone ?? 'UTC');
  const held = !against ? t('focus.against-none') : against.why ? say(against.why) : t(againstWords(against), when ?? '');

  const covers = (
    <div role="radiogroup" aria-label={t('focus.cover')} className="flex flex-wrap items-center gap-2">
      <span className="text-label font-semibold">{t('focus.cover')}</span>
      {[true, false].map((on) => (
        <button
          key={String(on)}
          role="radio"
          aria-checked={covered === on}
          className={`plain ${covered === on ? '!border-2 !border-ink font-bold' : ''}`}
          onClick={() => setCovered(on)}
        >
          {t(on ? 'focus.cover.on' : 'focus.cover.off')}
        </button>
      ))}
    </div>
  );
  const motor = live?.focus?.motor && (
    <Motor motor={live.focus.motor} mayWork={mayWork} onAsk={(ask, share) => void aim.motor(ask, share)} />
  );
  const keepButton = (
    <button
      className={`${isLive ? 'forward' : 'plain'} col-span-2 disabled:opacity-40`}
      disabled={isKeeping || !hasName || isOld || !isSaid}
      onClick={() =>
        void keepThis(hasCover ? t('focus.kept-as', t(covered ? 'focus.cover.on' : 'focus.cover.off')) : t('focus.title'), {
          focus: { isCovered: covered ?? false },
        })
      }
    >
      {isKeeping ? t('aim.keeping') : t('focus.keep')}
    </button>
  );
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className={`mx-auto max-w-[1440px] pb-8 ${hand ? '' : 'px-6'}`}>
        <HeadLine {...{ ...on, live, age, isOld }} title={t('focus.title')} />
        <div className="grid gap-x-8 gap-y-3 min-[900px]:grid-cols-[minmax(0,1.5fr)_minmax(20rem,1fr)] min-[900px]:pt-3">
          <div className="min-w-0">
            <div className={hand ? 'sticky top-0' : ''}>
              <FocusPicture seen={work.seen} spots={look?.spots ?? []} isOld={isOld} target={target} onTarget={moveTarget} />
            </div>
            {!hand && motor}
            {!hand && demo && <DemoRing label={views.label} head={head.number} hasCover={hasCover} />}
          </div>
          <div className={`min-w-0 ${hand ? 'px-4' : ''}`}>
            <Trouble text={work.wrong} className="mb-2" />
            {work.elsewhere && <p className="mb-2 text-table font-semibold text-noted">{work.elsewhere}</p>}
            {look && state !== 'none' && (
              <FocusWords look={look} state={state} against={against}>
                {says === 'corner' && <p className="text-table font-semibold text-noted">{t('focus.corner')}</p>}
                <p className="text-label text-ink-2">{held}</p>
                <p className="text-label" data-testid="focus-says">
                  {says ? t('focus.says', t(`choice.focus.cover-on.${says}`)) : t('focus.says-none')}
                </p>
              </FocusWords>
            )}
            {hand && motor}
            <div className="mt-3 grid grid-cols-2 gap-2">
              {!isLive && (
                <button className="forward col-span-2" disabled={!mayWork} onClick={work.begin}>
                  {t('aim.begin')}
                </button>
              )}
              {hasPicture && (
                <>
                  {hasCover && <div className="col-span-2">{covers}</div>}
                  {!isSaid && <p className="col-span-2 text-label text-ink-2">{t('focus.say-cover')}</p>}
                  {keepButton}
                  <button className="plain" disabled={!mayWork} onClick={() => void aim.lock(!live?.isLocked)}>
                    {t(live?.isLocked ? 'focus.unlock' : 'focus.lock')}
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
              <Link to="/aim/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
                {t('focus.to-aim')}
              </Link>
            </div>
            {hand && demo && <DemoRing label={views.label} head={head.number} hasCover={hasCover} />}
            {!hasPicture && <p className="mt-2 text-label text-ink-2">{t('focus.begin-how')}</p>}
            <p className="mt-2 text-label text-ink-2">{t('focus.caution')}</p>
          </div>
        </div>
      </div>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} none={t('focus.keep-none')} />}
      {work.login}
    </main>
  );
}
