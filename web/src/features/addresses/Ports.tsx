import { t } from '../../texts';
import type { NetworkLedger } from './ledger';
import { NoteLine } from './NoteLine';

/** Which device hangs on which port, by what the switches have learned: the gravest first. */
export function Ports({ ports, onPick }: { ports: NonNullable<NetworkLedger['ports']>; onPick: (device: string) => void }) {
  return (
    <section className="mt-3 border-t border-hairline pt-2" aria-label={t('address.ports')}>
      <h2 className="font-bold">
        {t('address.ports')}{' '}
        <span className="text-label font-normal text-ink-2">
          {t('address.ports.counts', ports.asPlanned.length, ports.unseen, ports.unasked)}
        </span>
      </h2>
      <ul className="mt-1">
        {ports.findings.map(({ note, device }) => (
          <li
            key={`${note.code} ${note.args.join(' ')}`}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-dotted border-hairline py-1"
          >
            <NoteLine note={note} inline />
            {device && (
              <button className="-my-2.5 min-h-11 text-label font-semibold underline" onClick={() => onPick(device)}>
                {t('address.show', note.args[0] ?? '')}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
