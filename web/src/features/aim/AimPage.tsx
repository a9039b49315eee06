import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useEffect, useState } from 'react';
import { answered, api } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { useDemo } from '../../api/queries';
import { keep } from '../../outbox/outbox';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useHand, useLying } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { Waiting } from '../walk/WalkPage';
import { AimPicture } from './AimPicture';
import { AimWords } from './AimWords';
import { DemoTurn } from './DemoTurn';
import { Kept } from './Kept';
import { Touching, type Touch, untouched } from './Touching';
import { useAge, useAim, useVoice } from './useAim';
import { useKeepShown } from './useKeepShown';
import { FromFile, LoginSheet, logins } from './Ways';
import { sentence, STALE_MS, stateOf } from './words';
import '../pageTexts';
import './aimTexts';

type Views = components['schemas']['ViewsAnswer'];

/** What a camera sees now, against what was agreed: turned by its picture. */
export default function AimPage() {
  const { deviceId } = useParams({ from: '/aim/$deviceId' });
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
  return <Aim key={`${deviceId} ${head.id}`} views={query.data} head={head} deviceId={deviceId} onHead={setNumber} />;
}

function Aim({
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
  const demo = useDemo().data?.demo;
  const [hand, lying] = [useHand(), useLying()];
  const aim = useAim(deviceId, head.id);
  const { seen } = aim;
  const live = seen?.live;
  const age = useAge(seen);
  const [speaks, setSpeaks] = useState(false);
  const [asks, setAsks] = useState<'login' | 'agree'>();
  const [said, setSaid] = useState('');
  const [touch, setTouch] = useState<Touch>();
  const { keepShown, keepThis, kept, setKept, trouble, isKeeping } = useKeepShown({ deviceId, headId: head.id }, seen?.live);
  const state = stateOf(live, age);
  const isOld = !!live?.isLive && age > STALE_MS;
  useVoice(sentence(live, age), state === 'stop', speaks);
  const wantsLogin = live?.wantsLogin ?? false;
  useEffect(() => {
    if (wantsLogin) setAsks('login');
  }, [wantsLogin]);
  const agreed = live?.agreed;
  const agreedUrl = agreed?.pictureId ? `/api/cards/${deviceId}/pictures/${agreed.pictureId}.jpg` : undefined;
  const begin = () => {
    setTouch(undefined);
    void aim.begin(logins.get(deviceId) ?? null);
  };

  const agree = async (name: string) => {
    setSaid('');
    const shown = await keepShown(t('aim.title'));
    if (!shown) return;
    const [view] = head.agreed;
    const id = await keep(deviceId, '/views', {
      headId: head.id,
      design: view?.design ?? head.begin,
      agreedBy: name,
      pictureId: shown.pictureId,
    });
    if (!id) return;
    setAsks(undefined);
    setSaid(t('aim.agreed-now'));
  };

  const wrong = aim.trouble ?? (trouble || (live?.trouble && !wantsLogin ? say(live.trouble) : ''));
  const isLive = !!live?.isLive;
  const hasPicture = !!live && live.number > 0;
  const mayTurn = !aim.isBusy && !!me.personId;
  const picture = (
    <div className="min-w-0">
      <AimPicture
        seen={seen}
        agreed={agreedUrl}
        isOld={isOld}
        touch={touch}
        onTouch={(from, to) => setTouch((was) => was && { ...was, from, to })}
      />
    </div>
  );
  const told = (
    <p className="mt-1 flex flex-wrap gap-x-4 text-label text-ink-2">
      {agreed?.at && <span>{t('aim.agreed-by', agreed.by ?? '', dayAndClock(agreed.at, job?.timeZone ?? 'UTC'))}</span>}
      {live?.look?.measured && <span>{t('aim.ring')}</span>}
      {live?.isLocked && <b className="text-ink">{t('aim.locked')}</b>}
    </p>
  );
  const touchButton = hasPicture && !touch && (
    <button
      className="plain"
      disabled={!mayTurn}
      onClick={() => {
        setTouch(untouched);
        if (isLive) void aim.still();
      }}
    >
      {t('aim.touch')}
    </button>
  );
  const touching = touch && live && hasPicture && (
    <Touching
      path={{ deviceId, headId: head.id }}
      number={live.number}
      touch={touch}
      isKeeping={isKeeping}
      onChange={setTouch}
      onKeep={(caption) => void keepThis(caption, { touch })}
      onClose={() => setTouch(undefined)}
    />
  );
  const words = (
    <>
      <Trouble text={wrong} className="mb-2" />
      {said && (
        <p role="status" className="mb-2 font-semibold text-accepted">
          {said}
        </p>
      )}
      {touching || (hasPicture && <AimWords live={live} state={state} />)}
      {agreed?.why && !touch && <p className="my-2 text-table font-semibold text-noted">{say(agreed.why)}</p>}
    </>
  );
  const keepButton = (className: string) => (
    <button
      className={className}
      disabled={isKeeping || !me.personId || isOld}
      onClick={() => void keepThis(t(live?.isLocked ? 'check.aim.after' : 'check.aim.view'))}
    >
      {isKeeping ? t('aim.keeping') : t('aim.keep')}
    </button>
  );
  const lockButton = (className: string) =>
    agreedUrl && (
      <button className={className} disabled={!mayTurn} onClick={() => void aim.lock(!live?.isLocked)}>
        {live?.isLocked ? t('aim.unlock') : t('aim.lock')}
      </button>
    );
  const speakButton = (className: string) =>
    isLive && (
      <button className={className} aria-pressed={speaks} onClick={() => setSpeaks(!speaks)}>
        {speaks ? t('aim.speak-off') : t('aim.speak')}
      </button>
    );
  const agreeButton = hasPicture && (
    <button className="plain" disabled={!me.personId || isOld} onClick={() => setAsks('agree')}>
      {agreedUrl ? t('aim.agree-again') : t('aim.agree')}
    </button>
  );
  const beginButton = (className: string) =>
    !isLive && (
      <button className={className} disabled={!mayTurn} onClick={begin}>
        {t('aim.begin')}
      </button>
    );
  const ways = (
    <>
      {!isLive && <FromFile onFile={(f) => void aim.file(f)} isBusy={aim.isBusy} />}
      <Link to="/views/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
        {t('aim.views')}
      </Link>
    </>
  );
  const notes = (
    <>
      {!hasPicture && (
        <p className="mt-2 text-label text-ink-2">
          {t('aim.begin-how')} {t('aim.file-how')}
        </p>
      )}
      <p className="mt-3 text-label text-ink-2">{t('aim.by')}</p>
      <p className="mt-1 text-label text-ink-2">{t('aim.ladder')}</p>
      <p className="mt-1 text-label text-ink-2">{t('aim.neighbours')}</p>
    </>
  );
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
  const ageOf = (
    <span className={`whitespace-nowrap ${isOld ? 'font-semibold text-refused' : ''}`} data-testid="aim-age">
      {!hasPicture ? '' : isLive ? t('aim.age', (age / 1000).toFixed(1)) : t(live.isFile ? 'aim.still' : 'aim.held')}
    </span>
  );
  const back = (
    <Link to="/card/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
      {t('aim.back')}
    </Link>
  );
  const glove = 'h-14 text-table font-bold px-2 text-center disabled:opacity-40';
  const sheets = (
    <>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} />}
      {asks === 'login' && (
        <LoginSheet
          label={views.label}
          isDemo={!!demo}
          why={live?.trouble ? say(live.trouble) : ''}
          onClose={() => setAsks(undefined)}
          onLogin={(login) => {
            logins.set(deviceId, login);
            setAsks(undefined);
            void aim.begin(login);
          }}
        />
      )}
      {asks === 'agree' && (
        <AgreeSheet onClose={() => setAsks(undefined)} onAgree={(n) => void agree(n)} isBusy={isKeeping} why={trouble} />
      )}
    </>
  );
  if (hand)
    return (
      <main className="flex min-h-0 flex-1 flex-col">
        <header className="flex min-h-11 shrink-0 items-center gap-x-3 border-b border-ink px-4">
          <h1 className="font-read text-title font-bold whitespace-nowrap">{views.label}</h1>
          {heads}
          <span className="ml-auto text-label">{ageOf}</span>
          {back}
        </header>
        <div className={`min-h-0 flex-1 overflow-y-auto ${lying ? 'grid grid-cols-[1.25fr_1fr] content-start gap-x-4' : ''}`}>
          <div className={lying ? 'sticky top-0 self-start' : ''}>{picture}</div>
          <div className="px-4 pt-1 pb-4">
            {words}
            {!touch && (
              <>
                {told}
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {touchButton}
                  {agreeButton}
                  {ways}
                </div>
                {demo && <DemoTurn label={views.label} head={head.number} />}
                {notes}
              </>
            )}
          </div>
        </div>
        <footer hidden={!!touch} className={`grid shrink-0 grid-cols-2 border-t-2 border-ink ${lying ? 'grid-cols-4' : ''}`}>
          {isLive && hasPicture ? (
            <>
              {speakButton(`${glove} border-r border-hairline ${agreedUrl ? '' : 'col-span-2'}`)}
              {lockButton(glove)}
              {keepButton(`${glove} col-span-2 bg-action text-action-ink`)}
            </>
          ) : (
            <>
              {beginButton(`${glove} col-span-2 bg-action text-action-ink ${lying && !hasPicture ? 'col-span-4' : ''}`)}
              {hasPicture && keepButton(`${glove} col-span-2`)}
            </>
          )}
        </footer>
        {sheets}
      </main>
    );
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className="mx-auto max-w-[1440px] px-6 pb-8">
        <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-ink py-2">
          <h1 className="font-read text-[2rem] leading-tight font-bold">{views.label}</h1>
          <span className="min-w-0 text-lead">{views.name}</span>
          <span className="text-lead text-ink-2">{t('aim.title')}</span>
          {heads}
          <span className="ml-auto">{ageOf}</span>
          {back}
        </header>
        <div className="grid gap-x-8 gap-y-3 pt-3 min-[900px]:grid-cols-[minmax(0,1.5fr)_minmax(20rem,1fr)]">
          <div className="min-w-0">
            {picture}
            {told}
            {demo && !touch && <DemoTurn label={views.label} head={head.number} />}
          </div>
          <div className="min-w-0">
            {words}
            {!touch && (
              <>
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {beginButton('forward col-span-2')}
                  {hasPicture && (
                    <>
                      {keepButton(isLive ? 'forward col-span-2' : 'plain col-span-2')}
                      {lockButton('plain')}
                      {speakButton('plain')}
                      {touchButton}
                      {agreeButton}
                    </>
                  )}
                  {ways}
                </div>
                {notes}
              </>
            )}
          </div>
        </div>
      </div>
      {sheets}
    </main>
  );
}

/** Who says that it should look so. */
function AgreeSheet({
  onClose,
  onAgree,
  isBusy,
  why,
}: {
  onClose: () => void;
  onAgree: (name: string) => void;
  isBusy: boolean;
  why: string;
}) {
  const [name, setName] = useState('');
  return (
    <Sheet title={t('aim.agree')} hint={t('aim.agree-how')} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onAgree(name.trim());
        }}
      >
        <Trouble text={why} className="mt-2" />
        <Labelled label={t('aim.agree-name')}>
          <input className="field" value={name} maxLength={120} autoFocus onChange={(e) => setName(e.target.value)} />
        </Labelled>
        <button className="forward mt-3 w-full" disabled={!name.trim() || isBusy}>
          {t('aim.agree-go')}
        </button>
      </form>
    </Sheet>
  );
}
