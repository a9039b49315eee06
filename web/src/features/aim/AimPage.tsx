import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { useDemo } from '../../api/queries';
import { keep } from '../../outbox/outbox';
import { useIdentity } from '../../session/identity';
import { useHand, useLying } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { AimPicture } from './AimPicture';
import { AimWords } from './AimWords';
import { DemoTurn } from './DemoTurn';
import { HeadLine, HeadPage, type OnHead } from './HeadPage';
import { Kept } from './Kept';
import { Touching, type Touch, untouched } from './Touching';
import { useAge, useAim, useVoice } from './useAim';
import { useKeepShown } from './useKeepShown';
import { FromFile, useLook } from './Ways';
import { sentence, STALE_MS, stateOf } from './words';
import '../pageTexts';
import './aimTexts';

/** What a camera sees now, against what was agreed: turned by its picture. */
export default function AimPage() {
  const { deviceId } = useParams({ from: '/aim/$deviceId' });
  return <HeadPage deviceId={deviceId} Work={Aim} />;
}

function Aim({ views, head, deviceId, onHead }: OnHead) {
  const { job } = useJob();
  const me = useIdentity();
  const demo = useDemo().data?.demo;
  const [hand, lying] = [useHand(), useLying()];
  const aim = useAim(deviceId, head.id);
  const { seen } = aim;
  // Where somebody focuses, its pictures say nothing of how it hangs.
  const live = seen?.live.focus ? undefined : seen?.live;
  const age = useAge(seen);
  const [speaks, setSpeaks] = useState(false);
  const [asksWho, setAsksWho] = useState(false);
  const [said, setSaid] = useState('');
  const [touch, setTouch] = useState<Touch>();
  const { keepShown, keepThis, kept, setKept, trouble, isKeeping } = useKeepShown({ deviceId, headId: head.id }, live);
  const state = stateOf(live, age);
  const isOld = !!live?.isLive && age > STALE_MS;
  useVoice(sentence(live, age), state === 'stop', speaks);
  const { look, wantsLogin, sheet: login } = useLook(deviceId, views.label, live, (given) => aim.begin(given));
  const agreed = live?.agreed;
  const agreedUrl = agreed?.pictureId ? `/api/cards/${deviceId}/pictures/${agreed.pictureId}.jpg` : undefined;
  const begin = () => {
    setTouch(undefined);
    look();
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
    setAsksWho(false);
    setSaid(t('aim.agreed-now'));
  };

  const wrong = aim.trouble ?? (trouble || (live?.trouble && !wantsLogin ? say(live.trouble) : ''));
  const isLive = !!live?.isLive;
  const hasPicture = !!live && live.number > 0;
  const mayTurn = !aim.isBusy && !!me.personId;
  const picture = (
    <div className="min-w-0">
      <AimPicture
        seen={live && seen}
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
      {seen?.live.focus?.look && seen.live.isLive && <p className="mb-2 text-table font-semibold text-noted">{t('aim.focused')}</p>}
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
    <button className="plain" disabled={!me.personId || isOld} onClick={() => setAsksWho(true)}>
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
  const line = <HeadLine {...{ views, head, deviceId, onHead, live, age, isOld }} title={t('aim.title')} />;
  const glove = 'h-14 text-table font-bold px-2 text-center disabled:opacity-40';
  const sheets = (
    <>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} />}
      {login}
      {asksWho && <AgreeSheet onClose={() => setAsksWho(false)} onAgree={(n) => void agree(n)} isBusy={isKeeping} why={trouble} />}
    </>
  );
  if (hand)
    return (
      <main className="flex min-h-0 flex-1 flex-col">
        {line}
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
        {line}
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
