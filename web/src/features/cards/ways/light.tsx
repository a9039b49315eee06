import { Link } from '@tanstack/react-router';
import { useEffect, useRef } from 'react';
import type { LightPattern } from '../../../api/types';
import { t } from '../../../texts';
import { Radios } from '../../../ui/Radios';
import { choice } from './choice';
import type { FieldProps, Way } from './way';

/** A light by its colour and rhythm; kept as a choice. */
export const light: Way<'choice'> = { ...choice, field: (props) => <LightField {...props} /> };

/** The status light's patterns of the model, each with its rhythm drawn and, where motion is welcome, shown. */
function LightField({ row, entry, big }: FieldProps) {
  if (row.lights.length === 0)
    return (
      <p className="p-4 text-label text-ink-2">
        {t('light.no-table')}{' '}
        <Link to="/practice" className="inline-flex min-h-6 items-center font-semibold underline max-sm:min-h-11">
          {t('nav.practice')}
        </Link>
      </p>
    );
  return (
    <Radios
      label={t(`check.${row.check.id}.ask`)}
      className={big ? 'min-h-0 flex-1 overflow-y-auto outline-none' : 'grid w-full grid-cols-2 gap-x-6'}
    >
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
