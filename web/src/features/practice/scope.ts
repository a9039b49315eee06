import type { PracticeSettings } from '../../api/types';
import { PARTS, type Part } from '../../ui/parts';

export type ScopeDraft = NonNullable<PracticeSettings['scope']>;

/** All of the work. */
export const whole = (): ScopeDraft => ({ parts: [...PARTS], byKind: {} });

/** Parts that are covered of a kind; of every kind that says nothing of its own where none is given. */
export const partsOf = (scope: ScopeDraft, kind?: string): Part[] => (kind ? (scope.byKind?.[kind] ?? scope.parts) : scope.parts);

/** The scope with one part taken or left, of every kind or of one; the order stays that of the work. */
export function toggled(scope: ScopeDraft, part: Part, kind?: string): ScopeDraft {
  const was = partsOf(scope, kind);
  const parts = PARTS.filter((p) => (p === part ? !was.includes(p) : was.includes(p)));
  return kind ? { ...scope, byKind: { ...scope.byKind, [kind]: parts } } : { ...scope, parts };
}

/** The scope with a kind that follows every other again. */
export function asEvery(scope: ScopeDraft, kind: string): ScopeDraft {
  return { ...scope, byKind: Object.fromEntries(Object.entries(scope.byKind ?? {}).filter(([other]) => other !== kind)) };
}
