import { Link } from '@tanstack/react-router';
import type { PowerPort, PowerSwitch } from '../../api/types';
import { useHand } from '../../session/posture';
import { t } from '../../texts';
import { nameOf, watts } from './sourceText';

/** A budget as a rail: what it can give, what is asked by class and by draw, port after port in the order they are granted. */
export function Budget({ sw, stacked }: { sw: PowerSwitch; stacked?: boolean }) {
  const b = sw.budget;
  const most = Math.max(b.usableWatts ?? 0, b.byClass.demandWatts, b.byDraw.demandWatts, 1);
  const hand = useHand();
  const w = hand ? 380 : stacked ? 640 : 900;
  const x = (v: number) => (v / most) * w;
  const rails = (['byDraw', 'byClass'] as const).map((k) => {
    let at = 0;
    const segments = b.inOrder.map((share) => {
      const size = k === 'byDraw' ? share.drawWatts : share.classWatts;
      const from = at;
      at += size;
      return { port: share.port, from, size, refused: b[k].refused.includes(share.port) };
    });
    return { k, segments };
  });
  const over = b.byDraw.refused.length > 0;
  return (
    <div className={`mt-1 grid items-center gap-x-8 ${stacked ? '' : 'grid-cols-[minmax(0,1fr)_300px] max-[1151px]:grid-cols-1'}`}>
      <svg viewBox={`0 0 ${w} 74`} width="100%" role="img" aria-label={summary(sw)}>
        {rails.map(({ k, segments }, row) => (
          <g key={k} transform={`translate(0 ${row * 30})`}>
            {segments.map(({ port, from, size, refused }) => (
              <g key={port}>
                <rect
                  x={x(from) + 0.5}
                  y="4"
                  width={Math.max(1, x(size) - 1.5)}
                  height={k === 'byDraw' ? 20 : 12}
                  fill={refused ? 'none' : k === 'byDraw' ? 'var(--color-ink)' : 'var(--color-rule)'}
                  stroke={refused ? 'var(--color-refused)' : 'none'}
                  strokeWidth="1.6"
                  strokeDasharray={refused ? '3 2' : undefined}
                />
                {k === 'byDraw' && x(size) > 22 && (
                  <text
                    x={x(from + size / 2)}
                    y="18"
                    textAnchor="middle"
                    fontSize="11"
                    className="font-read"
                    fill={refused ? 'var(--color-refused)' : 'var(--color-paper)'}
                  >
                    {port}
                  </text>
                )}
              </g>
            ))}
          </g>
        ))}
        {b.usableWatts !== null && (
          <g>
            <path d={`M${Math.min(w - 1, x(b.usableWatts))} 0V56`} stroke="var(--color-ink)" strokeWidth="2.4" />
            <text
              x={Math.min(w - 2, x(b.usableWatts))}
              y="70"
              textAnchor="end"
              fontSize="13"
              fontWeight="700"
              className="font-read"
              fill="var(--color-ink)"
            >
              {t('power.usable', b.usableWatts.toFixed(0))}
            </text>
          </g>
        )}
      </svg>
      <div className="text-label leading-snug">
        <p className={`text-body font-bold ${over ? 'text-refused' : ''}`}>
          {b.usableWatts === null
            ? t('power.unknown-budget', b.byDraw.demandWatts.toFixed(0))
            : over
              ? t('power.over', b.byDraw.refused.join(', '))
              : t('power.left', watts(b.byDraw.leftWatts))}
        </p>
        <p className="text-ink-2">
          {t('power.by-draw', b.byDraw.demandWatts.toFixed(0))}. {t('power.by-class', b.byClass.demandWatts.toFixed(0))}
          {b.byClass.refused.length > 0 && b.usableWatts !== null ? `, ${t('power.class-over', b.byClass.refused.join(', '))}` : ''}.
        </p>
        {b.firstToDrop !== null && !over && (
          <p className="text-ink-2">
            {t('power.first-to-drop', b.firstToDrop, sw.ports.find((p) => p.number === b.firstToDrop)?.label ?? '')}
          </p>
        )}
        {b.findings.map((_, i) => (
          <p key={i} className="font-semibold text-noted">
            {sw.ports.find((p) => p.number === b.findings[i].port)?.findings.join(' ')}
          </p>
        ))}
      </div>
    </div>
  );
}

const summary = (s: PowerSwitch) =>
  `${nameOf(s)}: ${s.budget.usableWatts === null ? t('power.unknown-budget', s.budget.byDraw.demandWatts.toFixed(0)) : s.budget.byDraw.refused.length > 0 ? t('power.over', s.budget.byDraw.refused.join(', ')) : t('power.left', watts(s.budget.byDraw.leftWatts))}`;

export function Ports({ ports }: { ports: PowerPort[] }) {
  return (
    <div className="mt-2 overflow-x-auto">
      <table className="w-full min-w-[640px] text-table">
        <thead>
          <tr className="border-b border-ink text-left text-label">
            {['port', 'device', 'class', 'planned', 'measured', 'priority', 'state'].map((h) => (
              <th
                key={h}
                scope="col"
                className={`py-1 pr-3 font-semibold ${['class', 'planned', 'measured'].includes(h) ? 'text-right' : ''}`}
              >
                {t(`power.col.${h}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ports.map((p) => (
            <tr key={p.portId} className="border-b border-dotted border-hairline">
              <td className="font-read py-1 pr-3">{p.number}</td>
              <td className="pr-3">
                {p.deviceId ? (
                  <Link to="/card/$deviceId" params={{ deviceId: p.deviceId }} className="font-read font-bold underline">
                    {p.label}
                  </Link>
                ) : (
                  <span className="text-ink-3">{t('power.free')}</span>
                )}{' '}
                <span className="text-label text-ink-2">{p.name}</span>
              </td>
              <td className="font-read pr-3 text-right">{p.powered ? (p.powerClass ?? '?') : ''}</td>
              <td className="font-read pr-3 text-right">{p.powered ? watts(p.plannedWatts) : ''}</td>
              <td className="font-read pr-3 text-right font-bold">{p.powered ? watts(p.measuredWatts) : ''}</td>
              <td className="pr-3 text-label">{p.uplink ? t('power.uplink') : t(`priority.${p.priority}`)}</td>
              <td className={`text-label ${p.refusedByDraw ? 'font-bold text-refused' : ''}`}>
                {[
                  !p.powered && p.deviceId
                    ? t('power.not-from-here')
                    : p.refusedByDraw
                      ? t('power.dropped')
                      : p.refusedByClass
                        ? t('power.class-dropped')
                        : '',
                  ...p.findings,
                ]
                  .filter(Boolean)
                  .join(' ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
