import { Radios } from '../../ui/Radios';
import { useEffect, useRef, useState } from 'react';
import type { CardRow, LightPattern } from '../../api/types';
import { has, t } from '../../texts';
import { useEntry } from './entry';

type Entry = ReturnType<typeof useEntry>;

/** The way of entering that a Check asks for, beside numbers, choices and wire maps. */
export function MoreFields({ row, entry, big }: { row: CardRow; entry: Entry; big?: boolean }) {
  switch (row.check.entry) {
    case 'list':
      return <ListField row={row} entry={entry} big={big} />;
    case 'text':
      return (
        <input
          autoFocus={!big}
          aria-label={t(`check.${row.check.id}`)}
          autoComplete="off"
          maxLength={60}
          className={`field font-read ${big ? 'm-4 !w-auto text-title' : 'w-64 text-lead'}`}
          value={entry.draft.text ?? ''}
          onChange={(e) => entry.change({ text: e.target.value })}
        />
      );
    case 'probes':
      return (
        <div className={`flex gap-4 ${big ? 'p-4' : ''}`}>
          {(['sent', 'received'] as const).map((k, i) => (
            <Whole
              key={k}
              label={t(`probes.${k}`)}
              focus={!big && i === 0}
              value={entry.draft[k] ?? ''}
              onChange={(value) => entry.change({ sent: entry.draft.sent, received: entry.draft.received, [k]: value })}
            />
          ))}
        </div>
      );
    case 'counters':
      return <CountersField entry={entry} big={big} />;
    case 'light':
      return <LightField row={row} entry={entry} big={big} />;
    default:
      return null;
  }
}

function Whole({ label, value, onChange, focus }: { label: string; value: string; onChange: (value: string) => void; focus?: boolean }) {
  return (
    <label className="block min-w-0 flex-1">
      <span className="block text-label text-ink-2">{label}</span>
      <input
        autoFocus={focus}
        inputMode="numeric"
        autoComplete="off"
        maxLength={19}
        className="field font-read min-w-0 text-lead"
        value={value}
        onChange={(e) => onChange(e.target.value.replace(/[^\d]/g, ''))}
      />
    </label>
  );
}

function CountersField({ entry, big }: { entry: Entry; big?: boolean }) {
  const values = entry.draft.counters ?? ['', '', '', '', ''];
  const set = (i: number, value: string) => entry.change({ counters: values.map((v, n) => (n === i ? value : v)) });
  return (
    <div className={`grid flex-1 grid-cols-2 gap-x-4 gap-y-1 ${big ? 'content-start p-4' : 'max-w-md'}`}>
      {(['packets-first', 'errors-first', 'packets-second', 'errors-second', 'seconds'] as const).map((k, i) => (
        <Whole key={k} label={t(`counters.${k}`)} focus={!big && i === 0} value={values[i]} onChange={(v) => set(i, v)} />
      ))}
    </div>
  );
}

