import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { useKeys } from '../../ui/keys';
import { FieldWork } from '../readings/FieldWork';
import { useFieldWork } from '../readings/useFieldWork';
import { Waiting } from '../walk/WalkPage';
import { Aside } from './Aside';
import { counts, firstOf, isWrong, nameOf, pictureOf, tells, verdictOf, type Board, type Channel } from './board';
import { FindingMark } from './Marks';
import '../pageTexts';
import './identityTexts';

/** Which channel shows which camera, by its picture beside the view that was agreed. */
export default function IdentityPage() {
  const { recorderId } = useParams({ from: '/identity/$recorderId' });
  const { job } = useJob();
  const client = useQueryClient();
  const me = useIdentity();
  const access = useAccess().data;
  const mayWork = !access?.me || mayDo(access, 'work');
  const path = { params: { path: { jobId: job?.id ?? '', recorderId } } };
  const query = useQuery({
    queryKey: ['identity', job?.id, recorderId],
    enabled: !!job,
    queryFn: () => answered(api.GET('/api/jobs/{jobId}/recorders/{recorderId}/views', path)),
  });
  const field = useFieldWork(() => {
    void client.invalidateQueries({ queryKey: ['identity', job?.id, recorderId] });
    void client.invalidateQueries({ queryKey: ['card'] });
  });
  const [active, setActive] = useState<number>();
  const aside = useRef<HTMLElement>(null);
  const board = query.data;
  const channels = board?.channels ?? [];
  const chosen = channels.find((c) => c.view.number === active) ?? firstOf(channels);
  const canLook = !!board?.canLook && mayWork && !!me.personId && !field.running;
  const by = me.personId ?? '';
  const look = () =>
    field.begin(
      t('identity.running'),
      answered(api.POST('/api/jobs/{jobId}/recorders/{recorderId}/views/look', { ...path, body: { by } })),
    );
  const step = (by: number) => {
    const at = channels.findIndex((c) => c.view.number === chosen?.view.number);
    const next = channels[Math.min(Math.max(at + by, 0), channels.length - 1)];
    if (next) setActive(next.view.number);
  };
  useKeys({
    l: () => canLook && look(),
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
  });
  if (!job || !board) return <Waiting error={query.error} again={() => void query.refetch()} />;
  const toTell = tells(channels);
  const pick = (n: number) => {
    setActive(n);
    if (window.innerWidth <= 1000) requestAnimationFrame(() => aside.current?.scrollIntoView({ block: 'start' }));
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 pt-3 pb-10 max-sm:px-4">
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-ink pb-2">
        <h1 className="font-read text-[2rem] leading-tight font-bold">{board.label}</h1>
        <span className="text-lead">{t('identity.title')}</span>
        <span className="ml-auto flex flex-wrap items-center gap-x-4 gap-y-1 max-sm:ml-0">
          {mayWork && board.canLook && (
            <button className={board.at ? 'plain' : 'forward'} disabled={!canLook} onClick={look}>
              {board.at ? t('identity.look-again') : t('identity.look')}
            </button>
          )}
          {mayWork && toTell.length > 0 && (
            <button
              className="forward"
              disabled={!me.personId || field.running}
              title={t('identity.tell-how')}
              onClick={() =>
                field.begin(
                  t('identity.telling'),
                  answered(
                    api.POST('/api/jobs/{jobId}/recorders/{recorderId}/views/tell', {
                      ...path,
                      body: { number: board.number, channels: toTell, by },
                    }),
                  ),
                )
              }
            >
              {toTell.length === 1 ? t('identity.tell-1') : t('identity.tell', toTell.length)}
            </button>
          )}
          <Link to="/recording" search={{ device: recorderId }} className="flex min-h-11 items-center text-label font-semibold underline">
            {t('identity.back')}
          </Link>
        </span>
      </header>
      <FieldWork of={field} jobId={job.id} />
      {channels.length === 0 ? (
        <p className="mt-3 max-w-2xl">{board.canLook ? t('identity.nobody-looked') : t('identity.cannot')}</p>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)_22rem] gap-x-8 max-[1000px]:grid-cols-1">
          <div className="min-w-0">
            <p className="flex flex-wrap items-baseline gap-x-8 gap-y-1 pt-2" data-testid="identity-counts">
              {counts(channels).map(([f, n]) => (
                <span key={f} className="flex items-baseline gap-2 whitespace-nowrap">
                  <b className="font-read text-[2.2rem] leading-none">{n}</b>
                  <FindingMark finding={f} className="h-4 w-9 self-center" />
                  {t(`identity.count.${f}`)}
                </span>
              ))}
            </p>
            <p className="flex flex-wrap gap-x-4 text-label text-ink-2">
              <span>{t('identity.left')}</span>
              {board.at && <From board={board} at={dayAndClock(board.at, job.timeZone)} />}
            </p>
            {board.unagreed > 0 && <p className="text-label text-noted">{t('identity.unagreed', board.unagreed, board.planned)}</p>}
            <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(11.5rem,1fr))] gap-x-4 max-sm:grid-cols-1">
              {channels.map((c) => (
                <li key={c.view.number}>
                  <Tile board={board} channel={c} recorderId={recorderId} jobId={job.id} isChosen={c === chosen} onPick={pick} />
                </li>
              ))}
            </ul>
          </div>
          <aside
            ref={aside}
            aria-label={t('identity.compared')}
            className="min-w-0 self-start pt-2 min-[1001px]:sticky min-[1001px]:top-0 max-[1000px]:order-first max-[1000px]:border-b max-[1000px]:border-ink max-[1000px]:pb-3"
          >
            {chosen && <Aside key={chosen.view.number} board={board} channel={chosen} recorderId={recorderId} jobId={job.id} />}
          </aside>
        </div>
      )}
    </main>
  );
}

