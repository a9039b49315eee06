import { Radios } from '../../ui/Radios';
import { useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api, NoNetworkError, ProblemError } from '../../api/client';
import type { AccessAnswer, KitAnswer } from '../../api/types';
import { troubleOf } from '../../api/send';
import { mayDo, someoneElse } from '../../session/access';
import { setIdentity, useIdentity } from '../../session/identity';
import '../access/accessTexts';
import { TakeOver } from '../access/Fields';
import { Trouble } from '../../ui/Trouble';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { day } from '../../ui/format';

/** Who and with what: chosen once per browser. */
export function IdentitySheet({
  jobId,
  kit,
  onClose,
  forced,
  access,
}: {
  jobId: string;
  kit: KitAnswer;
  onClose: () => void;
  forced: boolean;
  access?: AccessAnswer;
}) {
  const me = useIdentity();
  const client = useQueryClient();
  const [adding, setAdding] = useState(false);
  const [name, setName] = useState('');
  const [role, setRole] = useState('technician');
  const [trouble, setTrouble] = useState<string>();
  const add = async () => {
    try {
      const person = await answered(
        api.POST('/api/jobs/{jobId}/people', { params: { path: { jobId } }, body: { id: v7(), name, role, mayWitness: false } }),
      );
      await client.invalidateQueries({ queryKey: ['kit'] });
      setIdentity({ personId: person.id });
      setAdding(false);
    } catch (error) {
      setTrouble(
        error instanceof ProblemError ? error.problem.detail : error instanceof NoNetworkError ? t('ui.no-network') : String(error),
      );
    }
  };
  const choice = (on: boolean) =>
    `flex min-h-12 w-full items-center justify-between gap-3 border-b border-hairline px-2 ${on ? 'bg-paper-hi font-bold' : ''}`;
  return (
    <Sheet
      title={access?.me ? t('access.signed-in-as', access.me.name) : t('ui.who')}
      hint={access?.me ? undefined : t('ui.who-hint')}
      onClose={onClose}
    >
      {access?.me ? (
        <Account access={access} isOfJob={!!me.personId} onClose={onClose} />
      ) : (
        <Radios label={t('ui.who')}>
          {kit.people
            .filter((p) => !p.left)
            .map((person) => (
              <button
                key={person.id}
                role="radio"
                aria-checked={me.personId === person.id}
                className={choice(me.personId === person.id)}
                onClick={() => setIdentity({ personId: person.id })}
              >
                <span>{person.name}</span> <span className="text-label font-normal text-ink-2">{person.role}</span>
              </button>
            ))}
        </Radios>
      )}
      {access?.me ? null : adding ? (
        <div className="mt-3">
          <Labelled label={t('ui.name')}>
            <input className="field" value={name} onChange={(e) => setName(e.target.value)} maxLength={80} />
          </Labelled>
          <Labelled label={t('ui.role')}>
            <input className="field" value={role} onChange={(e) => setRole(e.target.value)} maxLength={80} />
          </Labelled>
          {trouble && <p className="mb-2 text-refused">{trouble}</p>}
          <button className="plain" onClick={add}>
            {t('button.save')}
          </button>
        </div>
      ) : (
        <button className="mt-2 min-h-11 px-2 text-label font-semibold underline" onClick={() => setAdding(true)}>
          {t('ui.new-person')}
        </button>
      )}
      {access && !access.me && access.isHere && (
        <p className="mt-1 px-2 text-label text-ink-2">
          {t(access.isDemo ? 'access.demo' : 'access.alone')}{' '}
          <Link to="/access" className="font-semibold underline" onClick={onClose}>
            {t('access.title')}
          </Link>
        </p>
      )}
      {mayDo(access, 'work') && (
        <>
          {' '}
          <h3 className="mt-5 text-body font-bold">{t('ui.instrument')}</h3>
          <Radios label={t('ui.instrument')}>
            {kit.instruments
              .filter((i) => !i.retired)
              .map((i) => {
                const counts = i.calibration === 'valid' || i.calibration === 'dueSoon';
                return (
                  <button
                    key={i.id}
                    role="radio"
                    aria-checked={me.instrumentId === i.id}
                    className={choice(me.instrumentId === i.id)}
                    onClick={() => setIdentity({ instrumentId: i.id })}
                  >
                    <span>
                      {i.name} <span className="font-read text-label font-normal text-ink-2">{i.serial}</span>
                    </span>
                    <span className={`text-label font-normal ${counts ? 'text-ink-2' : 'font-bold text-refused'}`}>
                      {counts ? t('ui.due', day(i.calibrationDue)) : t('ui.expired')}
                    </span>
                  </button>
                );
              })}
            <button
              role="radio"
              aria-checked={!me.instrumentId}
              className={choice(!me.instrumentId)}
              onClick={() => setIdentity({ instrumentId: undefined })}
            >
              {t('ui.no-instrument')}
            </button>
          </Radios>
        </>
      )}
      <div className="mt-5 flex gap-2">
        <button className="plain" onClick={() => setIdentity({ night: !me.night })}>
          {t(me.night ? 'button.day' : 'button.night')}
        </button>
        <button className="plain max-sm:hidden" aria-pressed={!me.lettersOff} onClick={() => setIdentity({ lettersOff: !me.lettersOff })}>
          {t('button.letters')}
        </button>
        <button className="plain sm:hidden" aria-pressed={me.leftHand} onClick={() => setIdentity({ leftHand: !me.leftHand })}>
          {t('button.left-hand')}
        </button>
        <button className="forward ml-auto" onClick={onClose}>
          {t(forced && !me.personId ? 'access.just-look' : 'ui.done')}
        </button>
      </div>
    </Sheet>
  );
}

/** Who is signed in, and the ways to be somebody else. */
function Account({ access, isOfJob, onClose }: { access: AccessAnswer; isOfJob: boolean; onClose: () => void }) {
  const client = useQueryClient();
  const [trouble, setTrouble] = useState<string>();
  const others = access.here.filter((h) => h.id !== access.me?.id);
  const take = async (how: () => Promise<unknown>) => {
    try {
      await how();
      await someoneElse(client);
      onClose();
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  return (
    <>
      {!isOfJob && <p className="mt-2 border-l-4 border-noted pl-3">{t('access.not-in-job')}</p>}
      <p className="flex flex-wrap gap-x-6">
        <Link to="/me" className="flex min-h-11 items-center font-semibold underline" onClick={onClose}>
          {t('access.manage')}
        </Link>
        {access.me!.rights.includes('admit') && (
          <Link to="/access" className="flex min-h-11 items-center font-semibold underline" onClick={onClose}>
            {t('access.title')}
          </Link>
        )}
      </p>
      {others.length > 0 && (
        <div className="mt-2 border-t border-hairline pt-3">
          <Trouble text={trouble} className="mb-2" />
          <TakeOver here={others} label={t('access.switch')} enter={(how) => void take(how)} />
        </div>
      )}
    </>
  );
}
