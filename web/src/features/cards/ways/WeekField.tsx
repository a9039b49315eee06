import { type PointerEvent, type ReactNode, useRef, useState } from 'react';
import type { WeekSpan } from '../../../api/types';
import { t } from '../../../texts';
import { dayMinutes, everyDay, painted, readHours, written } from './weekHours';
import type { FieldProps } from './way';

const days = [1, 2, 3, 4, 5, 6, 7];
const step = 30;

/** On the desk what is typed stands beside what is drawn. */
const besides = 'grid-cols-[minmax(0,1fr)_12rem]';

/** A week of hours: drawn by dragging over a day, or typed; as it is set, and as it is wanted. */
export default function WeekField({ entry, big, again }: FieldProps & { again: ReactNode }) {
  const { recorded, wanted, unread = {} } = entry.draft.week ?? { recorded: [], wanted: null };
  const [isWanted, setWanted] = useState(false);
  const own = isWanted ? (wanted ?? []) : recorded;
  const put = (spans: WeekSpan[], wrong: Record<string, string> = {}) =>
    entry.change({
      week: { recorded: isWanted ? recorded : spans, wanted: isWanted ? (spans.length > 0 ? spans : null) : wanted, unread: wrong },
    });
  const keyOf = (day: number) => `${day}${isWanted ? ' wanted' : ''}`;
  const without = (day: number) => Object.fromEntries(Object.entries(unread).filter(([key]) => key !== keyOf(day)));
  const whole = days.map((day) => ({ day, from: 0, to: dayMinutes }));
  return (
    <div className={`w-full ${big ? 'min-h-0 flex-1 overflow-y-auto px-4 pb-3' : 'max-w-3xl'}`}>
      {again}
      <div className="flex flex-wrap items-center gap-2">
        {[false, true].map((which) => (
          <button
            key={String(which)}
            type="button"
            aria-pressed={isWanted === which}
            className={`plain !px-3 ${big ? 'min-h-12' : '!min-h-9'} ${isWanted === which ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => setWanted(which)}
          >
            {t(which ? 'week.wanted' : 'week.recorded')}
          </button>
        ))}
        <button type="button" className={`plain !px-3 ${big ? 'min-h-12' : '!min-h-9'}`} onClick={() => put(whole)}>
          {t('week.whole')}
        </button>
        <button type="button" className={`plain !px-3 ${big ? 'min-h-12' : '!min-h-9'}`} onClick={() => put(everyDay(own, 1))}>
          {t('week.as-monday')}
        </button>
        {isWanted && wanted === null && <span className="text-label text-ink-2">{t('week.all-wanted')}</span>}
      </div>
      <div className="mt-2 grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 text-tick text-ink-2">
        <span />
        <span className={big ? '' : `grid gap-x-3 ${besides}`}>
          <span className="font-read flex justify-between">
            {[0, 6, 12, 18, 24].map((h) => (
              <span key={h}>{h}</span>
            ))}
          </span>
        </span>
      </div>
      {days.map((day) => (
        <Day
          key={`${day}${isWanted}`}
          day={day}
          big={big}
          own={own}
          unread={unread[keyOf(day)]}
          leave={(text) => put(own, { ...unread, [keyOf(day)]: text })}
          under={isWanted ? recorded : (wanted ?? [])}
          isWanted={isWanted}
          put={(spans) => put(spans, without(day))}
        />
      ))}
    </div>
  );
}

function Day({
  day,
  big,
  own,
  under,
  isWanted,
  unread,
  leave,
  put,
}: {
  day: number;
  big?: boolean;
  own: WeekSpan[];
  /** The other of both, drawn as a line beneath. */
  under: WeekSpan[];
  isWanted: boolean;
  /** What was typed here and is no hours: it stays, and holds the rest back. */
  unread?: string;
  leave: (text: string) => void;
  put: (spans: WeekSpan[]) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const grip = useRef<{ from: number; isOn: boolean; was: WeekSpan[] }>(null);
  const text = unread ?? typed ?? written(own, day);
  const isWrong = unread !== undefined;
  const minute = (e: PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    return Math.min(dayMinutes - step, Math.max(0, Math.floor((((e.clientX - box.left) / box.width) * dayMinutes) / step) * step));
  };
  const paint = (e: PointerEvent) => {
    if (!grip.current) return;
    const to = minute(e);
    const { from, isOn, was } = grip.current;
    put(painted(was, day, Math.min(from, to), Math.max(from, to) + step, isOn));
  };
  const mine = (spans: WeekSpan[]) => spans.filter((s) => s.day === day);
  return (
    <div className="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 border-t border-dotted border-hairline py-1">
      <span className="text-label font-semibold">{t(`day.${day}`)}</span>
      <div className={`min-w-0 ${big ? '' : `grid items-center gap-x-3 ${besides}`}`}>
        <svg
          viewBox="0 0 1440 40"
          preserveAspectRatio="none"
          className={`w-full cursor-crosshair touch-none bg-paper-lo ${big ? 'h-11' : 'h-8'}`}
          aria-hidden
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            const from = minute(e);
            setTyped(undefined);
            grip.current = { from, isOn: !mine(own).some((s) => from >= s.from && from < s.to), was: own };
            paint(e);
          }}
          onPointerMove={paint}
          onPointerUp={() => void (grip.current = null)}
          onPointerCancel={() => void (grip.current = null)}
        >
          {mine(own).map((s) => (
            <rect key={s.from} x={s.from} y="4" width={s.to - s.from} height="24" fill="var(--color-ink)" />
          ))}
          {mine(under).map((s) => (
            <rect key={s.from} x={s.from} y="32" width={s.to - s.from} height="5" fill="var(--color-rule)" />
          ))}
          {[360, 720, 1080].map((x) => (
            <path key={x} d={`M${x} 0v40`} stroke="var(--color-rule)" vectorEffect="non-scaling-stroke" />
          ))}
        </svg>
        <input
          className={`field font-read !py-1 !text-label ${big ? '' : '!min-h-8'} ${isWrong ? '!border-refused text-refused' : ''}`}
          aria-label={`${t(`day.${day}`)}, ${t(isWanted ? 'week.wanted' : 'week.recorded')}`}
          aria-invalid={isWrong}
          placeholder={t('week.never')}
          maxLength={120}
          value={text}
          onChange={(e) => {
            setTyped(e.target.value);
            const read = readHours(e.target.value, day);
            if (!read) leave(e.target.value);
            else put([...own.filter((s) => s.day !== day), ...read].sort((a, b) => a.day - b.day || a.from - b.from));
          }}
          onBlur={() => setTyped(undefined)}
        />
        {isWrong && <p className="col-span-full text-label text-refused">{t('week.typed-wrong')}</p>}
      </div>
    </div>
  );
}
