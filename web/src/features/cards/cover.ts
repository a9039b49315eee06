import { t } from '../../texts';

const inWords = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Parts of the work in a sentence. */
export const named = (some: readonly string[]) => inWords.format(some.map((part) => t(`section.${part}`).toLowerCase()));

/** What a Verdict is about, and what it is not, by parts of the work. */
export function coverText(verdict: { parts: readonly string[]; notParts: readonly string[] }) {
  return {
    covers: verdict.parts.length > 0 ? t('verdict.covers', named(verdict.parts)) : '',
    not: verdict.notParts.length > 0 ? t('verdict.not-covered', named(verdict.notParts)) : '',
  };
}

/** Whether a Verdict takes something over, and so has to say what. */
export const isAcceptance = (verdict: string) => verdict === 'accepted' || verdict === 'acceptedWithNote';
