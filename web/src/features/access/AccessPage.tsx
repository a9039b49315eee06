import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { accepted, answered, api } from '../../api/client';
import { useKit } from '../../api/queries';
import type { AccountAnswer, InvitationLine } from '../../api/types';
import { useAccess } from '../../session/access';
import { useJob } from '../../session/useJob';
import { has, t } from '../../texts';
import { moment } from '../../ui/format';
import { Waiting } from '../walk/WalkPage';
import { AccountSheet } from './AccountSheet';
import './accessTexts';
import { FirstAccount } from './FirstAccount';
import { InviteSheet } from './InviteSheet';
import { NetworkSection } from './NetworkSection';
import { SessionList } from './SessionList';

/** Who may come in, from where, and what happened at the door. */
export default function AccessPage() {
  const client = useQueryClient();
  const access = useAccess();
  const { job } = useJob();
  const kit = useKit(job?.id);
  const accounts = useQuery({ queryKey: ['accounts'], queryFn: () => answered(api.GET('/api/access/accounts')) });
  const sessions = useQuery({ queryKey: ['sessions'], queryFn: () => answered(api.GET('/api/access/sessions')) });
  const [inviting, setInviting] = useState<AccountAnswer | 'new'>();
  const [editing, setEditing] = useState<AccountAnswer>();
  if (!accounts.data || !access.data) return <Waiting error={accounts.error ?? access.error} again={() => void accounts.refetch()} />;
  const zone = job?.timeZone ?? 'UTC';
  const again = () => {
    for (const key of ['accounts', 'sessions', 'access']) void client.invalidateQueries({ queryKey: [key] });
  };
  const withdraw = async (invitation: InvitationLine) => {
    await accepted(api.DELETE('/api/access/invitations/{id}', { params: { path: { id: invitation.id } } })).catch(() => {});
    again();
  };
  const nameOfPerson = (account: AccountAnswer) => {
    const here = account.people.find((p) => p.jobId === job?.id);
    return here ? kit.data?.people.find((p) => p.id === here.personId)?.name : undefined;
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6 max-sm:p-4">
      <h1 className="text-title font-bold">{t('access.title')}</h1>
      {access.data.isDemo && access.data.isHere && <p className="mt-1 border-l-4 border-noted pl-3">{t('access.demo')}</p>}
      {access.data.mayBeFirst && <FirstAccount />}
      <div className="mt-5 grid grid-cols-1 gap-x-10 gap-y-8 min-[1100px]:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
        <section>
          <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.people')}</h2>
          {accounts.data.accounts.length === 0 && <p className="py-3 text-ink-2">{t('access.nobody')}</p>}
          <ul>
            {accounts.data.accounts.map((a) => (
              <li key={a.id}>
                <button
                  className="flex min-h-14 w-full flex-wrap items-center justify-between gap-x-4 border-b border-hairline py-2"
                  onClick={() => setEditing(a)}
                >
                  <span>
                    <span className={a.endedAt ? 'text-ink-3 line-through' : 'font-bold'}>{a.name}</span>{' '}
                    <span className="font-read text-label text-ink-2">{a.userName}</span>
                  </span>
                  <span className="text-label text-ink-2">
                    {[
                      ...a.roles.map((role) => t(`role.${role}`)),
                      a.endedAt ? t('access.shut-out') : nameOfPerson(a) ? undefined : job && t('access.not-of-job'),
                      a.lockedUntil && t('access.locked', moment(a.lockedUntil, zone)),
                    ]
                      .filter(Boolean)
                      .join(', ')}
                  </span>
                </button>
              </li>
            ))}
            {accounts.data.invitations.map((i) => (
              <li key={i.id} className="flex min-h-14 flex-wrap items-center justify-between gap-x-4 border-b border-hairline py-2">
                <span>
                  <span className="font-bold text-ink-2">{i.name}</span>{' '}
                  <span className="text-label text-ink-2">{t('access.invited-until', moment(i.endsAt, zone))}</span>
                </span>
                <button className="min-h-11 text-label font-semibold underline" onClick={() => void withdraw(i)}>
                  {t('access.withdraw')}
                </button>
              </li>
            ))}
          </ul>
          <button
            className="mt-2 min-h-11 font-semibold underline disabled:text-ink-3 disabled:no-underline"
            disabled={accounts.data.accounts.length === 0}
            onClick={() => setInviting('new')}
          >
            {t('access.invite')}
          </button>
          <h2 id="rights" className="mt-8 border-t border-ink pt-2 text-lead font-bold">
            {t('access.rights')}
          </h2>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-labelledby="rights">
            <table className="w-full min-w-[560px] text-label">
              <thead>
                <tr>
                  <th className="py-2 pr-3 text-left font-semibold text-ink-2">{t('access.may')}</th>
                  {accounts.data.roles.map((r) => (
                    <th key={r.role} scope="col" className="px-2 text-left font-semibold text-ink-2">
                      {t(`role.${r.role}`)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {[...new Set(accounts.data.roles.flatMap((r) => r.rights))].map((right) => (
                  <tr key={right} className="border-t border-hairline">
                    <th scope="row" className="py-1.5 pr-3 text-left font-normal">
                      {t(`right.${right[0].toUpperCase()}${right.slice(1)}`)}
                    </th>
                    {accounts.data.roles.map((r) => (
                      <td key={r.role} className="px-2 font-bold">
                        {r.rights.includes(right) ? t('ui.yes') : <span className="sr-only">{t('ui.no')}</span>}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
        <div className="grid grid-cols-1 content-start gap-y-8">
          <NetworkSection hasAccounts={accounts.data.accounts.length > 0} />
          <section>
            <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.sessions')}</h2>
            <SessionList sessions={sessions.data ?? []} zone={zone} onEnded={again} withNames />
          </section>
          <section>
            <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('access.events')}</h2>
            <ul className="max-h-[420px] overflow-y-auto text-label" tabIndex={0}>
              {accounts.data.events.map((e, n) => (
                <li key={n} className="flex flex-wrap gap-x-3 border-b border-hairline py-1.5">
                  <span className="font-read text-ink-2">{moment(e.at, zone)}</span>
                  <span className={e.what === 'refused' || e.what.startsWith('wrong') ? 'font-bold text-refused' : 'font-semibold'}>
                    {has(`access.event.${e.what}`) ? t(`access.event.${e.what}`) : e.what}
                  </span>
                  <span>{[e.name, e.detail].filter(Boolean).join(', ')}</span>
                  <span className="ml-auto font-read text-ink-2">{e.address}</span>
                </li>
              ))}
            </ul>
          </section>
        </div>
      </div>
      {inviting && (
        <InviteSheet
          account={inviting === 'new' ? undefined : inviting}
          taken={accounts.data.accounts}
          onClose={() => {
            setInviting(undefined);
            again();
          }}
        />
      )}
      {editing && (
        <AccountSheet
          account={editing}
          taken={accounts.data.accounts}
          onClose={() => {
            setEditing(undefined);
            again();
          }}
          onInvite={() => {
            setInviting(editing);
            setEditing(undefined);
          }}
        />
      )}
    </main>
  );
}
