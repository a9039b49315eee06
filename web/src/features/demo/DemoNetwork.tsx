import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import { call } from './call';

interface Odd {
  label: string;
  address: string;
  note: string;
  starts: boolean;
}

/** What is planted in the made-up network, and the hands that put it right. */
export default function DemoNetwork({ onClose }: { onClose: () => void }) {
  const [planted, setPlanted] = useState<Odd[]>();
  const [trouble, setTrouble] = useState<string>();
  const ask = (what: Promise<Odd[]>) =>
    what.then((odds) => (setTrouble(undefined), setPlanted(odds))).catch((e: Error) => setTrouble(e.message));
  useEffect(() => void ask(call<Odd[]>('network')), []);
  const work = (label: string, what: 'mend' | 'restart') => void ask(call<Odd[]>(`network/${encodeURIComponent(label)}/${what}`, {}));
  return (
    <Sheet title={t('address.demo')} hint={t('address.demo-hint')} onClose={onClose}>
      <Trouble text={trouble} className="mb-2" />
      {planted?.length === 0 && <p>{t('address.demo.none')}</p>}
      <ul>
        {planted?.map((odd) => (
          <li key={odd.label} className="flex flex-wrap items-center gap-x-3 border-b border-dotted border-hairline py-1">
            <span className="min-w-48 flex-1 max-sm:basis-full">
              <b>{odd.label}</b> <span className="font-read">{odd.address}</span>: {odd.note}
            </span>
            {odd.starts && (
              <button type="button" className="min-h-11 text-label font-semibold underline" onClick={() => work(odd.label, 'restart')}>
                {t('address.demo.restart')}
              </button>
            )}
            <button type="button" className="plain" onClick={() => work(odd.label, 'mend')}>
              {t('address.demo.mend')}
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
