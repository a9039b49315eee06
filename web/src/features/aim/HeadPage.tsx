import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState, type ComponentType } from 'react';
import { answered, api } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { mayDo, useAccess } from '../../session/access';
import { useHand } from '../../session/posture';
import { t } from '../../texts';
import { Waiting } from '../walk/WalkPage';
import type { Live } from './words';

type Views = components['schemas']['ViewsAnswer'];

/** One head of a camera that somebody works on, and the way to its others. */
export interface OnHead {
  views: Views;
  head: Views['heads'][number];
  deviceId: string;
  onHead: (number: number) => void;
}

/** A camera whose heads are worked on by their pictures, one at a time. */
export function HeadPage({ deviceId, Work }: { deviceId: string; Work: ComponentType<OnHead> }) {
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
  return <Work key={`${deviceId} ${head.id}`} views={query.data} head={head} deviceId={deviceId} onHead={setNumber} />;
}

/** Whose head it is, which of them, how old its picture is, and the way back. */
export function HeadLine({
  views,
  head,
  deviceId,
  onHead,
  title,
  live,
  age,
  isOld,
}: OnHead & { title: string; live: Live | undefined; age: number; isOld: boolean }) {
  const hand = useHand();
  const hasPicture = !!live && live.number > 0;
  return (
    <header
      className={`flex shrink-0 items-center gap-x-4 gap-y-1 border-b border-ink ${hand ? 'min-h-11 gap-x-3 px-4' : 'flex-wrap py-2'}`}
    >
      <h1 className={`font-read leading-tight font-bold whitespace-nowrap ${hand ? 'text-title' : 'text-[2rem]'}`}>{views.label}</h1>
      {!hand && <span className="min-w-0 text-lead">{views.name}</span>}
      {!hand && <span className="text-lead text-ink-2">{title}</span>}
      {views.heads.length > 1 && (
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
      )}
      <span
        className={`ml-auto whitespace-nowrap ${hand ? 'text-label' : ''} ${isOld ? 'font-semibold text-refused' : ''}`}
        data-testid="aim-age"
      >
        {!hasPicture ? '' : live.isLive ? t('aim.age', (age / 1000).toFixed(1)) : t(live.isFile ? 'aim.still' : 'aim.held')}
      </span>
      <Link to="/card/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
        {t('aim.back')}
      </Link>
    </header>
  );
}
