import type { PathPiece, RunTrial } from '../api/types';
import { t } from '../texts';

const left = 46;
const top = 14;
const foot = 66;

/**
 * Volts along a run, from the source to the device: one line for each state, a rung where a piece ends, the least the class must have as
 * an inked edge, and the path itself below on the same scale.
 */
export function VoltageLadder({
  pieces,
  trial,
  sourceVolts,
  narrow,
}: {
  pieces: PathPiece[];
  trial: RunTrial;
  sourceVolts: number;
  narrow?: boolean;
}) {
  const W = narrow ? 400 : 820;
  const H = narrow ? 260 : 300;
  const right = narrow ? 104 : 148;
  const metres = Math.max(1, trial.metres);
  // Connectors have no length: each gets a little room, so that its rung can be seen.
  const room = narrow ? 6 : 9;
  const connectors = pieces.filter((p) => p.metres === 0).length;
  const scale = (W - left - right - connectors * room) / metres;
  const ends: number[] = [];
  pieces.reduce((x, p) => {
    const to = x + (p.metres === 0 ? room : p.metres * scale);
    ends.push(to);
    return to;
  }, left);
  const low = Math.min(trial.deviceMinVolts ?? sourceVolts, ...trial.states.flatMap((s) => s.rungs.map((r) => r.volts ?? sourceVolts)));
  const span = Math.max(2, (sourceVolts - low) * 1.25);
  const y = (v: number) => top + ((sourceVolts + span * 0.06 - v) / (span * 1.12)) * (H - top - foot);
  const base = H - foot + 30;
  const ticks: number[] = [];
  const step = span > 12 ? 5 : span > 5 ? 2 : span > 2.4 ? 1 : 0.5;
  for (let v = Math.ceil((sourceVolts - span) / step) * step; v <= sourceVolts + 0.001; v += step) ticks.push(v);
  const name = trial.states.map((s) =>
    s.volts === null ? t('path.cannot-carry', s.watts) : t('path.volts-in', t(`condition.${s.state}`), s.volts.toFixed(1)),
  );
  // Two readings close together are set apart.
  const labels = trial.states
    .filter((s) => s.volts !== null)
    .map((s) => ({ state: s.state, volts: s.volts!, at: y(s.volts!) }))
    .sort((a, b) => a.at - b.at);
  labels.forEach((l, i) => {
    const before = labels[i - 1];
    if (before && l.at - before.at < 34) l.at = before.at + 34;
  });
  return (
    <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label={`${t('path.ladder')}. ${name.join('. ')}`}>
      {ticks.map((v) => (
        <g key={v}>
          <path d={`M${left} ${y(v)}H${W - right}`} stroke="var(--color-rule)" strokeWidth="0.8" />
          <text x={left - 6} y={y(v) + 4} textAnchor="end" className="font-read" fontSize="12" fill="var(--color-ink-2)">
            {v}
          </text>
        </g>
      ))}
      {trial.deviceMinVolts !== null && (
        <g>
          <path d={`M${left} ${y(trial.deviceMinVolts)}H${W - right}`} stroke="var(--color-ink)" strokeWidth="1.6" />
          <text x={W - right + 8} y={y(trial.deviceMinVolts) + 4} fontSize="12" className="font-read" fill="var(--color-ink)">
            {t('path.least', trial.deviceMinVolts)}
          </text>
        </g>
      )}
      {trial.states.map((s) => {
        if (s.volts === null) return null;
        const on = s.state === 'infraredOn';
        let from = sourceVolts;
        let x = left;
        const line = s.rungs
          .map((r, i) => {
            const to = r.volts ?? from;
            const part = pieces[i].metres === 0 ? `H${x + room / 2}V${y(to)}H${ends[i]}` : `L${ends[i]} ${y(to)}`;
            x = ends[i]!;
            from = to;
            return part;
          })
          .join('');
        const below = trial.deviceMinVolts !== null && s.volts < trial.deviceMinVolts;
        return (
          <g key={s.state} stroke={below ? 'var(--color-refused)' : 'var(--color-ink)'}>
            <path d={`M${left} ${y(sourceVolts)}${line}`} fill="none" strokeWidth={on ? 3 : 1.6} strokeDasharray={on ? undefined : '5 4'} />
            {s.rungs.map((r, i) => (
              <path
                key={i}
                d={`M${ends[i]} ${y(r.volts ?? 0)}V${base - 10}`}
                strokeWidth="0.7"
                strokeDasharray="2 3"
                stroke="var(--color-ink-3)"
              />
            ))}
            <circle cx={ends.at(-1)} cy={y(s.volts)} r="5" fill={below ? 'var(--color-refused)' : 'var(--color-ink)'} stroke="none" />
          </g>
        );
      })}
      {labels.map((l) => (
        <g key={l.state}>
          <text x={W - right + 12} y={l.at + 1} fontSize="19" fontWeight="700" className="font-read" fill="var(--color-ink)">
            {l.volts.toFixed(1)} V
          </text>
          <text x={W - right + 12} y={l.at + 15} fontSize="12" fill="var(--color-ink-2)">
            {t(`condition.${l.state}`)}
          </text>
        </g>
      ))}
      <g>
        <rect x={left - 12} y={base - 9} width="12" height="18" fill="var(--color-ink)" />
        {pieces.map((p, i) => {
          const from = i === 0 ? left : ends[i - 1];
          const to = ends[i];
          if (p.metres === 0)
            return (
              <g key={i}>
                <path
                  d={`M${from} ${base}H${to}M${(from + to) / 2} ${base - 9}V${base + 9}`}
                  stroke={p.listed ? 'var(--color-ink)' : 'var(--color-noted)'}
                  strokeWidth="2"
                />
              </g>
            );
          return (
            <g key={i}>
              <path
                d={`M${from} ${base}H${to}`}
                stroke={p.listed ? 'var(--color-ink)' : 'var(--color-noted)'}
                strokeWidth={p.kind === 'cord' ? 2 : 5}
              />
              {to - from > 46 && (
                <text x={(from + to) / 2} y={base + 22} textAnchor="middle" fontSize="12" fill="var(--color-ink-2)">
                  {t(`piece.${p.kind}`)} {p.metres} m
                </text>
              )}
            </g>
          );
        })}
        <path d={`M${ends.at(-1)} ${base - 9}l12 9l-12 9z`} fill="var(--color-ink)" />
      </g>
    </svg>
  );
}

