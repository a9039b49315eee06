import { lazy, Suspense, useState } from 'react';
import type { Attempt } from '../../api/types';
import { t } from '../../texts';
import type { Entry } from './entry';

const MeasuredSheet = lazy(() => import('./MeasuredSheet'));

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

/** What a reading was seen in, each to be looked at; what was measured in is shown with the measurement drawn in. */
export function SeenIn({ attempt, deviceId }: { attempt: Attempt; deviceId: string }) {
  const [isOpen, setOpen] = useState(false);
  if (attempt.evidence.length === 0) return null;
  const link = 'inline-flex min-h-6 items-center font-semibold underline max-sm:min-h-11';
  return (
    <p className="flex flex-wrap gap-x-3 pl-8 text-tick">
      {attempt.evidence.map((e, i) =>
        e.algorithm ? (
          <button key={e.pictureId} type="button" className={link} onClick={() => setOpen(true)}>
            {t('card.seen-in', i + 1)}, {t('card.measured-by', e.algorithm, e.algorithmVersion)}
          </button>
        ) : (
          <a
            key={e.pictureId}
            className={link}
            href={`/api/cards/${deviceId}/pictures/${e.pictureId}.jpg`}
            target="_blank"
            rel="noreferrer"
          >
            {t('card.seen-in', i + 1)}
          </a>
        ),
      )}
      {isOpen && (
        <Suspense>
          <MeasuredSheet deviceId={deviceId} readingId={attempt.readingId} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </p>
  );
}
