import type { InstrumentFunction } from '../../api/types';

export const units = [
  'metre',
  'ohm',
  'volt',
  'watt',
  'ampere',
  'megabitPerSecond',
  'degreeCelsius',
  'nanosecond',
  'percent',
  'second',
  'degree',
] as const;

export type Unit = InstrumentFunction['unit'];
