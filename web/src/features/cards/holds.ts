import type { components } from '../../api/generated/schema';

type Forecast = components['schemas']['RecordingForecast'];
type Channel = components['schemas']['ChannelLoad'];

/** What is tried; what is left out stays as it was read. */
export type Tried = { frames?: number; rate?: number; motion?: number; days?: number; viewers?: number };

/** One thing that can be tried: its slider, where it stands, and the most that holds (null: nothing known limits it). */
export type Knob = { id: keyof Tried; least: number; most: number; step: number; decimals: number; value: number; holds: number | null };

const upTo = (value: number, step: number) => Math.ceil(value / step) * step;

/** Cut off and never rounded up: what is shown as the most that holds does hold. */
export const down = (value: number, decimals: number) => (Math.floor(value * 10 ** decimals + 1e-6) / 10 ** decimals).toFixed(decimals);

/** The things of this recorder that can be tried: one that nobody knows is not there. */
export function knobs(read: Forecast, now: Forecast, promised: number, tried: Tried): Knob[] {
  const frames: Knob | null =
    read.framesPerSecond === null
      ? null
      : {
          id: 'frames',
          least: 1,
          most: Math.max(30, upTo(read.framesPerSecond * 1.5, 5)),
          step: 1,
          decimals: 0,
          value: now.framesPerSecond ?? read.framesPerSecond,
          holds: now.most.framesPerSecond,
        };
  const motion: Knob | null =
    read.motionPercent === null
      ? null
      : {
          id: 'motion',
          least: 0,
          most: 100,
          step: 1,
          decimals: 0,
          value: now.motionPercent ?? read.motionPercent,
          holds: now.most.motionPercent,
        };
  const viewers: Knob | null =
    !now.line || !read.line
      ? null
      : {
          id: 'viewers',
          least: 0,
          most: upTo(Math.max(read.line.viewers, read.line.mostViewers ?? 0, 4) * 1.5, 5),
          step: 1,
          decimals: 0,
          value: tried.viewers ?? now.line.viewers,
          holds: now.line.mostViewers,
        };
  return [
    frames,
    {
      id: 'rate',
      least: 0.1,
      most: upTo(Math.max(read.meanMbps, 1) * 2, 1),
      step: 0.1,
      decimals: 1,
      value: tried.rate ?? now.meanMbps,
      holds: now.most.meanMbps,
    },
    motion,
    { id: 'days', least: 1, most: upTo(promised * 2, 10), step: 1, decimals: 0, value: tried.days ?? promised, holds: now.most.days },
    viewers,
  ].filter((k): k is Knob => k !== null);
}

/** Channels by area in the order of their numbers, each with what is written of it. */
export function byArea(channels: readonly Channel[], mbps: readonly number[]) {
  const areas = new Map<string, number[]>();
  channels.forEach((c, i) => areas.set(c.area, [...(areas.get(c.area) ?? []), mbps[i] ?? 0]));
  return [...areas].map(([name, rates]) => ({ name, rates }));
}
