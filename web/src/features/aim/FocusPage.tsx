import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { useDemo } from '../../api/queries';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { Waiting } from '../walk/WalkPage';
import { DemoRing } from './DemoTurn';
import { FocusPicture } from './FocusPicture';
import { FocusWords } from './FocusWords';
import { focusSentence, focusState, STALE_FOCUS_MS } from './focusWords';
import { Kept } from './Kept';
import { type Point, useAge, useAim, useVoice } from './useAim';
import { useKeepShown } from './useKeepShown';
import { FromFile, LoginSheet, logins } from './Ways';
import '../pageTexts';
import './aimTexts';

type Views = components['schemas']['ViewsAnswer'];

/** How sharp a camera sees, told by its own pictures while its ring is turned. */
export default function FocusPage() {
  const { deviceId } = useParams({ from: '/focus/$deviceId' });
  const [number, setNumber] = useState(1);
  const query = useQuery({
    queryKey: ['card', deviceId, 'views'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/views', { params: { path: { deviceId } } })),
  });
  const access = useAccess().data;
  if (!query.data || !access) return <Waiting error={query.error} again={() => void query.refetch()} />;
  const head = query.data.heads.find((h) => h.number === number) ?? query.data.heads[0];
  if (!head) return <p className="p-6">{t('aim.empty')}</p>;
  if (!mayDo(access, 'work')) return <p className="p-6">{t('aim.may-not')}</p>;
  return <Focus key={`${deviceId} ${head.id}`} views={query.data} head={head} deviceId={deviceId} onHead={setNumber} />;
}

function Focus({
  views,
  head,
  deviceId,
  onHead,
}: {
  views: Views;
  head: Views['heads'][number];
  deviceId: string;
  onHead: (n: number) => void;
}) {
  const { job } = useJob();
  const me = useIdentity();
  const hand = useHand();
  const demo = useDemo().data?.demo;
  const aim = useAim(deviceId, head.id);
  const { seen } = aim;
  // A camera that somebody aims shows its small pictures: nothing is told of them here.
  const live = seen?.live.focus ? seen.live : undefined;
  const look = live?.focus?.look ?? undefined;
  const against = live?.focus?.against ?? null;
  const age = useAge(seen);
  const [speaks, setSpeaks] = useState(false);
  const [asksLogin, setAsksLogin] = useState(false);
  const [target, setTarget] = useState<Point>({ x: 0.5, y: 0.5 });
  const [covered, setCovered] = useState<boolean>();
  const { keepThis, kept, setKept, trouble, isKeeping } = useKeepShown({ deviceId, headId: head.id }, live);
  const state = focusState(live, age);
  const isOld = !!live?.isLive && age > STALE_FOCUS_MS;
  useVoice(focusSentence(live, age), state === 'stop', speaks);
  const wantsLogin = seen?.live.wantsLogin ?? false;
  useEffect(() => {
    if (wantsLogin) setAsksLogin(true);
  }, [wantsLogin]);

  const isLive = !!live?.isLive;
  const hasPicture = !!live && live.number > 0;
  const mayTurn = !aim.isBusy && !!me.personId;
  const wrong = aim.trouble ?? (trouble || (seen?.live.trouble && !wantsLogin ? say(seen.live.trouble) : ''));
  const moveTarget = (at: Point) => {
    setTarget(at);
    void aim.focus(at);
  };
  const says = live?.focus?.says;
  const when = against && dayAndClock(against.at, job?.timeZone ?? 'UTC');
  const held = !against
    ? t('focus.against-none')
    : against.why
      ? say(against.why)
      : t(against.isBeforeLock ? 'focus.against-lock' : against.isCovered ? 'focus.against-on' : 'focus.against-off', when ?? '');

  const heads = views.heads.length > 1 && (
    <span role="group" className="flex gap-1">
      {views.heads.map((h) => (
        <button
          key={h.id}
          aria-pressed={h.id === head.id}
          aria-label={t('aim.head', h.number)}
          className={`plain ${h.id === head.id ? '!border-2 !border-ink font-bold' : ''} max-sm:!px-0 max-sm:text-center`}
          onClick={() => onHead(h.number)}
        >
          {hand ? h.number : t('aim.head', h.number)}
        </button>
      ))}
    </span>
  );
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
  const keepButton = (
    <button
      className={`${isLive ? 'forward' : 'plain'} col-span-2 disabled:opacity-40`}
      disabled={isKeeping || !me.personId || isOld || covered === undefined}
      onClick={() =>
        void keepThis(t('focus.kept-as', t(covered ? 'focus.cover.on' : 'focus.cover.off')), { focus: { isCovered: covered ?? false } })
      }
    >
      {isKeeping ? t('aim.keeping') : t('focus.keep')}
    </button>
  );
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className={`mx-auto max-w-[1440px] pb-8 ${hand ? '' : 'px-6'}`}>
        <header className={`flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-ink ${hand ? 'px-4' : 'py-2'}`}>
          <h1 className={`font-read leading-tight font-bold ${hand ? 'text-title' : 'text-[2rem]'}`}>{views.label}</h1>
          {!hand && <span className="min-w-0 text-lead">{views.name}</span>}
          <span className="text-lead text-ink-2">{t('focus.title')}</span>
          {heads}
          <span className={`ml-auto text-label whitespace-nowrap ${isOld ? 'font-semibold text-refused' : ''}`}>
            {!hasPicture ? '' : isLive ? t('aim.age', (age / 1000).toFixed(1)) : t(live.isFile ? 'aim.still' : 'aim.held')}
          </span>
          <Link to="/card/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
            {t('aim.back')}
          </Link>
        </header>
        <div className="grid gap-x-8 gap-y-3 min-[900px]:grid-cols-[minmax(0,1.5fr)_minmax(20rem,1fr)] min-[900px]:pt-3">
          <div className="min-w-0">
            <div className={hand ? 'sticky top-0' : ''}>
              <FocusPicture seen={live ? seen : undefined} spots={look?.spots ?? []} isOld={isOld} target={target} onTarget={moveTarget} />
            </div>
            {!hand && demo && <DemoRing label={views.label} head={head.number} />}
          </div>
          <div className={`min-w-0 ${hand ? 'px-4' : ''}`}>
            <Trouble text={wrong} className="mb-2" />
            {look && state !== 'none' && (
              <FocusWords look={look} state={state} against={against}>
                {says === 'corner' && <p className="text-table font-semibold text-noted">{t('focus.corner')}</p>}
                <p className="text-label text-ink-2">{held}</p>
                <p className="text-label" data-testid="focus-says">
                  {says ? t('focus.says', t(`choice.focus.cover-on.${says}`)) : t('focus.says-none')}
                </p>
              </FocusWords>
            )}
            <div className="mt-3 grid grid-cols-2 gap-2">
              {!isLive && (
                <button
                  className="forward col-span-2"
                  disabled={!mayTurn}
                  onClick={() => void aim.begin(logins.get(deviceId) ?? null, target)}
                >
                  {t('aim.begin')}
                </button>
              )}
              {hasPicture && (
                <>
                  <div className="col-span-2">{covers}</div>
                  {covered === undefined && <p className="col-span-2 text-label text-ink-2">{t('focus.say-cover')}</p>}
                  {keepButton}
                  <button className="plain" disabled={!mayTurn} onClick={() => void aim.lock(!live.isLocked)}>
                    {t(live.isLocked ? 'focus.unlock' : 'focus.lock')}
                  </button>
                  <button className="plain" disabled={!mayTurn} onClick={() => void aim.focus(target)}>
                    {t('focus.anew')}
                  </button>
                  {isLive && (
                    <button className="plain" aria-pressed={speaks} onClick={() => setSpeaks(!speaks)}>
                      {speaks ? t('aim.speak-off') : t('aim.speak')}
                    </button>
                  )}
                </>
              )}
              {!isLive && <FromFile onFile={(f) => void aim.file(f, target)} isBusy={aim.isBusy} />}
              <Link to="/aim/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
                {t('focus.to-aim')}
              </Link>
            </div>
            {hand && demo && <DemoRing label={views.label} head={head.number} />}
            {!hasPicture && <p className="mt-2 text-label text-ink-2">{t('focus.begin-how')}</p>}
            <p className="mt-2 text-label text-ink-2">{t('focus.caution')}</p>
          </div>
        </div>
      </div>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} none={t('focus.keep-none')} />}
      {asksLogin && (
        <LoginSheet
          label={views.label}
          isDemo={!!demo}
          why={seen?.live.trouble ? say(seen.live.trouble) : ''}
          onClose={() => setAsksLogin(false)}
          onLogin={(login) => {
            logins.set(deviceId, login);
            setAsksLogin(false);
            void aim.begin(login, target);
          }}
        />
      )}
    </main>
  );
}
