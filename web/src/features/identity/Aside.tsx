import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { say, t } from '../../texts';
import { HoldButton } from '../../ui/HoldButton';
import { isWrong, nameOf, pictureOf, ringOf, verdictOf, type Board, type Channel } from './board';

/** One channel: what it shows over what was agreed, what it was held against, and what to do. */
export function Aside({ board, channel, recorderId, jobId }: { board: Board; channel: Channel; recorderId: string; jobId: string }) {
  const { view } = channel;
  const [isHeld, setHeld] = useState(false);
  const agreed = channel.agreedPictureId && view.planned ? `/api/cards/${view.planned.device}/pictures/${channel.agreedPictureId}.jpg` : '';
  const now = channel.hasPicture ? pictureOf(jobId, recorderId, board, view.number) : '';
  const ring = ringOf(board, view.number);
  const src = isHeld && agreed ? agreed : now;
  return (
    <>
      <p className="flex items-baseline gap-3">
        <b className="font-read text-title">{view.number}</b>
        <b className="font-read text-title">{view.planned ? nameOf(view.planned) : ''}</b>
      </p>
      <p className="text-body">
        <b className={isWrong(view.finding) ? 'text-refused' : ''}>{t(`identity.is.${view.finding}`)}</b>
        {verdictOf(channel) && `, ${verdictOf(channel)}`}
        {view.why && view.finding !== 'cannotTell' && `, ${say(view.why)}`}
      </p>
      <div className="relative mt-1">
        {src ? (
          <img
            src={src}
            alt={isHeld ? t('identity.agreed') : t('identity.now')}
            className="block aspect-video w-full bg-paper-lo object-cover"
          />
        ) : (
          <div className="aspect-video w-full border border-dashed border-rule bg-paper-lo" />
        )}
        {agreed && now && <HoldButton onHold={setHeld}>{(held) => t(held ? 'identity.agreed' : 'identity.hold')}</HoldButton>}
      </div>
      {channel.nearest.length > 0 && (
        <div className="mt-2 border-t border-hairline pt-1">
          <p className="text-label">
            <b>{t('identity.compared')}</b> <span className="text-ink-3">{t('identity.compared-how')}</span>
          </p>
          <ul>
            {channel.nearest.map((n) => (
              <li key={n.compared.channel} className="flex items-baseline gap-3 text-label">
                <span className={`min-w-0 flex-1 ${n.compared.isMatch ? 'font-bold' : 'text-ink-2'}`}>{say(n.said)}</span>
                {n.compared.isMatch ? (
                  <>
                    <span className="font-read font-bold">{Math.round(n.compared.agreement * 100)} %</span>
                    <span className="font-read w-24 text-right">{t('identity.moved', (n.compared.movedPercent ?? 0).toFixed(1))}</span>
                  </>
                ) : (
                  <span className="text-ink-2">{t('identity.no-fit')}</span>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="mt-2 border-t border-hairline pt-1">
        <p className="text-label font-bold">{t('identity.do')}</p>
        <p className="text-label">{t(`identity.do.${view.finding}`)}</p>
        {ring.length > 0 && (
          <>
            <p className="mt-1 text-body font-bold">{ring.length === 1 ? t('identity.moves-1') : t('identity.moves', ring.length)}</p>
            <ol>
              {ring.map((e, i) => (
                <li key={`${e.a} ${e.b}`} className="flex gap-3 text-body">
                  <b className="font-read">{i + 1}</b> {t('identity.exchange', board.label, e.a, e.b)}
                </li>
              ))}
            </ol>
            <p className="text-label text-ink-2">{t('identity.then-look')}</p>
          </>
        )}
        <p className="flex flex-wrap gap-x-4">
          {view.planned && (
            <Link
              to="/aim/$deviceId"
              params={{ deviceId: view.planned.device }}
              className="flex min-h-11 items-center text-label font-semibold underline"
            >
              {t('identity.aim', view.planned.label)}
            </Link>
          )}
          {ring.length > 0 && (
            <Link to="/recording" search={{ device: recorderId }} className="flex min-h-11 items-center text-label font-semibold underline">
              {t('identity.set')}
            </Link>
          )}
        </p>
      </div>
    </>
  );
}
