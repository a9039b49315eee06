import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import { useKit } from '../../api/queries';
import { troubleOf } from '../../api/send';
import { useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { NewPassphraseField, UserNameField } from './Fields';
import { Trouble } from '../../ui/Trouble';

/** Nobody was ever let in: the one at this machine becomes somebody, lead and administrator. */
export function FirstAccount() {
  const client = useQueryClient();
  const { job } = useJob();
  const kit = useKit(job?.id);
  const who = useIdentity().personId;
  const person = kit.data?.people.find((p) => p.id === who && !p.left);
  const [typed, setName] = useState<string>();
  const name = typed ?? person?.name ?? '';
  const [userName, setUserName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [trouble, setTrouble] = useState<{ text: string; field?: string }>();
  const make = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await answered(
        api.POST('/api/access/first', {
          body: { name, userName, passphrase, people: job && person ? [{ jobId: job.id, personId: person.id }] : [] },
        }),
      );
      await client.invalidateQueries();
    } catch (error) {
      setTrouble({ text: troubleOf(error), field: error instanceof ProblemError ? error.problem.field : undefined });
    }
  };
  return (
    <form className="mt-5 max-w-[560px] border border-ink p-4" onSubmit={make}>
      <h2 className="text-lead font-bold">{t('access.first')}</h2>
      <p className="mb-3 text-ink-2">
        {t('access.first-hint')} {person && t('access.first-person', person.name)}
      </p>
      <Labelled label={t('access.name')}>
        <input className="field" autoComplete="name" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <UserNameField value={userName} onChange={setUserName} label={t('access.user-name-new')} />
      <NewPassphraseField value={passphrase} onChange={setPassphrase} />
      <Trouble text={trouble?.text} />
      <button className="forward" disabled={!name.trim() || !userName.trim() || !passphrase}>
        {t('access.make-first')}
      </button>
    </form>
  );
}
