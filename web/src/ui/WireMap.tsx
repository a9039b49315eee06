import type { ReadingValue } from '../api/types';
import { t } from '../texts';

const schemes = {
  T568B: ['white-orange', 'orange', 'white-green', 'blue', 'white-blue', 'green', 'white-brown', 'brown'],
  T568A: ['white-green', 'green', 'white-orange', 'blue', 'white-blue', 'orange', 'white-brown', 'brown'],
};
const wire: Record<string, string> = {
  orange: 'var(--color-wire-orange)',
  green: 'var(--color-wire-green)',
  blue: 'var(--color-wire-blue)',
  brown: 'var(--color-wire-brown)',
};

type MapValue = Extract<ReadingValue, { kind: 'wireMap' }>;

export const coloursOf = (scheme: string) => schemes[scheme as keyof typeof schemes] ?? schemes.T568B;

/**
 * Eight conductors from near to far in their insulation colours. Breaks are gaps at the measured distance; crossings cross, drawn over the
 * straight ones. The picture is named by its conclusion; a table says the same for who cannot see it.
 */
export function WireMap({
  map,
  scheme,
  conclusion,
  width = 372,
  pitch = 18,
  names = true,
  length,
  fine,
}: {
  map: MapValue;
  scheme: string;
  conclusion: string;
  width?: number;
  pitch?: number;
  names?: boolean;
  length?: number;
  /** Judged in: what is dark is meant to be, as behind a sharing adapter. */
  fine?: boolean;
}) {
  const colours = coloursOf(scheme);
  const alarm = fine ? 'var(--color-ink-2)' : 'var(--color-refused)';
  const left = names ? 116 : 26;
  const right = width - (names ? 62 : 50);
  const height = pitch * 8 + 6;
  const yOf = (pin: number) => 3 + (pin - 0.5) * pitch;
  const thick = Math.max(3, pitch * 0.44);
  const straight = (i: number) => map.nearToFar[i].length === 1 && map.nearToFar[i][0] === i + 1;
  const lines: React.ReactNode[] = [];
  const order = [...Array(8).keys()].sort((a, b) => Number(straight(b)) - Number(straight(a)));
  for (const i of order) {
    const far = map.nearToFar[i];
    const y = yOf(i + 1);
    if (far.length === 0) {
      const metres = map.openDistanceMetres?.[String(i + 1)];
      const share = metres !== undefined && metres !== null && length ? Math.min(0.93, Math.max(0.07, metres / length)) : 0.5;
      const x = left + (right - left) * share;
      lines.push(
        <Wire key={`${i}a`} d={`M${left} ${y}H${x - 7}`} colour={colours[i]} thick={thick} />,
        <Wire key={`${i}b`} d={`M${x + 7} ${y}H${right}`} colour={colours[i]} thick={thick} />,
      );
      lines.push(
        <path
          key={`${i}t`}
          d={`M${x - 7} ${y - thick / 2 - 1}l5 ${thick / 2 + 1}-5 ${thick / 2 + 1}M${x + 7} ${y - thick / 2 - 1}l-5 ${thick / 2 + 1} 5 ${thick / 2 + 1}`}
          stroke={alarm}
          strokeWidth="1.6"
          fill="none"
        />,
      );
    }
    far
      .filter((pin) => pin <= 8)
      .forEach((pin) => {
        const a = left + (right - left) * 0.32;
        const b = left + (right - left) * 0.68;
        lines.push(
          <Wire
            key={`${i}-${pin}`}
            d={pin === i + 1 ? `M${left} ${y}H${right}` : `M${left} ${y}H${a}L${b} ${yOf(pin)}H${right}`}
            colour={colours[i]}
            thick={thick}
          />,
        );
      });
  }
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} role="img" aria-label={conclusion} className="max-w-full">
        {lines}
        <path d={`M${left} 0V${height}M${right} 0V${height}`} stroke="var(--color-ink)" strokeWidth="2" />
        {[...Array(8).keys()].map((i) => {
          const wrong = !straight(i);
          const fill = wrong ? alarm : 'var(--color-ink)';
          const y = yOf(i + 1) + 4.5;
          return (
            <g key={i} fontSize="13">
              {names && (
                <text x={left - 22} y={y} textAnchor="end" fill={wrong ? fill : 'var(--color-ink-3)'} fontSize="12">
                  {t(`colour.${colours[i]}`)}
                </text>
              )}
              <text x={left - 8} y={y} textAnchor="end" fill={fill} className="font-read" fontWeight="700">
                {i + 1}
              </text>
              <text
                x={right + 8}
                y={y}
                fill={map.nearToFar[i].length === 0 ? fill : 'var(--color-ink)'}
                className="font-read"
                fontWeight="700"
              >
                {i + 1}
              </text>
              {map.nearToFar[i].length === 0 && (
                <text x={right + 22} y={y} fill={fill} fontSize="12" fontWeight="700">
                  {t('report.open')}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <table className="sr-only">
        <caption>{conclusion}</caption>
        <tbody>
          {map.nearToFar.map((far, i) => (
            <tr key={i}>
              <th scope="row">{i + 1}</th>
              <td>{t(`colour.${colours[i]}`)}</td>
              <td>{far.length === 0 ? t('report.open') : far.join(', ')}</td>
              <td>{map.openDistanceMetres?.[String(i + 1)] ?? ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}

function Wire({ d, colour, thick }: { d: string; colour: string; thick: number }) {
  const striped = colour.startsWith('white-');
  const solid = wire[striped ? colour.slice(6) : colour];
  return (
    <g fill="none">
      <path d={d} stroke="var(--color-wire-edge)" strokeWidth={thick + 2} />
      <path d={d} stroke={striped ? 'var(--color-wire-white)' : solid} strokeWidth={thick} />
      {striped && <path d={d} stroke={solid} strokeWidth={thick} strokeDasharray="8 8" />}
    </g>
  );
}
