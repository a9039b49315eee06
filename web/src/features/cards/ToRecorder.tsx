import { Link } from '@tanstack/react-router';
import { t } from '../../texts';

/** Rows that are answered at the recorder: by what it says of the channel, and by its clips. */
const there = new Set(['recorder.clip', 'recorder.clip-after', 'recorder.name', 'recorder.mode', 'recorder.registered', 'recorder.disk']);

/** Rows that lean on how the camera should look. */
const viewed = new Set(['fixing.height', 'fixing.tilt', 'aim.view', 'aim.detail', 'aim.agreed', 'aim.by-eye', 'aim.hazards']);

/** From a row to the channel of this place at its recorder, or to its planned view. */
export function ToRecorder({ check, deviceId }: { check: string; deviceId: string }) {
  if (viewed.has(check))
    return (
      <Link to="/views/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
        {t('card.to-view')}
      </Link>
    );
  if (!there.has(check)) return null;
  return (
    <Link to="/recording" search={{ device: deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
      {t('card.prove')}
    </Link>
  );
}
