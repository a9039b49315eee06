import { useId } from 'react';
import type { CoverageAnswer, WalkAnswer } from '../../api/types';
import { t } from '../../texts';
import { cellsPath, linePath, middle, type Drawn } from './coverage';

interface Props {
  answer: CoverageAnswer;
  walk: WalkAnswer;
  /** The device whose view alone is shown. */
  chosen?: string;
  drawn?: Drawn;
  toPixels: (x: number, y: number) => [number, number];
  scale: number;
}

/** Lines of each level, lowest first: the more detail, the closer and the fuller. */
const lines: { apart: number; dashes?: string }[] = [
  { apart: 18, dashes: '1 4' },
  { apart: 13, dashes: '1 4' },
  { apart: 9, dashes: '3 3' },
  { apart: 6, dashes: '6 2' },
  { apart: 4 },
  { apart: 3 },
  { apart: 2.5 },
];

/** Ground, seen the finer the closer its lines, and crossed out where nobody sees it; walls; who looks from where. */
export function CoverageLayer({ answer, walk, chosen, drawn, toPixels, scale }: Props) {
  const id = useId();
  const { coverage, ground } = answer;
  const { levels } = coverage;
  const stops = walk.areas.flatMap((a) => a.stops);
  const shown = coverage.outlines.filter((o) => o.deviceId === chosen);
  // On a small screen that shows the whole site, marks are as small as it is.
  const small = scale < 2;
  const looking = new Set(coverage.outlines.map((o) => o.deviceId));
  return (
    <g>
      <defs>
        {levels.map((level, i) => (
          <pattern key={level} id={`${id}-${level}`} width="10" height={lines[i].apart} patternUnits="userSpaceOnUse">
            <line x1="0" x2="10" y1="1" y2="1" stroke="var(--color-ink)" strokeWidth="1" strokeDasharray={lines[i].dashes} />
          </pattern>
        ))}
        <pattern id={`${id}-none`} width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V8M0 0H8" stroke="var(--color-refused)" strokeWidth="1.6" fill="none" />
        </pattern>
      </defs>
      {coverage.grounds.map((g, i) => (
        <g key={i}>
          {levels.map((level) => (
            <path key={level} d={cellsPath(g, level, toPixels)} fill={`url(#${id}-${level})`} />
          ))}
          <path d={cellsPath(g, null, toPixels)} fill={`url(#${id}-none)`} />
          <path d={`${linePath(ground.grounds[i]?.corners ?? [], toPixels)}Z`} fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
        </g>
      ))}
      {shown.map((o) => (
        <path
          key={`${o.deviceId}${o.head}`}
          d={o.edge.length > 0 ? `${linePath(o.edge, toPixels)}Z` : ''}
          fill="var(--color-accent)"
          fillOpacity={0.12}
          stroke="var(--color-accent)"
          strokeWidth={2.4}
          strokeDasharray={o.isAgreed ? undefined : '5 4'}
        />
      ))}
      {ground.walls.map((w, i) => (
        <path
          key={i}
          d={linePath(w.corners, toPixels)}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth={(w.heightMetres === null ? 4.5 : 3) * (small ? 0.5 : 1)}
          strokeDasharray={w.heightMetres === null ? undefined : '9 3'}
        />
      ))}
      {coverage.outlines.map((o) => {
        // All of them at once would be a thicket: where each looks, by a short stroke.
        const stop = stops.find((s) => s.id === o.deviceId);
        if (stop?.x == null || stop.y === null || o.edge.length === 0) return null;
        const to = middle(o.edge);
        const [x, y] = toPixels(stop.x, stop.y);
        const far = Math.hypot(to.x - stop.x, to.y - stop.y);
        return far < 0.01 ? null : (
          <path
            key={`${o.deviceId}${o.head}`}
            d={`M${x} ${y}l${(((to.x - stop.x) / far) * (small ? 7 : 15)).toFixed(1)} ${(((to.y - stop.y) / far) * (small ? 7 : 15)).toFixed(1)}`}
            stroke="var(--color-ink)"
            strokeWidth={small ? 1.4 : 2.4}
          />
        );
      })}
      {stops
        .filter((s) => s.x !== null && s.y !== null && looking.has(s.id))
        .map((s) => {
          const [x, y] = toPixels(s.x!, s.y!);
          const isChosen = s.id === chosen;
          return (
            <g key={s.id}>
              <circle
                cx={x}
                cy={y}
                r={isChosen ? 6 : small ? 2 : 3.5}
                fill={isChosen ? 'var(--color-accent)' : 'var(--color-paper)'}
                stroke="var(--color-ink)"
                strokeWidth={small ? 1 : 1.6}
              />
              {(isChosen || scale > 9) && <Word x={x} y={y - 9} text={s.label} isRead />}
            </g>
          );
        })}
      {coverage.targets
        .filter((x) => x.sight !== 'holds' && (!chosen || x.deviceId === chosen))
        .map((x, i) => {
          const [px, py] = toPixels(x.at.x, x.at.y);
          return (
            <path key={i} d={`M${px - 5} ${py - 5}l10 10m0 -10l-10 10`} stroke="var(--color-refused)" strokeWidth="2.4" fill="none">
              <title>{`${x.label}, ${x.name}: ${t(`coverage.sight.${x.sight}`)}`}</title>
            </path>
          );
        })}
      {ground.grounds.map((g, i) => {
        const [x, y] = toPixels(middle(g.corners).x, Math.min(...g.corners.map((c) => c.y)));
        return <Word key={i} x={x} y={y - 5} text={g.name} size={small ? 10 : 13} />;
      })}
      {drawn && (
        <g stroke="var(--color-accent)" strokeWidth="2.6" fill="none">
          <path d={`${linePath(drawn.corners, toPixels)}${drawn.what === 'ground' && drawn.corners.length > 2 ? 'Z' : ''}`} />
          {drawn.corners.map((c, i) => {
            const [x, y] = toPixels(c.x, c.y);
            return <circle key={i} cx={x} cy={y} r="5" fill="var(--color-paper)" />;
          })}
        </g>
      )}
    </g>
  );
}

const Word = ({ x, y, text, isRead, size = 11 }: { x: number; y: number; text: string; isRead?: boolean; size?: number }) => (
  <text
    x={x}
    y={y}
    fontSize={size}
    fontWeight={isRead ? 400 : 700}
    textAnchor="middle"
    className={isRead ? 'font-read' : ''}
    fill="var(--color-ink)"
    stroke="var(--color-paper)"
    strokeWidth={4}
    paintOrder="stroke"
  >
    {text}
  </text>
);
