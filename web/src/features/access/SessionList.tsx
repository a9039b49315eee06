import { useState } from 'react';
import { accepted, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { SessionLine } from '../../api/types';
import { t } from '../../texts';
import { moment } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';

/** Browsers in which somebody is signed in, each with the press that ends it. */
export function SessionList({
  sessions,
  zone,
  onEnded,
  withNames,
}: {
  sessions: SessionLine[];
  zone: string;
  onEnded: () => void;
  withNames?: boolean;
}) {
  const [trouble, setTrouble] = useState<string>();
  const end = async (id: string) => {
    try {
      await accepted(api.DELETE('/api/access/sessions/{id}', { params: { path: { id } } }));
      setTrouble(undefined);
      onEnded();
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  return (
    <>
      {sessions.length === 0 && <p className="py-3 text-ink-2">{t('access.no-sessions')}</p>}
      <ul>
        {sessions.map((s) => (
          <li key={s.id} className="flex min-h-14 items-center justify-between gap-4 border-b border-hairline py-1.5">
            <span className="min-w-0">
              <span className="block font-semibold">
                {[withNames && s.name, s.device, s.isThis && t('access.this-one')].filter(Boolean).join(', ')}
              </span>
              <span className="block text-label text-ink-2">
                {t('access.seen', moment(s.seenAt, zone))} <span className="font-read">{s.address}</span>
              </span>
            </span>
            <button className="min-h-11 shrink-0 text-label font-semibold underline" onClick={() => void end(s.id)}>
              {t('access.end')}
            </button>
          </li>
        ))}
      </ul>
      <Trouble text={trouble} className="mt-2" />
    </>
  );
}
