import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { keep } from '../../outbox/outbox';
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
import { Joins } from './Joins';
import { Kept } from './Kept';
import { Touching, type Touch, untouched } from './Touching';
import { useVoice } from './useAim';
import { useHeadWork } from './useHeadWork';
import { FromFile, FromMonitor } from './Ways';
import { Swaying } from './Swaying';
import { swaySentence } from './sway';
import { sentence, STALE_MS, stateOf } from './words';
import '../pageTexts';
import './aimTexts';

/** What a camera sees now, against what was agreed: turned by its picture. */
export default function AimPage() {
  const { deviceId } = useParams({ from: '/aim/$deviceId' });
  return <HeadPage deviceId={deviceId} Work={Aim} />;
}

function Aim(on: OnHead) {
  const { views, head, deviceId } = on;
  const { job } = useJob();
  const [hand, lying] = [useHand(), useLying()];
  const { aim, seen, live, age, isOld, isLive, hasPicture, hasName, mayWork, wrong, ...work } = useHeadWork('aim', on, STALE_MS);
  const { keepShown, keepThis, kept, setKept, isKeeping } = work;
  const [speaks, setSpeaks] = useState(false);
  const [asksWho, setAsksWho] = useState(false);
  const [said, setSaid] = useState('');
  const [touch, setTouch] = useState<Touch>();
  const state = stateOf(live, age);
  const sway = live?.sway;
  useVoice(sway ? swaySentence(sway) : sentence(live, age), sway ? sway.measured?.says === 'still' : state === 'stop', speaks);
  const agreed = live?.agreed;
  const agreedUrl = agreed?.pictureId ? `/api/cards/${deviceId}/pictures/${agreed.pictureId}.jpg` : undefined;
  const begin = () => {
    setTouch(undefined);
    work.begin();
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

  const picture = (
    <div className="min-w-0">
      <AimPicture
        seen={seen}
        agreed={agreedUrl}
        isOld={isOld}
        touch={touch}
        hasOne={touch?.thing === 'target' && head.agreed[0]?.design.targets.length === 1}
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
  const joins = views.heads.length > 1 && !touch && !sway && <Joins joins={views.joins} head={head.number} />;
  const touchButton = hasPicture && !touch && (
    <button
      className="plain"
      disabled={!mayWork}
      onClick={() => {
        setTouch(untouched);
        if (isLive) void aim.still();
      }}
    >
      {t('aim.touch')}
    </button>
  );
  const targets = head.agreed[0]?.design.targets.map((target) => target.name) ?? [];
  const touching = touch && live && hasPicture && (
    <Touching
      path={{ deviceId, headId: head.id }}
      number={live.number}
      touch={touch}
      targets={targets}
      isKeeping={isKeeping}
      onChange={setTouch}
      onKeep={(caption) => void keepThis(caption, { touch })}
      onClose={() => setTouch(undefined)}
    />
  );
  const keepButton = (className: string) => (
    <button
      className={className}
      disabled={isKeeping || !hasName || isOld}
      onClick={() => void keepThis(t(live?.isLocked ? 'check.aim.after' : 'check.aim.view'))}
    >
      {isKeeping ? t('aim.keeping') : t('aim.keep')}
    </button>
  );
  const lockButton = (className: string) =>
    agreedUrl && (
      <button className={className} disabled={!mayWork} onClick={() => void aim.lock(!live?.isLocked)}>
        {live?.isLocked ? t('aim.unlock') : t('aim.lock')}
      </button>
    );
  const speakButton = (className: string) =>
    isLive && (
      <button className={className} aria-pressed={speaks} onClick={() => setSpeaks(!speaks)}>
        {speaks ? t('aim.speak-off') : t('aim.speak')}
      </button>
    );
  const swayButton = isLive && hasPicture && !touch && (
    <button className="plain" disabled={!mayWork} onClick={() => void aim.sway('begin')}>
      {t('sway.title')}
    </button>
  );
  const demo = work.demo && <DemoTurn label={views.label} head={head.number} />;
  const swaying = sway && live && !touch && (
    <Swaying
      look={sway}
      isOld={isOld}
      isKeeping={isKeeping}
      onKeep={() => void keepThis(t('check.fixing.stable'), { isSway: true }).then((isKept) => isKept && void aim.sway('end'))}
      onAgain={() => void aim.sway('begin')}
      onUnpushed={() => void aim.sway('unpushed')}
      onClose={() => void aim.sway('end')}
    >
      {speakButton('plain')}
    </Swaying>
  );
  const words = (
    <>
      <Trouble text={wrong} className="mb-2" />
      {work.elsewhere && <p className="mb-2 text-table font-semibold text-noted">{work.elsewhere}</p>}
      {said && (
        <p role="status" className="mb-2 font-semibold text-accepted">
          {said}
        </p>
      )}
      {touching || swaying || (live && hasPicture && <AimWords live={live} state={state} />)}
      {agreed?.why && !touch && !sway && <p className="my-2 text-table font-semibold text-noted">{say(agreed.why)}</p>}
    </>
  );
  const agreeButton = hasPicture && (
    <button className="plain" disabled={!hasName || isOld} onClick={() => setAsksWho(true)}>
      {agreedUrl ? t('aim.agree-again') : t('aim.agree')}
    </button>
  );
  const beginButton = (className: string) =>
    !isLive && (
      <button className={className} disabled={!mayWork} onClick={begin}>
        {t('aim.begin')}
      </button>
    );
  const ways = (
    <>
      {!isLive && <FromFile onFile={(file) => void work.fromFile(file)} isBusy={aim.isBusy} />}
      {!isLive && <FromMonitor onFile={work.fromFile} isBusy={aim.isBusy} />}
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
  const line = <HeadLine {...{ ...on, live, age, isOld }} title={t('aim.title')} />;
  const glove = 'h-14 text-table font-bold px-2 text-center disabled:opacity-40';
  const sheets = (
    <>
      {kept && <Kept kept={kept} onClose={() => setKept(undefined)} />}
      {work.login}
      {asksWho && <AgreeSheet onClose={() => setAsksWho(false)} onAgree={(n) => void agree(n)} isBusy={isKeeping} why={work.why} />}
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
            {!touch && !sway && (
              <>
                {told}
                {joins}
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {touchButton}
                  {swayButton}
                  {agreeButton}
                  {ways}
                </div>
                {demo}
                {notes}
              </>
            )}
            {sway && demo}
          </div>
        </div>
        <footer hidden={!!touch || !!sway} className={`grid shrink-0 grid-cols-2 border-t-2 border-ink ${lying ? 'grid-cols-4' : ''}`}>
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
            {joins}
            {!touch && demo}
          </div>
          <div className="min-w-0">
            {words}
            {!touch && !sway && (
              <>
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {beginButton('forward col-span-2')}
                  {hasPicture && (
                    <>
                      {keepButton(isLive ? 'forward col-span-2' : 'plain col-span-2')}
                      {lockButton('plain')}
                      {speakButton('plain')}
                      {touchButton}
                      {swayButton}
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
