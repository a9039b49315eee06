import type { Attempt } from '../../api/types';
import { t } from '../../texts';
import type { Entry } from './entry';

/** Takes a picture for the reading that is being entered: kept on this device with it, and sent before it. */
export function TakePicture({ entry, className }: { entry: Entry; className: string }) {
  return (
    <label className={`${className} inline-flex cursor-pointer items-center`}>
      {entry.seen.length > 0 ? t('button.picture-taken', entry.seen.length) : t('button.picture')}
      <input
        type="file"
        accept="image/jpeg,image/png"
        capture="environment"
        className="sr-only"
        data-testid="take-picture"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void entry.see(file);
        }}
      />
    </label>
  );
}

/** What a reading was seen in, each to be looked at. */
export function SeenIn({ attempt, deviceId }: { attempt: Attempt; deviceId: string }) {
  if (attempt.evidence.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-3 pl-8 text-tick">
      {attempt.evidence.map((e, i) => (
        <a
          key={e.pictureId}
          className="inline-flex min-h-6 items-center font-semibold underline max-sm:min-h-11"
          href={`/api/cards/${deviceId}/pictures/${e.pictureId}.jpg`}
          target="_blank"
          rel="noreferrer"
        >
          {t('card.seen-in', i + 1)}
          {e.algorithm && <span className="font-normal text-ink-2">, {t('card.measured-by', e.algorithm, e.algorithmVersion)}</span>}
        </a>
      ))}
    </p>
  );
}
