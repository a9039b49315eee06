import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { NetworkAnswer } from '../../api/types';
import { useAccess } from '../../session/access';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Fingerprint } from '../../ui/Fingerprint';
import { CodeDrawing } from './CodeDrawing';
import { Trouble } from '../../ui/Trouble';
import { day } from '../../ui/format';

/** Whether phones come in, at which address, and the code that their camera reads. */
export function NetworkSection({ hasAccounts }: { hasAccounts: boolean }) {
  const client = useQueryClient();
  const access = useAccess();
  const network = useQuery({ queryKey: ['network'], queryFn: () => answered(api.GET('/api/network')) });
  const [address, setAddress] = useState<string>();
  const [port, setPort] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string>();
  const now = network.data;
  const change = async (to: string) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      client.setQueryData<NetworkAnswer>(
        ['network'],
        await answered(api.PUT('/api/network', { body: { address: to, port: Number(port ?? now?.port) } })),
      );
    } catch (error) {
      setTrouble(troubleOf(error));
    }
    setBusy(false);
  };
  const chosen = address ?? now?.open ?? now?.own[0]?.address ?? '';
  const here = access.data?.isHere;
  return (
    <section>
      <h2 className="border-t border-ink pt-2 text-lead font-bold">{t('network.title')}</h2>
      {now?.address && now.code ? (
        <>
          <p className="mt-1">{t('network.open')}</p>
          <p className="font-read text-body font-bold select-all">{now.address}</p>
          <CodeDrawing svg={now.code} label={t('network.code', now.address)} />
          <p className="mt-2 text-label text-ink-2">{t(now.isGiven ? 'network.given' : 'network.compare')}</p>
          <Fingerprint of={now.fingerprint} />
          <p className={`mt-1 text-label ${now.daysLeft < 30 ? 'font-bold text-noted' : 'text-ink-2'}`}>
            {t(now.daysLeft < 1 ? 'network.ends-today' : 'network.until', day(now.until.slice(0, 10)), now.daysLeft)}
          </p>
          {here && (
            <button className="plain mt-3" disabled={busy} onClick={() => void change('')}>
              {t('network.close')}
            </button>
          )}
        </>
      ) : (
        <>
          <p className="mt-1 text-ink-2">{t(hasAccounts ? 'network.closed' : 'network.closed-no-account')}</p>
          {here && now && hasAccounts && (
            <div className="mt-3">
              <Labelled label={t('network.address')}>
                <select className="field" value={chosen} onChange={(e) => setAddress(e.target.value)}>
                  {now.own.map((a) => (
                    <option key={a.address} value={a.address}>
                      {`${a.address} (${a.card})`}
                    </option>
                  ))}
                  <option value="all">{t('network.all')}</option>
                </select>
              </Labelled>
              <Labelled label={t('network.port')}>
                <input
                  className="field font-read"
                  inputMode="numeric"
                  maxLength={5}
                  value={port ?? String(now.port)}
                  onChange={(e) => setPort(e.target.value)}
                />
              </Labelled>
              <button className="forward" disabled={busy || !chosen} onClick={() => void change(chosen)}>
                {t('network.let-in')}
              </button>
            </div>
          )}
        </>
      )}
      {!here && <p className="mt-2 text-label text-ink-2">{t('problem.network-is-here')}</p>}
      <Trouble text={trouble} className="mt-3" />
    </section>
  );
}
