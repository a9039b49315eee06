import { Link } from '@tanstack/react-router';
import { t } from '../../texts';

/** Rows that are answered at the recorder: by what it says of the channel, and by its clips. */
const there = new Set(['recorder.clip', 'recorder.clip-after', 'recorder.name', 'recorder.mode', 'recorder.registered', 'recorder.disk']);

/** Rows that lean on how the camera should look. */
const viewed = new Set(['fixing.height', 'fixing.tilt', 'aim.view', 'aim.detail', 'aim.agreed', 'aim.by-eye', 'aim.hazards']);

/** Rows that the camera's own picture answers. */
const aimed = new Set(['aim.view', 'aim.after', 'aim.off', 'aim.off-after', 'aim.upright', 'fixing.roll']);

/** Rows that say how sharp it is. */
const focused = new Set(['focus.cover-off', 'focus.cover-on']);

/** Rows that say what the dark does to it. */
const dark = new Set(['night.picture', 'night.reach']);

/** Rows that a drive before the reader answers. */
const driven = new Set(['plates.trial', 'plates.trial-night', 'plates.geometry']);

/** From a row to the channel of this place at its recorder, or to its planned view. */
export function ToRecorder({ check, deviceId }: { check: string; deviceId: string }) {
  const link = 'flex min-h-11 items-center text-label font-semibold underline';
  if (viewed.has(check) || aimed.has(check))
    return (
      <span className="flex flex-wrap gap-x-4">
        {aimed.has(check) && (
          <Link to="/aim/$deviceId" params={{ deviceId }} className={link}>
            {t('card.to-aim')}
          </Link>
        )}
        {viewed.has(check) && (
          <Link to="/views/$deviceId" params={{ deviceId }} className={link}>
            {t('card.to-view')}
          </Link>
        )}
      </span>
    );
  if (focused.has(check))
    return (
      <Link to="/focus/$deviceId" params={{ deviceId }} className={link}>
        {t('card.to-focus')}
      </Link>
    );
  if (dark.has(check))
    return (
      <Link to="/night/$deviceId" params={{ deviceId }} className={link}>
        {t('card.to-night')}
      </Link>
    );
  if (driven.has(check))
    return (
      <Link to="/plates/$deviceId" params={{ deviceId }} className={link}>
        {t('card.to-drive')}
      </Link>
    );
  if (!there.has(check)) return null;
  return (
    <Link to="/recording" search={{ device: deviceId }} className={link}>
      {t('card.prove')}
    </Link>
  );
}
