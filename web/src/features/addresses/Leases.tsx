import { say, t } from '../../texts';
import type { NetworkLedger } from './ledger';
import { NoteLine } from './NoteLine';

/** Who gives addresses on this network, and what is wrong with that: the gravest first. */
export function Leases({ leases }: { leases: NonNullable<NetworkLedger['leases']> }) {
  return (
    <section className="mt-3 border-t border-hairline pt-2" aria-label={t('address.leases')}>
      <h2 className="font-bold">{t('address.leases')}</h2>
      {leases.notes.map((n) => (
        <NoteLine key={n.code} note={n} inline />
      ))}
      <ul className="mt-1">
        {leases.servers.map((s) => (
          <li key={s.address} className="grid grid-cols-[9rem_1fr] gap-x-4 border-t border-dotted border-hairline py-1 max-sm:grid-cols-1">
            <span>
              <span className="font-read text-[1.05rem]">{s.address}</span>
              {s.label && <b className="ml-2">{s.label}</b>}
            </span>
            <div className="min-w-0">
              {s.notes.map((n) => (
                <NoteLine key={n.code} note={n} inline />
              ))}
              <p className="text-label text-ink-2">{s.offers.map(say).join(', ')}</p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
