import { Link } from '@tanstack/react-router';
import { Collapsible } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Verdict, WalkAnswer, WalkStop } from '../api/types';
import { t } from '../texts';
import { Here, Sign, VerdictMark } from './Marks';
import { MiniPath } from './SignalPath';

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

/** The round as one line: solid down to where you stand, dashed beyond. The current area is unfolded. */
export function StopLine({
  walk,
  current,
  narrow,
  filter = '',
  grow,
}: {
  walk: WalkAnswer;
  current?: string;
  narrow?: boolean;
  filter?: string;
  grow?: boolean;
}) {
  const wanted = filter.trim().toLowerCase();
  const currentArea = walk.areas.find((area) => area.stops.some((stop) => stop.id === current))?.name;
  const [open, setOpen] = useState<Record<string, boolean>>({});
  const list = useRef<HTMLOListElement>(null);
  const areas = useMemo(
    () =>
      walk.areas
        .map((area) => ({
          ...area,
          shown: wanted ? area.stops.filter((s) => `${s.label} ${s.name} ${area.name}`.toLowerCase().includes(wanted)) : area.stops,
        }))
        .filter((area) => area.shown.length > 0),
    [walk, wanted],
  );
  useEffect(() => {
    list.current?.querySelector('[aria-current=step]')?.scrollIntoView({ block: 'nearest' });
  }, [current, currentArea]);
  const move = (event: React.KeyboardEvent) => {
    const links = [...(list.current?.querySelectorAll<HTMLElement>('a,button') ?? [])];
    const at = links.indexOf(document.activeElement as HTMLElement);
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: links.length - 1 }[event.key];
    if (to === undefined || at < 0) return;
    event.preventDefault();
    event.stopPropagation();
    links[Math.max(0, Math.min(links.length - 1, to))]?.focus();
  };
  if (areas.length === 0) return <p className="p-4 text-ink-2">{t(wanted ? 'walk.none' : 'walk.empty')}</p>;
  return (
    <nav aria-label={t('nav.walk')} className={`min-h-0 overflow-y-auto ${grow ? '' : 'h-full'}`} onKeyDown={move}>
      <ol ref={list} className="relative pb-6 pl-6 pr-3 pt-2">
        {areas.map((area) => {
          const isOpen = wanted !== '' || (open[area.name] ?? (area.name === currentArea || (areas.length === 1 && !currentArea)));
          const done = area.stops.every(isWalked);
          return (
            <li key={area.name}>
              <Collapsible.Root open={isOpen} onOpenChange={(o) => setOpen({ ...open, [area.name]: o })}>
                <Collapsible.Trigger className={`relative flex w-full flex-col items-start gap-1 py-1.5 pl-9 ${narrow ? '' : 'min-h-11'}`}>
                  <Rail solid={done} />
                  <span className="absolute left-[5px] top-[13px] h-[5px] w-3 bg-ink" aria-hidden />
                  <span className="text-body font-bold">
                    {area.name}{' '}
                    {(!narrow || isOpen) && (
                      <span className="whitespace-nowrap text-label font-normal text-ink-2">
                        {t('walk.of', area.stops.filter(isWalked).length, area.stops.length)}
                      </span>
                    )}
                  </span>
                  {!isOpen && <Knot stops={area.stops} />}
                </Collapsible.Trigger>
                <Collapsible.Content>
                  <ol className={area.shown.length > 18 ? 'max-h-[60dvh] overflow-y-auto' : ''}>
                    {area.shown.map((stop) => (
                      <Stop key={stop.id} stop={stop} here={stop.id === current} narrow={narrow} />
                    ))}
                  </ol>
                </Collapsible.Content>
              </Collapsible.Root>
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

function Stop({ stop, here, narrow }: { stop: WalkStop; here: boolean; narrow?: boolean }) {
  const name = `${stop.label}, ${stop.name}, ${t(`verdict.${stop.verdict}`)}${stop.signs.length ? `, ${t('walk.waits')} ${stop.signs.map((s) => t(`sign.${s}`)).join(', ')}` : ''}`;
  return (
    <li className="relative">
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
            <MiniPath legs={stop.legs} width={96} />
            <span className="block truncate text-tick text-ink-3 sm:hidden">{stop.name}</span>
          </span>
        )}
        <span className="ml-auto flex gap-1.5">
          {stop.openFaults > 0 && (
            <span
              className="font-read text-label font-bold text-refused"
              aria-label={t(stop.openFaults === 1 ? 'walk.faults.one' : 'walk.faults', stop.openFaults)}
            >
              {stop.openFaults}
            </span>
          )}
          {stop.signs.map((sign) => (
            <Sign key={sign} sign={sign} />
          ))}
        </span>
      </Link>
    </li>
  );
}
