import type { components } from '../../api/generated/schema';

type Forecast = components['schemas']['RecordingForecast'];
type Channel = components['schemas']['ChannelLoad'];

/** What is tried; what is left out stays as it was read. */
export type Tried = { frames?: number; rate?: number; motion?: number; days?: number };

/** One thing that can be tried. */
export type Knob = {
  id: keyof Tried;
  least: number;
  most: number;
  step: number;
  decimals: number;
  /** Where it stands: tried, else as it was read. */
  value: number;
  /** The most that holds with all else as it is tried; null: nothing known limits it. */
  holds: number | null;
};

const above = (value: number, step: number) => Math.ceil(value / step) * step;

/** The things of this recorder that can be tried: one that nobody knows is not there. */
export function knobs(read: Forecast, now: Forecast, promised: number, tried: Tried): Knob[] {
  const all: Knob[] = [];
  if (read.framesPerSecond !== null)
    all.push({
      id: 'frames',
      least: 1,
      most: Math.max(30, above(read.framesPerSecond * 1.5, 5)),
      step: 1,
      decimals: 0,
      value: tried.frames ?? read.framesPerSecond,
      holds: now.most.framesPerSecond === null ? null : Math.floor(now.most.framesPerSecond + 1e-9),
    });
  all.push({
    id: 'rate',
    least: 0.1,
    most: above(Math.max(read.meanMbps, 1) * 2, 1),
    step: 0.1,
    decimals: 1,
    value: tried.rate ?? now.meanMbps,
    holds: now.most.meanMbps,
  });
  if (read.motionPercent !== null)
    all.push({
      id: 'motion',
      least: 0,
      most: 100,
      step: 1,
      decimals: 0,
      value: tried.motion ?? read.motionPercent,
      holds: now.most.motionPercent,
    });
  all.push({
    id: 'days',
    least: 1,
    most: above(promised * 2, 10),
    step: 1,
    decimals: 0,
    value: tried.days ?? promised,
    holds: now.most.days === null ? null : Math.floor(now.most.days + 1e-9),
  });
  return all;
}

/** Channels by area in the order of their numbers; each with its share of all. */
export function byArea(channels: Channel[]) {
  const sum = channels.reduce((all, c) => all + c.stream.bitRateMbps, 0);
  const areas = new Map<string, number[]>();
  for (const c of channels) areas.set(c.area, [...(areas.get(c.area) ?? []), c.stream.bitRateMbps]);
  return [...areas].map(([name, rates]) => ({ name, rates, sum }));
}
