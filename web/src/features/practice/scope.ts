import type { PracticeAnswer, PracticeSettings } from '../../api/types';

export type ScopeDraft = NonNullable<PracticeSettings['scope']>;
type Part = PracticeAnswer['parts'][number];

/** Parts that are covered of a kind; of every kind that says nothing of its own where none is given. */
export const partsOf = (scope: ScopeDraft, kind?: string): Part[] => (kind ? (scope.byKind?.[kind] ?? scope.parts) : scope.parts);

/** The scope with one part taken or left, of every kind or of one; the order stays that of the work. */
export function toggled(scope: ScopeDraft, part: Part, all: readonly Part[], kind?: string): ScopeDraft {
  const was = partsOf(scope, kind);
  const parts = all.filter((p) => (p === part ? !was.includes(p) : was.includes(p)));
  return kind ? { ...scope, byKind: { ...scope.byKind, [kind]: parts } } : { ...scope, parts };
}

/** The scope with a kind that follows every other again. */
export function asEvery(scope: ScopeDraft, kind: string): ScopeDraft {
  return { ...scope, byKind: Object.fromEntries(Object.entries(scope.byKind ?? {}).filter(([other]) => other !== kind)) };
}