/** A list to go through: mark what is the exception; or, at a hold point, confirm each item by itself. */
function ListField({ row, entry, big }: { row: CardRow; entry: Entry; big?: boolean }) {
  const each = row.check.confirmEach;
  const on = (each ? entry.draft.confirmed : entry.draft.marked) ?? [];
  const toggle = (id: string) => {
    const next = on.includes(id) ? on.filter((x) => x !== id) : [...on, id];
    entry.change(each ? { confirmed: next } : { marked: next });
  };
  const clean = entry.draft.marked?.length === 0;
  return (
    <div className={`flex min-h-0 w-full flex-col ${big ? 'flex-1' : ''}`}>
      {!each && (
        <button
          type="button"
          autoFocus={!big}
          aria-pressed={clean}
          className={`${big ? 'mx-4 my-2 min-h-glove' : 'mb-2 self-start'} plain ${clean ? '!border-2 !border-ink font-bold' : ''}`}
          onClick={() => entry.change({ marked: [] })}
        >
          {t(has(`list.none.${row.check.id}`) ? `list.none.${row.check.id}` : 'list.none')}
        </button>
      )}
      <ul className={`min-h-0 ${big ? 'flex-1 overflow-y-auto px-4' : ''}`}>
        {row.items.map((item, i) => (
          <li key={item.id}>
            <label className={`flex cursor-pointer items-center gap-3 border-b border-dotted border-hairline ${big ? 'min-h-14' : 'min-h-10'}`}>
              <input
                type="checkbox"
                autoFocus={!big && each && i === 0}
                className="h-5 w-5 shrink-0 accent-ink"
                checked={on.includes(item.id)}
                onChange={() => toggle(item.id)}
              />
              <span className="min-w-0 leading-tight">
                <span className="font-semibold">{t(`item.${item.id}`)}</span>
                {(item.bring || item.loose) && (
                  <span className="ml-2 text-tick text-ink-2">
                    {[item.bring && t('list.bring'), item.loose && t('list.loose')].filter(Boolean).join(', ')}
                  </span>
                )}
                <span className="block text-label text-ink-2">{t(`item.${item.id}.for`)}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** The status light's patterns of the model, each with its rhythm drawn and, where motion is welcome, shown. */
function LightField({ row, entry, big }: { row: CardRow; entry: Entry; big?: boolean }) {
  if (row.lights.length === 0) return <p className="p-4 text-label text-ink-2">{t('light.no-table')}</p>;
  return (
    <Radios label={t(`check.${row.check.id}.ask`)} className={big ? 'min-h-0 flex-1 overflow-y-auto' : 'grid w-full grid-cols-2 gap-x-6'}>
      {row.lights.map((light, i) => (
        <button
          key={light.id}
          type="button"
          role="radio"
          autoFocus={!big && i === 0}
          aria-checked={entry.draft.choice === light.id}
          className={`flex w-full items-center gap-3 border-b border-hairline text-left ${big ? 'min-h-[64px] px-4' : 'min-h-12'} ${entry.draft.choice === light.id ? 'bg-paper-lo font-bold' : ''}`}
          onClick={() => entry.change({ choice: light.id })}
        >
          <Lamp light={light} />
          <Rhythm light={light} />
          <span className="min-w-0 leading-tight">
            <span className="block">{t(`colour.light.${dark(light) ? 'dark' : light.colour}`)}</span>
            <span className="block text-label font-normal text-ink-2">{t(`light.${light.state}`)}</span>
          </span>
        </button>
      ))}
    </Radios>
  );
}

const colours: Record<string, string> = { green: '#2d7d3a', amber: '#c27a00', red: '#b3261e', blue: '#2458b8', white: '#9a9a92' };
const dark = (light: LightPattern) => light.rhythmMs.length === 2 && light.rhythmMs[0] < 50;

function Lamp({ light }: { light: LightPattern }) {
  const lamp = useRef<SVGCircleElement>(null);
  useEffect(() => {
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    if (!lamp.current || still || light.rhythmMs.length < 2 || dark(light)) return;
    const whole = light.rhythmMs.reduce((a, b) => a + b, 0);
    const frames: Keyframe[] = [];
    let at = 0;
    light.rhythmMs.forEach((ms, i) => {
      const opacity = i % 2 === 0 ? 1 : 0.08;
      frames.push({ opacity, offset: at / whole, easing: 'steps(1, end)' });
      at += ms;
    });
    frames.push({ opacity: 1, offset: 1 });
    const playing = lamp.current.animate(frames, { duration: whole, iterations: Infinity });
    return () => playing.cancel();
  }, [light]);
  return (
    <svg viewBox="0 0 24 24" width="24" height="24" className="shrink-0" aria-hidden>
      <circle cx="12" cy="12" r="9" fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
      {!dark(light) && <circle ref={lamp} cx="12" cy="12" r="7" fill={colours[light.colour]} />}
    </svg>
  );
}

/** Two seconds of the rhythm as bars. */
function Rhythm({ light }: { light: LightPattern }) {
  const bars: [number, number][] = [];
  if (light.rhythmMs.length === 1) bars.push([0, 2000]);
  else if (!dark(light))
    for (let at = 0, i = 0; at < 2000; i++) {
      const ms = light.rhythmMs[i % light.rhythmMs.length];
      if (i % 2 === 0) bars.push([at, Math.min(ms, 2000 - at)]);
      at += ms;
    }
  return (
    <svg viewBox="0 0 2000 12" preserveAspectRatio="none" className="h-3 w-20 shrink-0" aria-hidden>
      <path d="M0 11.5h2000" stroke="var(--color-rule)" vectorEffect="non-scaling-stroke" />
      {bars.map(([at, ms]) => (
        <rect key={at} x={at} width={ms} height="12" fill="var(--color-ink)" />
      ))}
    </svg>
  );
}

/** A stopwatch for checks that are a time: started at power, stopped at the picture. It goes on while the page is elsewhere. */
export function Stopwatch({ row, entry }: { row: CardRow; entry: Entry }) {
  const key = `walkdown.watch.${row.id}`;
  const [since, setSince] = useState<number | null>(() => Number(localStorage.getItem(key)) || null);
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    if (!since) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [since]);
  const start = () => {
    localStorage.setItem(key, String(Date.now()));
    setSince(Date.now());
    setNow(Date.now());
  };
  const stop = () => {
    localStorage.removeItem(key);
    entry.change({ text: String(Math.round((Date.now() - since!) / 1000)) });
    setSince(null);
  };
  return (
    <button type="button" className="plain !min-h-11 whitespace-nowrap" onClick={since ? stop : start}>
      {since ? t('watch.stop', Math.max(0, Math.floor((now - since) / 1000))) : t('watch.start')}
    </button>
  );
}
