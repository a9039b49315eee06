import '../pageTexts';
import { useEffect, useState } from 'react';
import type { CardAnswer } from '../../api/types';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import { call } from './call';

interface RunTruth {
  label: string;
  isHealthy: boolean;
  note: string | null;
  inHand: {
    missingPart: string | null;
    firmware: string;
    light: string;
    modeSwitch: string;
    seen: { check: string; says: string; note: string; mend: string }[];
  };
}

interface Clock {
  speed: number;
  dark: boolean;
}

const works: [string, string | undefined][] = [
  ['re-crimp', 'near'],
  ['re-crimp', 'far'],
  ['re-punch', 'near'],
  ['re-punch', 'far'],
  ['cord-replaced', undefined],
  ['cable-replaced', undefined],
  ['hard-pull', undefined],
  ['feed-changed', undefined],
  ['mode-switch', undefined],
  ['restarted', undefined],
  ['update-started', undefined],
];
const moods = ['Normal', 'Silent', 'Nonsense', 'OtherRun'];

/** The demo's hidden truth: work done here changes what the tester reads next. */
export function DemoSheet({ answer, onClose }: { answer: CardAnswer; onClose: () => void }) {
  const run = answer.place.runs[0];
  const [truth, setTruth] = useState<RunTruth>();
  const [mood, setMood] = useState<string>();
  const [clock, setClock] = useState<Clock>();
  const [trouble, setTrouble] = useState<string>();
  const ask = <T,>(what: Promise<T>, then: (value: T) => void) =>
    what.then((value) => (setTrouble(undefined), then(value))).catch((e: Error) => setTrouble(e.message));
  useEffect(() => {
    void ask(call<RunTruth>(`runs/${encodeURIComponent(answer.place.label)}`), setTruth);
    void ask(call<{ mood: string } & Clock>('panel'), (p) => {
      setMood(p.mood);
      setClock(p);
    });
  }, [run, answer.place.label]);
  return (
    <Sheet title={t('dialog.demo')} hint={t('dialog.demo-hint')} onClose={onClose}>
      <Trouble text={trouble} className="mb-2" />
      {truth && (
        <p className="mb-3 font-semibold" role="status">
          {truth.isHealthy
            ? t('dialog.demo-healthy')
            : t('dialog.demo-still', truth.note ?? truth.inHand.seen.map((s) => s.note).join(', '))}
        </p>
      )}
      {truth && (
        <p className="mb-3 text-label text-ink-2">
          {t(
            'dialog.in-hand',
            truth.inHand.missingPart ? t(`item.${truth.inHand.missingPart}`) : t('dialog.nothing-missing'),
            truth.inHand.firmware,
            t(`light.${truth.inHand.light}`),
            t(`choice.${truth.inHand.modeSwitch}`),
          )}
        </p>
      )}
      {truth && truth.inHand.seen.length > 0 && (
        <ul className="mb-3">
          {truth.inHand.seen.map((s) => (
            <li key={s.check} className="flex items-center gap-3 border-b border-dotted border-hairline py-1 text-label">
              <span className="min-w-0 flex-1">
                <b>{t(`check.${s.check}`)}:</b> {s.note}
              </span>
              <button
                className="plain"
                onClick={() =>
                  void ask(call<RunTruth>(`runs/${encodeURIComponent(answer.place.label)}/work`, { act: 'mend', end: s.check }), setTruth)
                }
              >
                {s.mend}
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="grid grid-cols-2 gap-2">
        {works.map(([act, end]) => (
          <button
            key={act + end}
            className="plain"
            onClick={() => void ask(call<RunTruth>(`runs/${encodeURIComponent(answer.place.label)}/work`, { act, end }), setTruth)}
          >
            {t(act === 'mode-switch' ? 'dialog.turn-switch' : `act.${act}`)}
            {end ? `, ${t(`end.${end}`)}` : ''}
          </button>
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        {([1, 60, 600] as const).map((s) => (
          <button
            key={s}
            aria-pressed={clock?.speed === s}
            className={`plain ${clock?.speed === s ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => void ask(call<Clock>('clock', { speed: s }), setClock)}
          >
            {t('dialog.speed', s)}
          </button>
        ))}
        <button
          aria-pressed={clock?.dark ?? false}
          className={`plain ${clock?.dark ? '!border-2 !border-ink font-bold' : ''}`}
          onClick={() => void ask(call<Clock>('clock', { dark: !clock?.dark }), setClock)}
        >
          {t('dialog.dark')}
        </button>
      </div>
      <h3 className="mb-1 mt-4 text-label font-bold">{t('dialog.mood')}</h3>
      <div className="flex flex-wrap gap-2">
        {moods.map((m) => (
          <button
            key={m}
            aria-pressed={mood === m}
            className={`plain ${mood === m ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => void ask(call<{ mood: string }>('mood', { mood: m }), (p) => setMood(p.mood))}
          >
            {t(`mood.${m.toLowerCase()}`)}
          </button>
        ))}
      </div>
    </Sheet>
  );
}
