import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { say, t } from '../../texts';
import { byArea, type LedgerLine, split } from './ledger';

/** Up to here all are drawn: only a longer list is drawn where it is seen. */
const FewLines = 60;

/** Whether a device stands under the list, and not beside it. */
export const isStacked = () => window.innerWidth <= 1100;

/** The last part of an address tells it apart: it is heavy, what is shared is light. */
export function Address({ text, wrong }: { text: string; wrong?: boolean }) {
  const [shared, own] = split(text);
  return (
    <span className="font-read">
      <span className="text-ink-2">{shared}</span>
      <b className={wrong ? 'text-refused' : ''}>{own}</b>
    </span>
  );
}

/** Between two lists: whole where they agree, parted where they do not, dashed where one says nothing. */
function Strand({ bond }: { bond: LedgerLine['plannedToFound'] }) {
  return (
    <>
      <svg viewBox="0 0 40 12" width="40" height="12" aria-hidden className="shrink-0">
        {bond === 'agree' && <path d="M0 6h40" stroke="var(--color-ink)" strokeWidth="3" />}
        {bond === 'apart' && <path d="M0 6h40" stroke="var(--color-ink-3)" strokeWidth="1.6" strokeDasharray="5 4" />}
        {bond === 'differ' && <path d="M0 5h14l3-2M23 8h17" stroke="var(--color-refused)" strokeWidth="3" fill="none" />}
      </svg>
      <span className="sr-only">{bond === 'apart' ? '' : t(bond === 'differ' ? 'address.differs' : 'address.agrees')}</span>
    </>
  );
}

const columns = 'grid grid-cols-[6rem_7.6rem_2.6rem_9.4rem_2.6rem_7.6rem_1fr] gap-x-3';
const cell = 'min-w-0 py-2';

const Line = memo(function Line({ line, active, onPick }: { line: LedgerLine; active: boolean; onPick: (key: string) => void }) {
  const [first, ...more] = line.notes;
  return (
    <div
      role="row"
      data-row={line.key}
      tabIndex={0}
      aria-current={active || undefined}
      onClick={() => onPick(line.key)}
      onKeyDown={(e) => {
        if (e.key !== 'Enter') return;
        e.preventDefault();
        onPick(line.key);
      }}
      className={`relative cursor-pointer items-center border-b border-dotted border-hairline ${columns} max-lg:grid-cols-[6rem_1fr] ${active ? 'bg-paper-hi' : ''}`}
    >
      {active && <span aria-hidden className="absolute inset-y-0 left-[-10px] w-1.5 bg-accent" />}
      <span role="cell" className={cell}>
        <span className="font-read block truncate font-bold">{line.name || t('address.unplanned')}</span>
        <span className="block truncate text-tick text-ink-2">{line.deviceId ? line.placeName : t('address.unplanned')}</span>
      </span>
      <span role="cell" className={`${cell} max-lg:hidden`}>
        {line.planned ? (
          <Address text={line.planned} />
        ) : (
          <span className="text-ink-2">{t(line.deviceId ? 'address.no-address' : 'address.nothing')}</span>
        )}
      </span>
      <span role="cell" className="max-lg:hidden">
        <Strand bond={line.plannedToFound} />
      </span>
      <span role="cell" className={`${cell} max-lg:hidden`}>
        {line.found ? (
          <>
            <Address text={line.found} wrong={line.addressDiffers} />
            <span className="font-read block truncate text-tick text-ink-2">{line.unit}</span>
          </>
        ) : (
          <span className="text-ink-2">{t(line.isUnlooked ? 'address.not-looked' : 'address.not-found')}</span>
        )}
      </span>
      <span role="cell" className="max-lg:hidden">
        <Strand bond={line.foundToRegistered} />
      </span>
      <span role="cell" className={`${cell} max-lg:hidden`}>
        {line.recorder ? (
          <>
            <span className="block truncate">{t('address.channel', line.recorder, line.channel)}</span>
            <span className="font-read block truncate text-tick text-ink-2">{line.askedAt}</span>
          </>
        ) : (
          <span className="text-ink-2">{line.unregistered && say(line.unregistered)}</span>
        )}
      </span>
      <span role="cell" className={`${cell} text-label leading-snug`}>
        {first && (
          <span className={first.weight === 'wrong' ? 'font-semibold text-refused' : 'font-semibold text-noted'}>{say(first)}</span>
        )}{' '}
        {more.length > 0 && <span className="whitespace-nowrap text-ink-2">{t('address.and-more', more.length)}</span>}
      </span>
    </div>
  );
});