function From({ board, at }: { board: Board; at: string }) {
  const agreed = board.planned - board.unagreed;
  return <span>{agreed === 1 ? t('identity.from-1', at) : t('identity.from', at, agreed)}</span>;
}

/** One channel: its name, the agreed view and what is seen, and what that means. */
function Tile({
  board,
  channel,
  recorderId,
  jobId,
  isChosen,
  onPick,
}: {
  board: Board;
  channel: Channel;
  recorderId: string;
  jobId: string;
  isChosen: boolean;
  onPick: (n: number) => void;
}) {
  const { view } = channel;
  const { planned, finding } = view;
  const frame = 'block aspect-video w-full bg-paper-lo object-cover';
  return (
    <button
      className={`relative block w-full border-t border-hairline py-2 text-left ${isChosen ? 'bg-paper-hi' : ''}`}
      aria-pressed={isChosen}
      onClick={() => onPick(view.number)}
    >
      {isChosen && <span className="absolute top-0 bottom-0 -left-2 w-1 bg-accent" aria-hidden />}
      <span className="flex items-center gap-2">
        <b className="font-read text-table">{view.number}</b>
        <span className="font-read min-w-0 truncate text-table font-bold">{planned ? nameOf(planned) : ''}</span>
        <FindingMark finding={finding} className="ml-auto h-4 w-9" />
      </span>
      <span className="block truncate text-tick text-ink-2">{planned ? planned.name : t('identity.unplanned')}</span>
      <span className="mt-1 grid grid-cols-2 gap-1">
        {channel.agreedPictureId && planned ? (
          <img loading="lazy" alt="" className={frame} src={`/api/cards/${planned.device}/pictures/${channel.agreedPictureId}.jpg`} />
        ) : (
          <span className={`${frame} border border-dashed border-rule`} />
        )}
        {channel.hasPicture ? (
          <img loading="lazy" alt="" className={frame} src={pictureOf(jobId, recorderId, board, view.number)} />
        ) : (
          <span className={`${frame} border border-dashed border-rule`} />
        )}
      </span>
      <span className="mt-1 block text-label">
        <b className={isWrong(finding) ? 'text-refused' : finding === 'cannotTell' ? 'text-open' : ''}>{t(`identity.is.${finding}`)}</b>
        {verdictOf(channel) && `, ${verdictOf(channel)}`}
      </span>
    </button>
  );
}
