import { useState } from 'react';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { AccountAnswer } from '../../api/types';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { PersonField, RolesField } from './Choosing';
import { Trouble } from '../../ui/Trouble';

/** What somebody is, who he is in the job at hand, and whether he may come in. */
export function AccountSheet({
  account,
  taken,
  onClose,
  onInvite,
}: {
  account: AccountAnswer;
  taken: AccountAnswer[];
  onClose: () => void;
  onInvite: () => void;
}) {
  const { job } = useJob();
  const kit = useKit(job?.id);
  const [roles, setRoles] = useState(account.roles);
  const [person, setPerson] = useState(account.people.find((p) => p.jobId === job?.id)?.personId ?? '');
  const [asking, setAsking] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const change = async (ended: boolean) => {
    const elsewhere = account.people.filter((p) => p.jobId !== job?.id);
    try {
      await answered(
        api.PUT('/api/access/accounts/{id}', {
          params: { path: { id: account.id } },
          body: { roles, people: job && person ? [...elsewhere, { jobId: job.id, personId: person }] : elsewhere, ended },
        }),
      );
      onClose();
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  return (
    <Sheet title={account.name} hint={account.userName} onClose={onClose}>
      <RolesField roles={roles} onChange={setRoles} />
      {job && kit.data && (
        <PersonField
          people={kit.data.people}
          taken={taken.filter((a) => a.id !== account.id).flatMap((a) => a.people.map((p) => p.personId))}
          value={person}
          onChange={setPerson}
        />
      )}
      <Trouble text={trouble} />
      {asking ? (
        <div role="alertdialog" aria-label={t('access.shut-out-ask', account.name)} className="mb-3 border border-refused p-3">
          <p className="font-semibold">{t('access.shut-out-ask', account.name)}</p>
          <div className="mt-2 flex flex-wrap gap-x-5">
            <button className="plain" autoFocus onClick={() => setAsking(false)}>
              {t('access.keep-in')}
            </button>
            <button className="min-h-11 font-semibold text-refused underline" onClick={() => void change(true)}>
              {t('access.shut-out-do')}
            </button>
          </div>
        </div>
      ) : (
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <button className="forward" onClick={() => void change(false)}>
            {t(account.endedAt ? 'access.let-in-again' : 'button.save')}
          </button>
          {!account.endedAt && (
            <>
              <button className="min-h-11 font-semibold underline" onClick={onInvite}>
                {t('access.anew-do')}
              </button>
              <button className="min-h-11 font-semibold text-refused underline" onClick={() => setAsking(true)}>
                {t('access.shut-out-do')}
              </button>
            </>
          )}
        </div>
      )}
    </Sheet>
  );
}
