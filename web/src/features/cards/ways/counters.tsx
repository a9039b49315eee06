import { t } from '../../../texts';
import { between } from '../../../ui/format';
import type { FieldProps, Way } from './way';
import { Whole, wholeOf } from './Whole';

/** Packets and errors at two looks, and the seconds between. */
export const counters: Way<'counters'> = {
  kind: 'counters',
  toReading: (_, draft) => {
    const [packets, errors, packetsThen, errorsThen, seconds] = (draft.counters ?? []).map(wholeOf);
    return [packets, errors, packetsThen, errorsThen, seconds].some((n) => n === null || n === undefined)
      ? null
      : {
          value: {
            kind: 'counters',
            first: { packets: packets!, errors: errors! },
            second: { packets: packetsThen!, errors: errorsThen! },
            intervalSeconds: seconds!,
            bits: Math.max(packets!, packetsThen!) > 4294967295 ? 64 : 32,
          },
        };
  },
  draftOf: (value) => ({
    counters: [value.first.packets, value.first.errors, value.second.packets, value.second.errors, value.intervalSeconds].map(String),
  }),
  shown: (_, value) => ({ big: String(between(value.first.errors, value.second.errors, value.bits)), unit: t('counters.errors') }),
  field: (props) => <CountersField {...props} />,
};

function CountersField({ entry, big }: FieldProps) {
  const values = entry.draft.counters ?? ['', '', '', '', ''];
  const set = (i: number, value: string) => entry.change({ counters: values.map((v, n) => (n === i ? value : v)) });
  return (
    <div className={`grid flex-1 grid-cols-2 gap-x-4 gap-y-1 ${big ? 'content-start p-4' : 'max-w-md'}`}>
      {(['packets-first', 'errors-first', 'packets-second', 'errors-second', 'seconds'] as const).map((k, i) => (
        <Whole key={k} label={t(`counters.${k}`)} focus={!big && i === 0} value={values[i]} onChange={(v) => set(i, v)} />
      ))}
    </div>
  );
}
