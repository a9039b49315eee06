import type { ReactNode } from 'react';
import { t } from '../../texts';
import type { Seen } from './useAim';

/** The newest picture in the camera's own shape, and what is drawn on it; old, it is pale. */
export function Frame({
  seen,
  instead,
  isOld,
  testId,
  children,
}: {
  seen: Seen | undefined;
  /** Another picture in its place. */
  instead?: string;
  isOld: boolean;
  testId: string;
  children: (wide: number, high: number) => ReactNode;
}) {
  const [wide, high] = [seen?.live.wide ?? 16, seen?.live.high ?? 9];
  return (
    <figure className="relative m-0 bg-paper-lo" style={{ aspectRatio: `${wide} / ${high}` }}>
      {instead ? (
        <img src={instead} alt={t('aim.compare')} className="absolute inset-0 h-full w-full object-fill" />
      ) : seen?.url ? (
        <img
          src={seen.url}
          alt={t('aim.loupe')}
          className={`absolute inset-0 h-full w-full object-fill ${isOld ? 'opacity-60' : ''}`}
          data-testid={testId}
          data-number={seen.live.number}
        />
      ) : (
        <p className="absolute inset-0 grid place-items-center p-4 text-center text-ink-2">{t('aim.no-picture')}</p>
      )}
      {children(wide, high)}
    </figure>
  );
}

/** Lines that are seen on any picture: white, with something dark beneath. */
export const line = { stroke: '#fff', strokeWidth: 2, vectorEffect: 'non-scaling-stroke' as const, fill: 'none' };
export const halo = { ...line, stroke: '#000', strokeOpacity: 0.55, strokeWidth: 6 };
