import { useEffect, useState } from 'react';
import type { CardRow } from '../../api/types';
import { t } from '../../texts';
import { coloursOf } from '../../ui/WireMap';
import type { Entry } from './entry';
import { ways } from './ways';
import { MapExtras, pinsOf, setPin } from './ways/wireMap';

/** The keypad's space: digits, three big rows, or far pins. */
export function Pad({ row, entry, scheme }: { row: CardRow; entry: Entry; scheme: string }) {
  const decimal = (1.1).toLocaleString().charAt(1) === ',' ? ',' : '.';
  const key = 'min-h-11 border-b border-r border-hairline text-center font-read text-[1.9rem] leading-none active:bg-paper-lo';
  const [at, setAt] = useState(() => Math.max(0, pinsOf(entry.draft).indexOf(null)));
  const pins = pinsOf(entry.draft);
  const full = pins.every((p) => p !== null);
  useEffect(() => {
    if (full) setAt(8);
  }, [full]);
  if (row.check.entry === 'number')
    return (
      <div className="grid min-h-0 flex-1 grid-cols-4">
        {['7', '8', '9', '-', '4', '5', '6', decimal, '1', '2', '3', '0'].map((k) => (
          <button
            key={k}
            className={key}
            onClick={() => entry.change({ text: ((entry.draft.fromTester ? '' : entry.draft.text) ?? '').slice(0, 12) + k })}
          >
            {k}
          </button>
        ))}
      </div>
    );
  const Field = row.check.entry === 'wireMap' ? undefined : ways[row.check.entry]?.field;
  if (Field) return <Field row={row} entry={entry} scheme={scheme} big />;
  const colours = coloursOf(scheme);
  const put = (pin: number) => {
    const index = Math.min(at, 7);
    setPin(entry, index, pin);
    setAt(index + 1);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      {/* Where eight are narrower than a glove they stand in two rows. */}
      <div className="grid grid-cols-8 px-2 py-1 max-[367px]:grid-cols-4 [@media(max-height:479px)_and_(max-width:735px)]:grid-cols-4">
        {pins.map((pin, i) => (
          <button
            key={i}
            className={`flex min-h-14 flex-col items-center justify-center ${i === Math.min(at, 7) ? 'border-b-4 border-accent' : 'border-b-4 border-transparent'}`}
            onClick={() => setAt(i)}
            aria-label={`${i + 1} ${t(`colour.${colours[i]}`)}`}
          >
            <span className="font-read text-tick text-ink-2">{i + 1}</span>
            <span className={`font-read text-title font-bold ${pin !== null && pin !== i + 1 ? 'text-refused' : ''}`}>
              {pin === null ? '\u00b7' : pin}
            </span>
          </button>
        ))}
      </div>
      {at >= 8 ? (
        // All pins are set: a press on one brings the digits back.
        <div className="min-h-0 flex-1 overflow-y-auto px-4 py-1">
          <MapExtras entry={entry} />
        </div>
      ) : (
        <>
          <p className="px-4 text-label text-ink-2">{`${at + 1}: ${t(`colour.${colours[at]}`)}`}</p>
          <div className="grid min-h-0 flex-1 grid-cols-3">
            {[1, 2, 3, 4, 5, 6, 7, 8, 0].map((pin) => (
              <button key={pin} className={key} onClick={() => put(pin)}>
                {pin === 0 ? <span className="font-text text-lead">{t('report.open')}</span> : pin}
              </button>
            ))}
          </div>
        </>
      )}
    </div>
  );
}
