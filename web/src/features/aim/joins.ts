import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';

export type HeadJoins = components['schemas']['HeadJoins'];
type HeadJoin = HeadJoins['joins'][number];

/** What is said of a join: which heads, how they lie now or why nobody knows, and what was agreed. */
export const joinWords = ({ left, right, agreedDeg, nowDeg, uncertaintyDeg, why }: HeadJoin) => ({
  pair: t('join.pair', left, right),
  now:
    nowDeg === null ? '' : t(nowDeg < 0 ? 'join.gap' : 'join.now', Math.abs(nowDeg).toFixed(1), Math.max(0.1, uncertaintyDeg).toFixed(1)),
  why: why ? say(why) : '',
  agreed: t('join.agreed', agreedDeg.toFixed(1)),
});
