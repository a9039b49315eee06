import { t } from '../../texts';
import type { NetworkLedger } from './ledger';
import { NoteLine } from './NoteLine';

type Leases = NonNullable<NetworkLedger['leases']>;

const gravest = (notes: Leases['notes']) => Math.min(3, ...notes.map((n) => ['wrong', 'look', 'told'].indexOf(n.weight)));

/** Who gives addresses on this network, and what is wrong with that: the gravest first. */
export function Leases({ leases }: { leases: Leases }) {
  const servers = [...leases.servers].sort((a, b) => gravest(a.notes) - gravest(b.notes));
  return (
    <section className="mt-3 border-t border-hairline pt-2" aria-label={t('address.leases')}>
      <h2 className="font-bold">{t('address.leases')}</h2>
      {leases.notes.map((n) => (
        <NoteLine key={n.code} note={n} inline />
      ))}
      <ul className="mt-1">
        {servers.map((s) => (
          <li key={s.address} className="grid grid-cols-[9rem_1fr] gap-x-4 border-t border-dotted border-hairline py-1 max-sm:grid-cols-1">
            <span>
              <span className="font-read text-[1.05rem]">{s.address}</span>
              {s.label && <b className="ml-2">{s.label}</b>}
            </span>
            <div className="min-w-0">
              {s.notes.map((n) => (
                <NoteLine key={n.code} note={n} inline />
              ))}
              <p className="text-label text-ink-2">
                {t(
                  'address.leases.offers',
                  s.offer.offered,
                  s.offer.mask ?? '-',
                  s.offer.gateway ?? '-',
                  s.offer.leaseSeconds === null ? '-' : Math.round(s.offer.leaseSeconds / 360) / 10,
                )}
              </p>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
