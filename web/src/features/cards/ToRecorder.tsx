import { Link } from '@tanstack/react-router';
import { t } from '../../texts';

/** Rows that are answered at the recorder: by what it says of the channel, and by its clips. */
const there = new Set(['recorder.clip', 'recorder.clip-after', 'recorder.name', 'recorder.mode', 'recorder.registered', 'recorder.disk']);

/** From a row to the channel of this place at its recorder. */
export function ToRecorder({ check, deviceId }: { check: string; deviceId: string }) {
  if (!there.has(check)) return null;
  return (
    <Link to="/recording" search={{ device: deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
      {t('card.prove')}
    </Link>
  );
}