/** Those that somebody has to do something about, a row each. */
export function LedgerTable({
  lines,
  active,
  box,
  onPick,
}: {
  lines: LedgerLine[];
  active?: string;
  box: RefObject<HTMLElement | null>;
  onPick: (key: string) => void;
}) {
  const body = useRef<HTMLDivElement>(null);
  // How far down in what scrolls the rows begin. Measured after each drawing, as what stands over them may have grown; it settles at once.
  const [margin, setMargin] = useState(0);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useLayoutEffect(() => {
    if (!body.current || !box.current) return;
    const top = body.current.getBoundingClientRect().top - box.current.getBoundingClientRect().top + box.current.scrollTop;
    if (Math.abs(top - margin) > 1) setMargin(top);
  });
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 58,
    getItemKey: (i) => lines[i].key,
    overscan: lines.length <= FewLines ? FewLines : 6,
    scrollMargin: margin,
  });
  const at = lines.findIndex((l) => l.key === active);
  const mounted = useRef(false);
  useEffect(() => {
    if (mounted.current && at >= 0 && !isStacked()) virtual.scrollToIndex(at, { align: 'auto' });
    mounted.current = true;
    // Only when another is chosen, not when the list is read anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [active]);
  return (
    <div role="table" aria-label={t('address.table')} aria-rowcount={lines.length + 1} className="border-t border-ink">
      <div role="row" className={`items-baseline border-b border-hairline py-2 text-label text-ink-2 max-lg:hidden ${columns}`}>
        {['device', 'planned', '', 'found', '', 'registered', 'says'].map((h, i) => (
          <span key={i} role="columnheader">
            {h && t(`address.${h}`)}
          </span>
        ))}
      </div>
      <div ref={body} role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => (
          <div
            key={item.key}
            role="presentation"
            ref={virtual.measureElement}
            data-index={item.index}
            className="absolute inset-x-0 top-0"
            style={{ transform: `translateY(${item.start - margin}px)` }}
          >
            <Line line={lines[item.index]} active={active === lines[item.index].key} onPick={onPick} />
          </div>
        ))}
      </div>
    </div>
  );
}

/** Many that need no row each: label and the last part of the address, by area. */
export const Index = memo(function Index({
  lines,
  areas,
  active,
  dim,
  onPick,
}: {
  lines: LedgerLine[];
  areas: ReadonlyMap<string, string>;
  active?: string;
  dim?: boolean;
  onPick: (key: string) => void;
}) {
  const groups = useMemo(() => byArea(lines, areas), [lines, areas]);
  return (
    <div>
      {groups.map(([area, group]) => (
        <Group
          key={area}
          area={area}
          lines={group}
          active={group.some((l) => l.key === active) ? active : undefined}
          dim={dim}
          onPick={onPick}
        />
      ))}
    </div>
  );
});

/** One area of them; drawn where it is seen. */
const Group = memo(function Group({
  area,
  lines,
  active,
  dim,
  onPick,
}: {
  area: string;
  lines: LedgerLine[];
  active?: string;
  dim?: boolean;
  onPick: (key: string) => void;
}) {
  return (
    <div
      className="grid grid-cols-[9rem_1fr] gap-x-4 [content-visibility:auto] max-sm:grid-cols-1"
      style={{ containIntrinsicSize: `auto ${Math.ceil(lines.length / 9) * 28}px` }}
    >
      <span className="pt-1 text-label font-semibold">{area}</span>
      <span className="flex flex-wrap gap-x-5">
        {lines.map((line) => (
          <button
            key={line.key}
            aria-pressed={active === line.key}
            onClick={() => onPick(line.key)}
            className={`font-read min-h-7 text-label max-sm:min-h-11 ${dim ? 'text-ink-2' : ''} ${active === line.key ? 'font-bold underline' : ''}`}
          >
            {line.name} <span className="text-ink-2">.{split(line.found || line.planned)[1]}</span>
          </button>
        ))}
      </span>
    </div>
  );
});
