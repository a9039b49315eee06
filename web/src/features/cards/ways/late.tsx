import { lazy, Suspense } from 'react';
import type { CardRow } from '../../../api/types';
import type { Entry } from '../entry';

const Countdown = lazy(() => import('./Countdown').then((m) => ({ default: m.Countdown })));

/** Few rows have a window of time: what shows it is fetched when one of them is open. */
export function LateCountdown(props: { row: CardRow; entry: Entry }) {
  return (
    <Suspense>
      <Countdown {...props} />
    </Suspense>
  );
}
