import '../pageTexts';
import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Trouble } from '../../ui/Trouble';
import { call } from '../demo/call';

interface HeadTruth {
  head: number;
  pan: number;
  tilt: number;
  roll: number;
  isLocked: boolean;
  note: string | null;
}

const hands = [
  ['left', -1, 0, 0],
  ['right', 1, 0, 0],
  ['up', 0, -1, 0],
  ['down', 0, 1, 0],
  ['counterClockwise', 0, 0, -1],
  ['clockwise', 0, 0, 1],
] as const;

/** The made-up world's hand on the camera. */
export function DemoTurn({ label, head }: { label: string; head: number }) {
  const [heads, setHeads] = useState<HeadTruth[]>();
  const [by, setBy] = useState(0.5);
  const [trouble, setTrouble] = useState<string>();
  const at = `views/${encodeURIComponent(label)}`;
  const ask = (what: Promise<HeadTruth[]>) =>
    what.then((h) => (setTrouble(undefined), setHeads(h))).catch((e: Error) => setTrouble(e.message));
  useEffect(() => {
    call<HeadTruth[]>(`views/${encodeURIComponent(label)}`)
      .then(setHeads)
      .catch(() => {});
  }, [label]);
  const truth = heads?.find((h) => h.head === head);
  if (!truth) return null;
  return (
    <section aria-label={t('aim.demo')} className="mt-4 border-t border-hairline pt-2" data-testid="demo-turn">
      <p className="text-label">
        <b>{t('aim.demo')}</b> <span className="text-ink-3">{t('aim.demo-how')}</span>
      </p>
      <Trouble text={trouble} className="mt-1" />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        {hands.map(([way, pan, tilt, roll]) => (
          <button
            key={way}
            className="plain"
            disabled={truth.isLocked}
            onClick={() => void ask(call<HeadTruth[]>(`${at}/turn`, { head, pan: pan * by, tilt: tilt * by, roll: roll * by }))}
          >
            {t(`aim.way.${way}`)}
          </button>
        ))}
        {[0.1, 0.5, 2].map((d) => (
          <button
            key={d}
            className={`plain ${by === d ? '!border-2 !border-ink font-bold' : ''}`}
            aria-pressed={by === d}
            onClick={() => setBy(d)}
          >
            {d}
            {'\u00b0'}
          </button>
        ))}
        <button
          className="plain"
          aria-pressed={truth.isLocked}
          onClick={() => void ask(call<HeadTruth[]>(`${at}/lock`, { tight: !truth.isLocked }))}
        >
          {truth.isLocked ? t('aim.demo-loosen') : t('aim.demo-tighten')}
        </button>
      </div>
    </section>
  );
}
