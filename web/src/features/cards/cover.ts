import { t } from '../../texts';
import { PARTS } from '../../ui/parts';

const inWords = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** What a Verdict is about, and what it is not, by parts of the work. The bench is a place, and no part that a client could miss. */
export function coverText(verdict: { parts: readonly string[] }) {
  const named = (some: readonly string[]) => inWords.format(some.map((part) => t(`section.${part}`).toLowerCase()));
  const rest = PARTS.filter((part) => part !== 'bench' && !verdict.parts.includes(part));
  return {
    covers: verdict.parts.length > 0 ? t('verdict.covers', named(verdict.parts)) : '',
    not: rest.length > 0 ? t('verdict.not-covered', named(rest)) : '',
  };
}

/** Whether a Verdict takes something over, and so has to say what. */
export const isAcceptance = (verdict: string) => verdict === 'accepted' || verdict === 'acceptedWithNote';
