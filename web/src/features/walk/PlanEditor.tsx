import '../pageTexts';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api } from '../../api/client';
import { entry, sendFile, troubleOf } from '../../api/send';
import { useKept } from '../../session/kept';
import type { WalkAnswer } from '../../api/types';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { isPlaced } from './plan';
import { PlanView } from './PlanView';
import { Trouble } from '../../ui/Trouble';

type Point = { x: number; y: number };

const none: [string, Point][] = [];

/** Arranging the plan: the drawing and its scale, and where everything hangs. */
export default function PlanEditor({ walk, onDone }: { walk: WalkAnswer; onDone: () => void }) {
  const client = useQueryClient();
  const [places, keepPlaces] = useKept<[string, Point][]>('places', none);
  const moved = useMemo(() => new Map(places), [places]);
  const setMoved = (next: Map<string, Point>) => keepPlaces(next.size > 0 ? [...next] : undefined);
  const [placing, setPlacing] = useState<string>();
  const [scaling, setScaling] = useState<Point[]>();
  const [metres, setMetres] = useState('');
  const [anchor, setAnchor] = useState({ x: '', y: '' });
  const [trouble, setTrouble] = useState<string>();
  const [busy, setBusy] = useState(false);
  const drawing = walk.drawing;
  // Until its scale is set, a drawing is shown one metre to ten pixels, so that two points can be pressed.
  const provisional =
    drawing && !drawing.metresPerPixel ? { ...walk, drawing: { ...drawing, metresPerPixel: 0.1, leftMetres: 0, topMetres: 0 } } : walk;
  const at = provisional.drawing;
  const unplaced = walk.areas.flatMap((a) => a.stops).filter((s) => !isPlaced(s) && !moved.has(s.id));
  const act = async (work: () => Promise<unknown>) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      await work();
      await client.invalidateQueries({ queryKey: ['walk'] });
      return true;
    } catch (error) {
      setTrouble(troubleOf(error));
      return false;
    } finally {
      setBusy(false);
    }
  };
  const save = () =>
    act(async () => {
      const cabinets = new Set(walk.cabinets.map((c) => c.id));
      const edits = [...moved]
        .filter(([id]) => !cabinets.has(id))
        .flatMap(([deviceId, p]) => [
          { deviceId, field: 'x_m', text: String(p.x) },
          { deviceId, field: 'y_m', text: String(p.y) },
        ]);
      if (edits.length > 0)
        await answered(
          api.POST('/api/jobs/{jobId}/register/edits', { params: { path: { jobId: walk.jobId } }, body: { ...entry(v7()), edits } }),
        );
      for (const [id, p] of moved)
        if (cabinets.has(id))
          await api.PUT('/api/jobs/{jobId}/cabinets/{cabinetId}', { params: { path: { jobId: walk.jobId, cabinetId: id } }, body: p });
      setMoved(new Map());
    });
  const scale = () =>
    act(async () => {
      const [a, b] = scaling!.map((p) => ({
        x: (p.x - at!.leftMetres) / at!.metresPerPixel!,
        y: (p.y - at!.topMetres) / at!.metresPerPixel!,
      }));
      const { error, response } = await api.PUT('/api/jobs/{jobId}/plan/scale', {
        params: { path: { jobId: walk.jobId } },
        body: {
          ax: a.x,
          ay: a.y,
          bx: b.x,
          by: b.y,
          metres: Number(metres.replace(',', '.')),
          anchorX: anchor.x ? Number(anchor.x.replace(',', '.')) : null,
          anchorY: anchor.y ? Number(anchor.y.replace(',', '.')) : null,
        },
      });
      if (!response.ok) throw new Error((error as { detail?: string } | undefined)?.detail);
      setScaling(undefined);
    });
  return (
    <div className="flex min-h-0 flex-1 gap-6">
      <PlanView
        walk={provisional}
        onStop={() => {}}
        arranging={{
          moved,
          onMove: (id, x, y) => setMoved(new Map(moved).set(id, { x, y })),
          onPress: (x, y) => {
            if (scaling && scaling.length < 2) setScaling([...scaling, { x, y }]);
            else if (placing) {
              setMoved(new Map(moved).set(placing, { x: Math.round(x * 100) / 100, y: Math.round(y * 100) / 100 }));
              setPlacing(unplaced.find((s) => s.id !== placing)?.id);
            }
          },
          overlay: (toPixels) =>
            scaling && (
              <g stroke="var(--color-accent)" strokeWidth={2.5} fill="none">
                {scaling.map((p, i) => {
                  const [x, y] = toPixels(p.x, p.y);
                  return <path key={i} d={`M${x - 12} ${y}h24M${x} ${y - 12}v24`} />;
                })}
                {scaling.length === 2 && (
                  <line
                    x1={toPixels(scaling[0].x, scaling[0].y)[0]}
                    y1={toPixels(scaling[0].x, scaling[0].y)[1]}
                    x2={toPixels(scaling[1].x, scaling[1].y)[0]}
                    y2={toPixels(scaling[1].x, scaling[1].y)[1]}
                    strokeDasharray="6 5"
                  />
                )}
              </g>
            ),
        }}
      />
      <aside className="w-[272px] shrink-0 overflow-y-auto">
        <h2 className="border-t border-ink pt-2 text-body font-bold">{t('plan.drawing')}</h2>
        <p className="mb-2 text-label text-ink-2">
          {drawing ? `${drawing.name}${drawing.metresPerPixel ? '' : `. ${t('plan.no-scale')}`}` : t('plan.none-yet')}
        </p>
        <input
          type="file"
          aria-label={t('plan.choose')}
          accept=".svg,.png,image/svg+xml,image/png"
          className="field mb-2 text-label"
          disabled={busy}
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file)
              void act(() => sendFile(`/api/jobs/${walk.jobId}/plan?name=${encodeURIComponent(file.name)}`, file)).then(() =>
                setScaling([]),
              );
          }}
        />
        {drawing && !scaling && (
          <button
            className="plain mb-2 w-full text-center disabled:opacity-50"
            disabled={moved.size > 0}
            aria-describedby={moved.size > 0 ? 'scale-waits' : undefined}
            onClick={() => setScaling([])}
          >
            {t('plan.set-scale')}
          </button>
        )}
        {drawing && moved.size > 0 && (
          <p id="scale-waits" className="mb-2 text-label text-ink-2">
            {t('plan.scale-waits', moved.size)}
          </p>
        )}
        {scaling && (
          <div className="mb-3 border-l-4 border-accent pl-3">
            <p className="mb-2 text-label font-semibold" role="status">
              {t(scaling.length === 0 ? 'plan.first-point' : scaling.length === 1 ? 'plan.second-point' : 'plan.how-far')}
            </p>
            {scaling.length === 2 && (
              <>
                <Labelled label={t('plan.metres')}>
                  <input className="field font-read" inputMode="decimal" value={metres} onChange={(e) => setMetres(e.target.value)} />
                </Labelled>
                <div className="flex gap-2">
                  {(['x', 'y'] as const).map((axis) => (
                    <Labelled key={axis} label={t('plan.anchor', axis)}>
                      <input
                        className="field font-read"
                        inputMode="decimal"
                        value={anchor[axis]}
                        onChange={(e) => setAnchor({ ...anchor, [axis]: e.target.value })}
                      />
                    </Labelled>
                  ))}
                </div>
                <button className="forward w-full text-center disabled:opacity-50" disabled={busy || !metres} onClick={() => void scale()}>
                  {t('plan.keep-scale')}
                </button>
              </>
            )}
            <button className="mt-1 min-h-11 text-label font-semibold underline" onClick={() => setScaling(undefined)}>
              {t('ui.cancel')}
            </button>
          </div>
        )}
        <h2 className="mt-4 border-t border-ink pt-2 text-body font-bold">{t('plan.places')}</h2>
        <p className="mb-2 text-label text-ink-2">{t(unplaced.length ? 'plan.pick' : 'plan.drag')}</p>
        {unplaced.length > 0 && (
          <ul className="mb-3 max-h-52 overflow-y-auto border-y border-hairline">
            {unplaced.slice(0, 300).map((s) => (
              <li key={s.id}>
                <button
                  aria-pressed={placing === s.id}
                  className={`flex min-h-9 w-full items-center gap-2 border-l-4 px-2 ${placing === s.id ? 'border-accent font-bold' : 'border-transparent'}`}
                  onClick={() => setPlacing(s.id)}
                >
                  <span className="font-read">{s.label}</span> <span className="truncate text-label font-normal text-ink-2">{s.name}</span>
                </button>
              </li>
            ))}
          </ul>
        )}
        <Trouble text={trouble} className="mb-2" />
        {moved.size > 0 && (
          <button className="forward w-full text-center disabled:opacity-50" disabled={busy} onClick={() => void save()}>
            {t('plan.keep', moved.size)}
          </button>
        )}
        {moved.size > 0 ? (
          <button className="mt-1 min-h-11 text-label font-semibold underline" onClick={() => setMoved(new Map())}>
            {t('plan.put-back')}
          </button>
        ) : (
          <button className="plain w-full text-center" onClick={onDone}>
            {t('ui.done')}
          </button>
        )}
      </aside>
    </div>
  );
}
