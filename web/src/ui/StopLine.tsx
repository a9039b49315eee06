import { Link } from '@tanstack/react-router';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { Verdict, WalkAnswer, WalkStop } from '../api/types';
import { t } from '../texts';
import { dayAndClock, soon } from './format';
import { Here, Sign, VerdictMark } from './Marks';
import { legsOf, MiniPath } from './MiniPath';

const isWalked = (stop: WalkStop) => stop.verdict !== 'open';

/** A row of small marks in walking order; above 18 four counts and the worst mark. */
function Knot({ stops }: { stops: WalkStop[] }) {
  if (stops.length <= 18)
    return (
      <span className="flex flex-wrap gap-[3px]">
        {stops.map((stop) => (
          <VerdictMark key={stop.id} verdict={stop.verdict} size={12} label={`${stop.label} ${t(`verdict.${stop.verdict}`)}`} />
        ))}
      </span>
    );
  const counts = (['refused', 'open', 'acceptedWithNote', 'accepted'] as Verdict[])
    .map((verdict) => [verdict, stops.filter((s) => s.verdict === verdict).length] as const)
    .filter(([, n]) => n > 0);
  return (
    <span className="flex flex-wrap gap-2 text-tick text-ink-2">
      {counts.map(([verdict, n]) => (
        <span key={verdict} className="inline-flex items-center gap-1">
          <VerdictMark verdict={verdict} size={12} /> {n}
        </span>
      ))}
    </span>
  );
}

type Item = { area: string; stops: WalkStop[]; shown: WalkStop[]; isOpen: boolean } | { stop: WalkStop };

/**
 * The round as one line: solid down to where you stand, dashed beyond. The current area is unfolded. Only what is in sight is drawn, so
 * that five thousand Stops are as quick as fifty.
 */
