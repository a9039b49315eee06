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
          {light.dial ? (
            <Dial at={light.dial} />
          ) : (
            <>
              <Lamp light={light} />
              {light.beside && <Lamp light={light.beside} />}
              {!light.beside && <Rhythm light={light} />}
            </>
          )}
          <span className="min-w-0 leading-tight">
            <span className="block">{lightText(light)}</span>
            <span className="block text-label font-normal text-ink-2">{t(`light.${light.state}`)}</span>
          </span>
        </button>
      ))}
    </Radios>
  );
}

const colours: Record<string, string> = { green: '#2d7d3a', amber: '#c27a00', red: '#b3261e', blue: '#2458b8', white: '#9a9a92' };

type Lit = Pick<LightPattern, 'colour' | 'rhythmMs'>;

const dark = (light: Lit) => light.rhythmMs.length === 2 && light.rhythmMs[0] < 50;

/** Short flashes that come in a group; 0 where the lamp shows itself in another way. */
export const flashes = ({ rhythmMs }: Lit) => {
  const gaps = rhythmMs.filter((_, i) => i % 2 === 1);
  const isGroup = rhythmMs.length % 2 === 0 && gaps.length > 0 && rhythmMs.every((ms, i) => i % 2 === 1 || (ms >= 50 && ms <= 250));
  return isGroup && (gaps.at(-1) ?? 0) >= 700 ? gaps.length : 0;
};

const lampText = (lamp: Lit) => {
  const count = flashes(lamp);
  return `${t(`colour.light.${dark(lamp) ? 'dark' : lamp.colour}`)}${count > 0 ? `, ${t(count === 1 ? 'light.flash' : 'light.flashes', count)}` : ''}`;
};

/** One of two lamps: beside another it has no room for its rhythm, and says that it blinks. */
const ofTwo = (lamp: Lit) =>
  lamp.rhythmMs.length > 1 && !dark(lamp) && flashes(lamp) === 0 ? `${lampText(lamp)}, ${t('light.blinks')}` : lampText(lamp);

/** What is seen, in words: a colour with its flashes, two lamps, or a pointer. */
export const lightText = (light: LightPattern) =>
  light.dial ? t('light.dial', light.dial) : light.beside ? t('light.two', ofTwo(light), ofTwo(light.beside)) : lampText(light);

/** A pointer by the hours of a clock. */
function Dial({ at }: { at: number }) {
  const turn = (at / 12) * 2 * Math.PI;
  return (
    <svg viewBox="0 0 24 24" width="30" height="30" className="shrink-0" aria-hidden>
      <circle cx="12" cy="12" r="10" fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
      {[0, 3, 6, 9].map((hour) => {
        const a = (hour / 12) * 2 * Math.PI;
        return (
          <path
            key={hour}
            d={`M${12 + 8 * Math.sin(a)} ${12 - 8 * Math.cos(a)}L${12 + 10 * Math.sin(a)} ${12 - 10 * Math.cos(a)}`}
            stroke="var(--color-ink)"
          />
        );
      })}
      <path
        d={`M12 12L${12 + 7.5 * Math.sin(turn)} ${12 - 7.5 * Math.cos(turn)}`}
        stroke="var(--color-ink)"
        strokeWidth="2.4"
        strokeLinecap="round"
      />
    </svg>
  );
}

function Lamp({ light }: { light: Lit }) {
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
function Rhythm({ light }: { light: Lit }) {
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
