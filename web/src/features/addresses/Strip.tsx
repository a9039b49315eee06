import { memo, useMemo, useState } from 'react';
import { t } from '../../texts';
import { type Mark, marksOf, nearest, type NetworkStrip } from './ledger';

/** How each kind is drawn: by its shape, not by its colour alone. */
const shapes: Record<Mark['kind'], { tall: number; wide: number; fill: string; stroke?: string; dashed?: boolean }> = {
  found: { tall: 18, wide: 3, fill: 'var(--color-ink)' },
  planned: { tall: 18, wide: 3, fill: 'none', stroke: 'var(--color-ink)' },
  missing: { tall: 18, wide: 3, fill: 'none', stroke: 'var(--color-refused)', dashed: true },
  wrong: { tall: 24, wide: 3, fill: 'var(--color-refused)' },
  double: { tall: 24, wide: 4, fill: 'var(--color-refused)' },
  unknown: { tall: 24, wide: 4, fill: 'var(--color-noted)' },
  gateway: { tall: 26, wide: 1.5, fill: 'var(--color-ink-2)' },
  tester: { tall: 26, wide: 1.5, fill: 'var(--color-ink-2)' },
};

const Left = 8;
const Width = 1216;
const Top = 16;
const High = 26;

/** The network as a strip, address by address. A press goes to the nearest mark, Left and Right from one to the next. */
export const Strip = memo(function Strip({
  strip,
  subnet,
  active,
  onPick,
}: {
  strip: NetworkStrip;
  subnet: string;
  active?: string;
  onPick: (key: string) => void;
}) {
  const x = (at: number) => Left + ((at + 0.5) / strip.size) * (Width - 2 * Left);
  const step = Math.max(strip.size / 16, 1);
  const label = (at: number) =>
    strip.size <= 256 ? `.${(strip.first + at) % 256}` : `.${Math.floor((strip.first + at) / 256) % 256}.${(strip.first + at) % 256}`;
  const picks = useMemo(() => strip.marks.filter((m) => m.key), [strip]);
  const kinds = useMemo(() => new Map(marksOf(strip.marks)), [strip]);
  const current = picks.find((m) => m.key === active);
  const here = Math.max(0, current ? picks.indexOf(current) : 0);
  const [over, setOver] = useState<Mark>();
  /** Who stands under the pointer: the nearest within a finger's breadth. */
  const under = (e: { clientX: number; currentTarget: Element }) => {
    const frame = e.currentTarget.getBoundingClientRect();
    const at = ((((e.clientX - frame.left) / frame.width) * Width - Left) / (Width - 2 * Left)) * strip.size - 0.5;
    return nearest(picks, at, (6 / Width) * strip.size);
  };
  const move = (by: number) => {
    const next = picks[(here + by + picks.length) % picks.length];
    if (next) onPick(next.key);
  };
  const legend = (['found', 'wrong', 'double', 'unknown', 'missing', 'planned'] as const).filter((k) => kinds.has(k));
  return (
    <figure className="mt-2" aria-label={t('address.strip')}>
      <svg
        viewBox={`0 0 ${Width} 62`}
        className={`w-full outline-offset-4 max-sm:hidden ${over ? 'cursor-pointer' : ''}`}
        onPointerMove={(e) => setOver(under(e))}
        onPointerLeave={() => setOver(undefined)}
        onClick={(e) => {
          const meant = under(e);
          if (meant) onPick(meant.key);
        }}
        role="slider"
        tabIndex={0}
        aria-label={t('address.strip')}
        aria-valuemin={0}
        aria-valuemax={Math.max(picks.length - 1, 0)}
        aria-valuenow={here}
        aria-valuetext={
          picks[here] ? `${picks[here].name}, ${label(picks[here].at)}, ${t(`address.strip.${picks[here].kind}`)}` : undefined
        }
        onKeyDown={(e) => {
          const by = ({ ArrowRight: 1, ArrowLeft: -1 } as Record<string, number>)[e.key];
          if (by === undefined || picks.length === 0) return;
          e.preventDefault();
          e.stopPropagation();
          move(by);
        }}
      >
        <rect x={Left} y={Top} width={Width - 2 * Left} height={High} fill="none" stroke="var(--color-hairline)" />
        {strip.ranges.map((r) => (
          <g key={`${r.from} ${r.isLeased}`}>
            <rect
              x={x(r.from - 0.5)}
              y={Top}
              width={x(r.to + 0.5) - x(r.from - 0.5)}
              height={High}
              fill={r.isLeased ? 'url(#leased)' : 'var(--color-paper-lo)'}
            />
            <text x={x(r.from - 0.5)} y={Top - 5} fontSize="11" fill="var(--color-ink-2)">
              {r.isLeased ? t('address.strip.pool') : r.for || t('address.strip.reserved')}
            </text>
          </g>
        ))}
        <defs>
          <pattern id="leased" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0v6" stroke="var(--color-rule)" strokeWidth="1.4" />
          </pattern>
        </defs>
        {Array.from({ length: Math.ceil(strip.size / step) }, (_, i) => i * step).map((at) => (
          <g key={at}>
            <path d={`M${x(at - 0.5)} ${Top}v${High + 4}`} stroke="var(--color-hairline)" />
            <text x={x(at - 0.5) + 3} y={Top + High + 14} fontSize="11" fill="var(--color-ink-2)" className="font-read">
              {label(at)}
            </text>
          </g>
        ))}
        {[...kinds].map(([kind, marks]) => {
          const { tall, wide, fill, stroke, dashed } = shapes[kind];
          return (
            <path
              key={kind}
              d={marks.map((m) => `M${x(m.at) - wide / 2} ${Top + High / 2 - tall / 2}h${wide}v${tall}h${-wide}z`).join('')}
              fill={fill}
              stroke={stroke}
              strokeDasharray={dashed ? '2 2' : undefined}
            />
          );
        })}
        <path d={(kinds.get('double') ?? []).map((m) => `M${x(m.at) - 6} ${Top - 3}l6 5 6-5z`).join('')} fill="var(--color-refused)" />
        <path
          d={(kinds.get('unknown') ?? []).map((m) => `M${x(m.at)} ${Top + High + 6}l5 5-5 5-5-5z`).join('')}
          fill="var(--color-noted)"
        />
        {current && <path d={`M${x(current.at) - 6} ${Top - 12}h12l-6 8z`} fill="var(--color-accent)" />}
        {over && <title>{[over.name, label(over.at), t(`address.strip.${over.kind}`)].filter(Boolean).join(', ')}</title>}
      </svg>
      <figcaption className="flex flex-wrap items-baseline gap-x-5 gap-y-1 text-label text-ink-2">
        <span className="font-read font-bold text-ink">{subnet}</span>
        {legend.map((k) => (
          <span key={k} className="inline-flex items-center gap-1.5">
            <svg width="8" height="16" aria-hidden>
              <rect
                x="2"
                y={k === 'found' || k === 'planned' || k === 'missing' ? 3 : 0.5}
                width="4"
                height={k === 'found' || k === 'planned' || k === 'missing' ? 10 : 15}
                fill={shapes[k].fill}
                stroke={shapes[k].stroke}
                strokeDasharray={shapes[k].dashed ? '2 2' : undefined}
              />
            </svg>
            {t(`address.strip.${k}`)} {kinds.get(k)!.length}
          </span>
        ))}
        {strip.elsewhere.map((e) => (
          <button
            key={e.address}
            className="min-h-6 font-semibold text-refused underline max-sm:min-h-11"
            onClick={() => onPick(e.keys[0])}
          >
            <span className="font-read">{e.address}</span> {t('address.elsewhere', e.keys.length)}
          </button>
        ))}
      </figcaption>
    </figure>
  );
});
