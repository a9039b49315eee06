import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { AccountAnswer, InvitationLine, Role } from '../../api/types';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { moment } from '../../ui/format';
import { PersonField, RolesField } from './Choosing';
import { CodeDrawing } from './CodeDrawing';
import { Trouble } from '../../ui/Trouble';

/** A code for one person, shown once. For somebody who has an account it sets a new passphrase. */
export function InviteSheet({ account, taken, onClose }: { account?: AccountAnswer; taken: AccountAnswer[]; onClose: () => void }) {
  const { job } = useJob();
  const kit = useKit(job?.id);
  const [person, setPerson] = useState('');
  const [name, setName] = useState('');
  const [roles, setRoles] = useState<Role[]>(['technician']);
  const [made, setMade] = useState<InvitationLine>();
  const [trouble, setTrouble] = useState<string>();
  const drawing = useQuery({
    queryKey: ['code', made?.address],
    enabled: !!made?.address,
    queryFn: async () => (await fetch(`/api/network/code.svg?text=${encodeURIComponent(made!.address!)}`)).text(),
  });
  const called = kit.data?.people.find((p) => p.id === person)?.name ?? name.trim();
  const invite = async () => {
    setTrouble(undefined);
    try {
      let personId = person;
      // Somebody new of the job is one of its people from now on.
      if (!account && job && !personId && !roles.every((r) => r === 'administrator')) {
        const added = await answered(
          api.POST('/api/jobs/{jobId}/people', {
            params: { path: { jobId: job.id } },
            body: { id: v7(), name: called, role: t(`role.${roles[0]}`), mayWitness: false },
          }),
        );
        personId = added.id;
        setPerson(added.id);
        void kit.refetch();
      }
      setMade(
        await answered(
          api.POST('/api/access/invitations', {
            body: {
              name: account?.name ?? called,
              roles: account?.roles ?? roles,
              people: !account && job && personId ? [{ jobId: job.id, personId }] : [],
              accountId: account?.id ?? null,
            },
          }),
        ),
      );
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  if (made)
    return (
      <Sheet title={t('access.invitation', made.name)} hint={t('access.invitation-hint')} onClose={onClose}>
        <p className="font-read text-title font-bold select-all">{made.code}</p>
        <p className="mt-1 text-label text-ink-2">{t('access.invited-until', moment(made.endsAt, job?.timeZone ?? 'UTC'))}</p>
        {made.address && drawing.data ? (
          <>
            <CodeDrawing svg={drawing.data} label={t('access.invitation-code')} />
            <p className="mt-2 text-label text-ink-2">{t('access.invitation-scan')}</p>
          </>
        ) : (
          <p className="mt-3 border-l-4 border-noted pl-3">{t('access.invitation-closed')}</p>
        )}
        <button className="forward mt-4" onClick={onClose}>
          {t('ui.done')}
        </button>
      </Sheet>
    );
  return (
    <Sheet
      title={account ? t('access.anew', account.name) : t('access.invite')}
      hint={t(account ? 'access.anew-hint' : 'access.invite-hint')}
      onClose={onClose}
    >
      {!account && (
        <>
          {job && kit.data && (
            <PersonField
              people={kit.data.people}
              taken={taken.flatMap((a) => a.people.map((p) => p.personId))}
              value={person}
              onChange={setPerson}
            />
          )}
          {!person && (
            <Labelled label={t('access.name')}>
              <input className="field" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
            </Labelled>
          )}
          <RolesField roles={roles} onChange={setRoles} />
        </>
      )}
      <Trouble text={trouble} />
      <button className="forward" disabled={!account && (!called || roles.length === 0)} onClick={() => void invite()}>
        {t('access.make-code')}
      </button>
    </Sheet>
  );
}
