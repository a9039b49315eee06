import { useState } from 'react';
import { t } from '../../texts';
import type { NetworkLedger } from './ledger';
import { NoteLine } from './NoteLine';

/** Of a large site the gravest are shown at once, the rest at a press. */
const AtOnce = 30;

/** Which device hangs on which port, by what the switches have learned: the gravest first. */
export function Ports({ ports, onPick }: { ports: NonNullable<NetworkLedger['ports']>; onPick: (device: string) => void }) {
  const [isAll, setAll] = useState(false);
  return (
    <section className="mt-3 border-t border-hairline pt-2" aria-label={t('address.ports')}>
      <h2 className="font-bold">
        {t('address.ports')}{' '}
        <span className="text-label font-normal text-ink-2">
          {t('address.ports.counts', Object.keys(ports.asPlanned).length, ports.unseen, ports.unasked)}
        </span>
      </h2>
      <ul className="mt-1">
        {ports.findings.slice(0, isAll ? undefined : AtOnce).map(({ note, device }) => (
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
      {!isAll && ports.findings.length > AtOnce && (
        <button className="min-h-11 text-label font-semibold underline" onClick={() => setAll(true)}>
          {t('address.all', ports.findings.length)}
        </button>
      )}
    </section>
  );
}
