import { Radios } from '../../ui/Radios';
import '../pageTexts';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { entry, troubleOf } from '../../api/send';
import type { WalkStop } from '../../api/types';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';

type Kind = 'blocked' | 'setAside' | 'free' | 'restarted';

/** One word for several Cards, where it is honest. Readings are never taken in bulk. */
export default function MarkSheet({ jobId, stops, onClose }: { jobId: string; stops: WalkStop[]; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(() => v7());
  const [kind, setKind] = useState<Kind>(stops.some((s) => s.blocked) ? 'free' : 'blocked');
  const [left, setLeft] = useState<Set<string>>(new Set());
  const [reason, setReason] = useState('');
  const [by, setBy] = useState('');
  const [until, setUntil] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const [busy, setBusy] = useState(false);
  const chosen = stops.filter((s) => !left.has(s.id));
  const ready = chosen.length > 0 && !busy && (kind === 'free' || (reason.trim() && (kind !== 'blocked' || by.trim())));
  const save = async () => {
    setBusy(true);
    try {
      await answered(
        api.POST('/api/jobs/{jobId}/marks', {
          params: { path: { jobId } },
          body: {
            ...entry(id),
            kind,
            deviceIds: chosen.map((s) => s.id),
            reason: reason.trim() || null,
            blockedBy: kind === 'blocked' ? by.trim() : null,
            until: until || null,
          },
        }),
      );
      await client.invalidateQueries({ queryKey: ['walk'] });
      onClose();
    } catch (error) {
      setTrouble(troubleOf(error));
      setBusy(false);
    }
  };
  return (
    <Sheet title={t('mark.title')} hint={t('mark.hint')} onClose={onClose}>
      <Radios label={t('mark.title')} className="mb-3 grid grid-cols-2 gap-2">
        {(['blocked', 'setAside', 'free', 'restarted'] as Kind[]).map((k) => (
          <button
            key={k}
            role="radio"
            aria-checked={kind === k}
            className={`plain text-center ${kind === k ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => setKind(k)}
          >
            {t(`mark.${k}`)}
          </button>
        ))}
      </Radios>
      {kind === 'blocked' && (
        <div className="flex gap-3">
          <div className="flex-1">
            <Labelled label={t('mark.by')}>
              <input className="field" value={by} maxLength={120} onChange={(e) => setBy(e.target.value)} />
            </Labelled>
          </div>
          <Labelled label={t('mark.until')}>
            <input className="field" type="date" value={until} onChange={(e) => setUntil(e.target.value)} />
          </Labelled>
        </div>
      )}
      {kind !== 'free' && (
        <Labelled label={t(kind === 'restarted' ? 'mark.what' : 'dialog.reason')}>
          <textarea className="field" rows={2} maxLength={400} value={reason} onChange={(e) => setReason(e.target.value)} />
        </Labelled>
      )}
      <p className="mb-1 text-label font-semibold text-ink-2">{t('mark.which', chosen.length, stops.length)}</p>
      <ul className="mb-4 max-h-44 overflow-y-auto border-y border-hairline">
        {stops.slice(0, 300).map((s) => (
          <li key={s.id}>
            <label className="flex min-h-9 items-center gap-3 border-b border-hairline px-1">
              <input
                type="checkbox"
                className="h-5 w-5 accent-ink"
                checked={!left.has(s.id)}
                onChange={() => {
                  const next = new Set(left);
                  if (!next.delete(s.id)) next.add(s.id);
                  setLeft(next);
                }}
              />
              <span className="font-read font-bold">{s.label}</span> <span className="truncate text-label text-ink-2">{s.name}</span>
            </label>
          </li>
        ))}
        {stops.length > 300 && <li className="py-2 text-label text-ink-2">{t('mark.more', stops.length - 300)}</li>}
      </ul>
      <Trouble text={trouble} />
      <button className="forward w-full text-center disabled:opacity-50" disabled={!ready} onClick={() => void save()}>
        {t('mark.save', chosen.length)}
      </button>
    </Sheet>
  );
}
