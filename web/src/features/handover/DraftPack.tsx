import { useCallback, useState } from 'react';
import { answered, api } from '../../api/client';
import type { WorkAnswer } from '../../api/types';
import { t } from '../../texts';
import { Progress } from '../../ui/Progress';
import { useLongWork } from '../../api/useLongWork';
import { Trouble } from '../../ui/Trouble';

/** The pack to read and page through before anybody signs; it says so itself where the record has gone on since. */
export function DraftPack({ jobId, of, languages, shown }: { jobId: string; of: string; languages: string[]; shown: string }) {
  const [made, setMade] = useState<{ work: WorkAnswer; of: string }>();
  const done = useCallback((work: WorkAnswer) => setMade({ work, of }), [of]);
  const { work, running, trouble, begin } = useLongWork(done);
  const draft = made?.of === of ? made.work.draft : undefined;
  const make = (language: string) =>
    begin(
      answered(api.POST('/api/jobs/{jobId}/handover/draft', { params: { path: { jobId } }, body: { deviceId: of || null, language } })),
    );
  return (
    <div className="my-3 border-y border-hairline py-2">
      {running ? (
        <Progress work={work} what={t('handover.draft-making')} />
      ) : (
        <div className="flex flex-wrap items-center gap-x-5">
          {languages.map((language) => (
            <button key={language} className="plain" onClick={() => make(language)}>
              {languages.length > 1 ? `${t('handover.draft')} (${t(`language.${language}`)})` : t('handover.draft')}
            </button>
          ))}
          {draft?.files.map((file, i) => (
            <a
              key={file}
              className="flex min-h-11 items-center font-semibold underline"
              href={`/api/jobs/${jobId}/handover/draft/${draft.id}/${file}`}
              target="_blank"
              rel="noreferrer"
            >
              {draft.files.length > 1 ? t('handover.draft-volume', i + 1) : t('handover.draft-open')}
            </a>
          ))}
        </div>
      )}
      <p className="text-label text-ink-2">{t('handover.draft-hint')}</p>
      {draft && of === '' && draft.shown !== shown && <p className="text-label font-semibold text-noted">{t('handover.draft-old')}</p>}
      <Trouble text={trouble} className="" />
    </div>
  );
}
