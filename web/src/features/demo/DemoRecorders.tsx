import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import { call } from './call';

interface Planted {
  recorder: string;
  channel?: number | null;
  note: string;
}

/** What is planted at the made-up recorders, and the hands that put it right. */
export default function DemoRecorders({ label, onClose }: { label: string; onClose: () => void }) {
  const [planted, setPlanted] = useState<Planted[]>();
  const [trouble, setTrouble] = useState<string>();
  const ask = (what: Promise<Planted[]>) =>
    what.then((all) => (setTrouble(undefined), setPlanted(all))).catch((e: Error) => setTrouble(e.message));
  useEffect(() => void ask(call<Planted[]>('recorders')), []);
  const of = planted?.filter((p) => p.recorder === label);
  const at = `recorders/${encodeURIComponent(label)}`;
  return (
    <Sheet title={t('rec.demo')} hint={t('rec.demo-hint')} onClose={onClose}>
      <Trouble text={trouble} className="mb-2" />
      <button type="button" className="plain my-2" onClick={() => void ask(call<Planted[]>(`${at}/restart`, {}))}>
        {t('rec.demo.restart', label)}
      </button>
      {of?.length === 0 && <p>{t('rec.demo.none')}</p>}
      <ul>
        {of?.map((p) => (
          <li key={p.channel ?? 0} className="flex flex-wrap items-center gap-x-3 border-b border-dotted border-hairline py-1">
            <span className="min-w-48 flex-1 max-sm:basis-full">
              <b>{p.channel ? t('rec.channel', p.channel) : label}</b>: {p.note}
            </span>
            <button type="button" className="plain" onClick={() => void ask(call<Planted[]>(`${at}/mend`, { channel: p.channel ?? null }))}>
              {t('rec.demo.mend')}
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
