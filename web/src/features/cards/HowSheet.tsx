import { lazy, Suspense } from 'react';
import type { SheetProps } from './sheetProps';
import type { CardRow } from '../../api/types';
import { nameOf } from '../../ui/format';
import { Sheet } from '../../ui/Dialog';
import { Guide } from './Guide';

const Holds = lazy(() => import('./Holds'));

/** How the row at hand is done, in the hand: its steps, what the template says, what it leans on and what each answer tells. */
export default function HowSheet({ answer, row, onClose }: Pick<SheetProps, 'answer' | 'onClose'> & { row: CardRow }) {
  return (
    <Sheet title={nameOf(row)} onClose={onClose}>
      <Guide answer={answer} row={row} hand />
      {row.check.id === 'recorder.store' && (
        <Suspense>
          <Holds deviceId={answer.place.id} />
        </Suspense>
      )}
    </Sheet>
  );
}
