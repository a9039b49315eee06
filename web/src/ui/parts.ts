import type { CheckDefinition } from '../api/types';

export type Part = CheckDefinition['section'];

/** Parts of the work in their order. */
export const PARTS: Part[] = [
  'before',
  'bench',
  'cable',
  'fixing',
  'power',
  'link',
  'address',
  'time',
  'recorder',
  'aim',
  'focus',
  'night',
  'finish',
];