export function StopLine({
  walk,
  current,
  narrow,
  only,
}: {
  walk: WalkAnswer;
  current?: string;
  narrow?: boolean;
  /** The Stops that were searched for; none: all. */
  only?: Set<string>;
}) {
  const currentArea = useMemo(() => walk.areas.find((area) => area.stops.some((stop) => stop.id === current))?.name, [walk.areas, current]);
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const box = useRef<HTMLElement>(null);
  const items = useMemo(() => {
    const list: Item[] = [];
    for (const area of walk.areas) {
      const shown = only ? area.stops.filter((s) => only.has(s.id)) : area.stops;
      if (shown.length === 0) continue;
      const isOpen =
        open[area.name] ?? ((only && only.size <= 200) || area.name === currentArea || (walk.areas.length === 1 && !currentArea));
      list.push({ area: area.name, stops: area.stops, shown, isOpen: !!isOpen });
      if (isOpen) for (const stop of shown) list.push({ stop });
    }
    return list;
  }, [walk.areas, only, open, currentArea]);
  const lines = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: (i) => ('stop' in items[i] ? (narrow ? 29 : window.innerWidth < 640 ? 56 : 36) : narrow ? 52 : 56),
    getItemKey: (i) => {
      const item = items[i];
      return 'stop' in item ? item.stop.id : `area ${item.area}`;
    },
    overscan: 8,
  });
  const at = items.findIndex((item) => 'stop' in item && item.stop.id === current);
  useEffect(() => {
    if (at >= 0) lines.scrollToIndex(at, { align: 'center' });
    // Only when somebody stands elsewhere, not when a summary changes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current, currentArea]);
  const focusOn = (index: number) => {
    lines.scrollToIndex(index, { align: 'auto' });
    requestAnimationFrame(() => box.current?.querySelector<HTMLElement>(`[data-index="${index}"] :is(a,button)`)?.focus());
  };
  const move = (event: React.KeyboardEvent) => {
    const here = Number((document.activeElement as HTMLElement | null)?.closest<HTMLElement>('[data-index]')?.dataset.index ?? NaN);
    const to = { ArrowDown: here + 1, ArrowUp: here - 1, Home: 0, End: items.length - 1 }[event.key];
    if (to === undefined || Number.isNaN(here)) return;
    event.preventDefault();
    event.stopPropagation();
    focusOn(Math.max(0, Math.min(items.length - 1, to)));
  };
  return (
    <nav ref={box} aria-label={t('nav.walk')} className="min-h-0 flex-1 overflow-y-auto" onKeyDown={move}>
      {items.length === 0 && <p className="p-4 text-ink-2">{t(only ? 'walk.none' : 'walk.empty')}</p>}
      <ol className="relative" style={{ height: lines.getTotalSize() + 24 }}>
        {lines.getVirtualItems().map((line) => {
          const item = items[line.index];
          return (
            <li
              key={line.key}
              data-index={line.index}
              ref={lines.measureElement}
              aria-setsize={items.length}
              aria-posinset={line.index + 1}
              className="absolute left-0 w-full pl-6 pr-3"
              style={{ top: 0, transform: `translateY(${line.start + 8}px)` }}
            >
              {'stop' in item ? (
                <Stop stop={item.stop} here={item.stop.id === current} narrow={narrow} zone={walk.timeZone} />
              ) : (
                <button
                  aria-expanded={item.isOpen}
                  onClick={() => setOpen((was) => ({ ...was, [item.area]: !item.isOpen }))}
                  className={`relative flex w-full flex-col items-start gap-1 py-1.5 pl-9 ${narrow ? '' : 'min-h-11'}`}
                >
                  <Rail solid={item.stops.every(isWalked)} />
                  <span className="absolute left-[5px] top-[13px] h-[5px] w-3 bg-ink" aria-hidden />
                  <span className="text-body font-bold">
                    {item.area}{' '}
                    {(!narrow || item.isOpen) && (
                      <span className="whitespace-nowrap text-label font-normal text-ink-2">
                        {t('walk.of', item.stops.filter(isWalked).length, item.stops.length)}
                      </span>
                    )}
                  </span>
                  {!item.isOpen && <Knot stops={item.shown} />}
                </button>
              )}
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

const Rail = ({ solid }: { solid: boolean }) => (
  <span
    aria-hidden
    className={`absolute bottom-0 left-[10.5px] top-0 border-l-2 ${solid ? 'border-solid border-ink' : 'border-dashed border-rule'}`}
  />
);

const Stop = memo(function Stop({ stop, here, narrow, zone }: { stop: WalkStop; here: boolean; narrow?: boolean; zone: string }) {
  const later = stop.waitsUntil && Date.parse(stop.waitsUntil) > Date.now() ? t('wait.until', dayAndClock(stop.waitsUntil, zone)) : '';
  // Where all that is left waits, for what.
  const waitSign = (later || !stop.waitsUntil) && !stop.waitsFor?.startsWith('check.') ? stop.waitsFor : undefined;
  const waits = [
    ...(waitSign ? [t(`sign.${waitSign}`)] : []),
    ...stop.signs.map((s) => t(`sign.${s}`)),
    ...(stop.blocked ? [t(stop.blocked.by ? 'sign.blocked' : 'sign.aside')] : []),
  ];
  const name = `${stop.label}, ${stop.name}, ${t(`verdict.${stop.verdict}`)}${waits.length ? `, ${t('walk.waits')} ${waits.join(', ')}` : ''}${later && `, ${later}`}`;
  return (
    <div className="relative">
      <Rail solid={isWalked(stop)} />
      {here && (
        <span className="absolute -left-[15px] top-1/2 -translate-y-1/2">
          <Here />
        </span>
      )}
      <Link
        to="/card/$deviceId"
        params={{ deviceId: stop.id }}
        aria-current={here ? 'step' : undefined}
        aria-label={name}
        className={`relative flex items-center gap-3 pl-[2px] ${narrow ? 'min-h-[29px]' : 'min-h-9 max-sm:min-h-14'} hover:bg-paper-lo`}
      >
        <span className="z-10 flex w-[19px] justify-center bg-paper">
          <VerdictMark verdict={stop.verdict} size={here ? 18 : 16} label="" />
        </span>
        <span className={`font-read whitespace-nowrap ${here ? 'text-lead font-bold' : 'text-body'}`}>{stop.label}</span>
        {!narrow && (
          <span className="min-w-0 flex-1">
            <MiniPath legs={legsOf(stop.legs)} width={96} />
            <span className="block truncate text-tick text-ink-3 sm:hidden">{stop.name}</span>
          </span>
        )}
        {later && !narrow && (
          <span className="whitespace-nowrap text-tick font-semibold text-ink-2">{t('wait.until', soon(stop.waitsUntil!, zone))}</span>
        )}
        <span className="ml-auto flex gap-1.5">
          {stop.openFaults > 0 && (
            <span className="font-read text-label font-bold text-refused" aria-label={t('walk.faults', stop.openFaults)}>
              {stop.openFaults}
            </span>
          )}
          {stop.blocked && <Sign sign={stop.blocked.by ? 'blocked' : 'aside'} />}
          {waitSign && <Sign sign={waitSign} />}
          {stop.signs.map((sign) => (
            <Sign key={sign} sign={sign} />
          ))}
        </span>
      </Link>
    </div>
  );
});
