import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { troubleOf } from '../../api/send';
import { has, say, t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { stateColour } from '../../ui/Marks';

type Measured = components['schemas']['MeasuredAnswer'];
type Mark = components['schemas']['EvidenceMark'];

/** Pictures that a reading was measured in, each with the measurement drawn in, and the same measured anew in the kept file. */
export default function MeasuredSheet({ deviceId, readingId, onClose }: { deviceId: string; readingId: string; onClose: () => void }) {
  const measured = useQuery({
    queryKey: ['card', deviceId, 'measured', readingId],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/readings/{readingId}/measured', { params: { path: { deviceId, readingId } } })),
    retry: false,
  });
  return (
    <Sheet title={t('measured.title')} onClose={onClose} wide>
      {measured.isPending && <p>{t('ui.loading')}</p>}
      {measured.isError && (
        <p role="alert" className="font-semibold text-refused">
          {troubleOf(measured.error)}
        </p>
      )}
      {measured.data?.map((m) => (
        <One key={m.pictureId + m.algorithm} deviceId={deviceId} measured={m} />
      ))}
    </Sheet>
  );
}

function One({ deviceId, measured }: { deviceId: string; measured: Measured }) {
  const [shape, setShape] = useState<number>();
  const [isGone, setGone] = useState(false);
  const { marks, again } = measured;
  const same = again.figures.filter((f) => f.isSame).length;
  return (
    <section>
      <div className="relative max-w-3xl">
        {isGone ? (
          <p className="font-semibold text-noted">{t('measured.gone')}</p>
        ) : (
          <img
            className="block w-full border border-hairline"
            src={`/api/cards/${deviceId}/pictures/${measured.pictureId}.jpg`}
            alt={t('measured.title')}
            onLoad={(e) => setShape(e.currentTarget.naturalHeight / e.currentTarget.naturalWidth)}
            onError={() => setGone(true)}
          />
        )}
        {!isGone && shape && (
          <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 1000 ${1000 * shape}`} aria-hidden>
            {marks.map((mark, i) => (
              <Drawn key={i} mark={mark} high={1000 * shape} />
            ))}
          </svg>
        )}
      </div>
      <p className="mt-1 text-label text-ink-2">
        {[...new Set(marks.map((m) => m.kind))].map((kind) => t(`measured.mark.${kind}`)).join(' ')}{' '}
        {t('measured.by', measured.algorithm, measured.algorithmVersion)}
      </p>
      {again.why ? (
        <p className="mt-2 text-label font-semibold text-noted">{say(again.why)}</p>
      ) : (
        <p className={`mt-2 font-semibold ${same === again.figures.length ? stateColour.in : 'text-refused'}`}>
          {t('measured.again', t(same === again.figures.length ? 'measured.same' : 'measured.differs'))}
        </p>
      )}
      <Figures again={again} />
    </section>
  );
}

/** What it said then, beside what it says now where it can be made again; there each figure counts, else those that have a name. */
function Figures({ again: { figures, why } }: { again: Measured['again'] }) {
  const told = figures.filter((f) => !why || has(`measured.figure.${f.name}`));
  if (told.length === 0) return null;
  return (
    <table className="mt-1 text-label">
      <thead>
        <tr className="text-left text-ink-2">
          <th className="pr-6 font-normal" />
          <th className="pr-6 font-normal">{t('measured.then')}</th>
          {!why && <th className="font-normal">{t('measured.now')}</th>}
        </tr>
      </thead>
      <tbody>
        {told.map((f) => (
          <tr key={f.name} className={`border-t border-dotted border-hairline ${f.isSame || why ? '' : 'font-bold text-refused'}`}>
            <th scope="row" className="py-0.5 pr-6 text-left font-normal">
              {has(`measured.figure.${f.name}`) ? t(`measured.figure.${f.name}`) : f.name}
            </th>
            <td className="font-read pr-6">{figure(f.was)}</td>
            {!why && <td className="font-read">{f.now === null ? t('measured.nothing') : figure(f.now)}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const figure = (value: number) => String(Number(value.toPrecision(4)));

/** Dark on a light line, so that it is seen on any ground. */
function Drawn({ mark, high }: { mark: Mark; high: number }) {
  const [x1, y1, x2, y2] = [mark.from.x * 1000, mark.from.y * high, mark.to.x * 1000, mark.to.y * high];
  const twice = (draw: (stroke: string, width: number) => React.ReactNode, width: number) => (
    <g fill="none">
      {draw('#ffffff', width + 5)}
      {draw('#14213d', width)}
    </g>
  );
  switch (mark.kind) {
    case 'axis':
      return twice((stroke, width) => <path d={`M${x1 - 30} ${y1}h60M${x1} ${y1 - 30}v60`} stroke={stroke} strokeWidth={width} />, 4);
    case 'agreed':
      return twice((stroke, width) => <circle cx={x1} cy={y1} r={24} stroke={stroke} strokeWidth={width} />, 4);
    case 'horizon':
      return twice(
        (stroke, width) => <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={stroke} strokeWidth={width} strokeDasharray="18 12" />,
        3,
      );
    case 'line':
      return twice(
        (stroke, width) => (
          <>
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={stroke} strokeWidth={width} />
            <circle cx={x1} cy={y1} r={9} stroke={stroke} strokeWidth={width} />
            <circle cx={x2} cy={y2} r={9} stroke={stroke} strokeWidth={width} />
          </>
        ),
        4,
      );
    case 'point':
      return twice(
        (stroke, width) => (
          <>
            <circle cx={x1} cy={y1} r={16} stroke={stroke} strokeWidth={width} />
            <path d={`M${x1 - 5} ${y1}h10M${x1} ${y1 - 5}v10`} stroke={stroke} strokeWidth={width} />
          </>
        ),
        3,
      );
    case 'target':
      return twice((stroke, width) => <rect x={x1} y={y1} width={x2 - x1} height={y2 - y1} stroke={stroke} strokeWidth={width} />, 4);
    default:
      return (
        <g>
          <rect x={x1} y={y1} width={x2 - x1} height={y2 - y1} fill="none" stroke="#ffffff" strokeWidth={2} />
          <text
            x={(x1 + x2) / 2}
            y={(y1 + y2) / 2 + 10}
            textAnchor="middle"
            fontSize={30}
            fontWeight="bold"
            fill="#14213d"
            stroke="#ffffff"
            strokeWidth={8}
            paintOrder="stroke"
          >
            {Math.round((mark.share ?? 0) * 100)}
          </text>
        </g>
      );
  }
}
