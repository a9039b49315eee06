import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { NumberField } from '../../ui/NumberField';
import { Trouble } from '../../ui/Trouble';
import { fields, laneOf, type Setting } from './geometry';
import { SeenList } from './SeenList';

const width = 420;
const height = 110;

/** The lane from above: the camera, what it sees of the lane, where plates are read. */
function Lane({ setting }: { setting: Setting }) {
  const lane = laneOf(setting, width - 20, height);
  const [a, b] = lane.edges;
  const [x, y] = lane.camera;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden>
      <rect x={0} width={width} y={lane.lane.top} height={lane.lane.height} fill="var(--color-hairline)" opacity={0.5} />
      <rect
        x={lane.zone.left}
        width={lane.zone.width}
        y={lane.lane.top}
        height={lane.lane.height}
        fill="none"
        stroke="var(--color-ink)"
        strokeDasharray="5 3"
      />
      <path d={`M${x} ${y} L${a[0]} ${a[1]} M${x} ${y} L${b[0]} ${b[1]}`} stroke="var(--color-ink-3)" fill="none" />
      <line x1={x} y1={y} x2={lane.plate.x} y2={(lane.plate.from + lane.plate.to) / 2} stroke="var(--color-ink)" strokeDasharray="2 4" />
      <line x1={lane.plate.x} x2={lane.plate.x} y1={lane.plate.from} y2={lane.plate.to} stroke="var(--color-ink)" strokeWidth={5} />
      <circle cx={x} cy={y} r={6} fill="var(--color-ink)" />
    </svg>
  );
}

/** How camera and lane lie and the reader is set, with what a plate is then, while it is typed. */
export function GeometrySheet({
  deviceId,
  begin,
  onClose,
  onKeep,
}: {
  deviceId: string;
  begin: Setting;
  onClose: () => void;
  onKeep: (lines: unknown) => Promise<string | null>;
}) {
  const [setting, setSetting] = useState(begin);
  const [trouble, setTrouble] = useState('');
  const text = JSON.stringify(setting);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const soon = setTimeout(() => setSettled(text), 120);
    return () => clearTimeout(soon);
  }, [text]);
  const tried = useQuery({
    queryKey: ['plates', deviceId, 'geometry', settled],
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
    queryFn: ({ signal }) =>
      answered(
        api.POST('/api/cards/{deviceId}/plates/geometry', {
          params: { path: { deviceId } },
          body: { setting: JSON.parse(settled) as Setting },
          signal,
        }),
      ),
  });
  const isNow = settled === text && !tried.isPlaceholderData;
  const seen = tried.error ? undefined : tried.data?.seen;
  const wrong =
    trouble || (tried.error instanceof ProblemError ? tried.error.problem.detail : tried.error ? t('plates.page.geometry-offline') : '');
  return (
    <Sheet title={t('check.plates.geometry')} hint={t('plates.page.geometry-how')} onClose={onClose} wide>
      <Lane setting={setting} />
      <Trouble text={wrong} />
      <div className="min-h-[6.5rem]">{seen && <SeenList seen={seen} className="mt-1" />}</div>
      <div className="mt-2 grid grid-cols-2 gap-x-4 sm:grid-cols-3">
        {fields.map(([id, field, unit]) => (
          <Labelled key={id} label={[t(`field.plates.geometry.${id}`), unit].filter(Boolean).join(', ')}>
            <NumberField
              className="field font-read"
              value={setting[field]}
              onChange={(v: number) => setSetting({ ...setting, [field]: field === 'pixelsWide' ? Math.round(v) : v })}
            />
          </Labelled>
        ))}
      </div>
      <button
        className="forward mt-3 w-full disabled:opacity-40"
        disabled={!isNow || !seen}
        onClick={() =>
          void (async () => {
            if (await onKeep(tried.data!.lines)) onClose();
            else setTrouble(t('ui.not-kept'));
          })()
        }
      >
        {t('plates.page.geometry-keep')}
      </button>
    </Sheet>
  );
}