/** Volts at each device along a low-voltage run. */
export function TapLadder({
  volts,
  min,
  max,
  taps,
}: {
  volts: number;
  min: number;
  max: number;
  taps: { label: string; metres: number; volts: number | null; outOfRange: boolean }[];
}) {
  const far = Math.max(1, ...taps.map((x) => x.metres));
  const w = 460;
  const h = 150;
  const low = Math.min(min, ...taps.map((x) => x.volts ?? min));
  const high = Math.max(volts, max);
  const x = (m: number) => 40 + (m / far) * (w - 130);
  const y = (v: number) => 12 + ((high - v) / Math.max(0.5, (high - low) * 1.15)) * (h - 46);
  const solved = taps.every((tap) => tap.volts !== null);
  return (
    <svg
      viewBox={`0 0 ${w} ${h}`}
      width="100%"
      role="img"
      aria-label={taps.map((tap) => `${tap.label} ${tap.volts?.toFixed(2) ?? '-'} V`).join(', ')}
    >
      {[min, max].map((v) => (
        <g key={v}>
          <path d={`M40 ${y(v)}H${w - 90}`} stroke="var(--color-ink)" strokeWidth="1.4" />
          <text x="36" y={y(v) + 4} textAnchor="end" fontSize="11" className="font-read" fill="var(--color-ink)">
            {v}
          </text>
        </g>
      ))}
      <text x="36" y={y(volts) + 4} textAnchor="end" fontSize="11" className="font-read" fill="var(--color-ink-2)">
        {Math.abs(y(volts) - y(max)) > 10 && Math.abs(y(volts) - y(min)) > 10 ? volts : ''}
      </text>
      {solved && (
        <path
          d={`M40 ${y(volts)}${taps.map((tap) => `L${x(tap.metres)} ${y(tap.volts!)}`).join('')}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2.4"
        />
      )}
      {taps.map((tap, i) => (
        <g key={tap.label}>
          <path
            d={`M${x(tap.metres)} ${tap.volts === null ? y(volts) : y(tap.volts)}V${h - 26}`}
            stroke="var(--color-ink-3)"
            strokeDasharray="2 3"
            strokeWidth="0.8"
          />
          {tap.volts !== null && (
            <>
              <circle cx={x(tap.metres)} cy={y(tap.volts)} r="4.5" fill={tap.outOfRange ? 'var(--color-refused)' : 'var(--color-ink)'} />
              <text
                x={x(tap.metres) + 8}
                y={y(tap.volts) + (i % 2 === 0 ? -6 : 15)}
                fontSize="13"
                fontWeight="700"
                className="font-read"
                fill={tap.outOfRange ? 'var(--color-refused)' : 'var(--color-ink)'}
              >
                {tap.volts.toFixed(2)} V
              </text>
            </>
          )}
          <text
            x={x(tap.metres)}
            y={h - 12 + (i % 2) * 11}
            textAnchor="middle"
            fontSize="11"
            className="font-read"
            fill="var(--color-ink-2)"
          >
            {tap.label}
          </text>
        </g>
      ))}
    </svg>
  );
}
