import { useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { Verdict, WalkAnswer, WalkStop } from '../../api/types';
import { t } from '../../texts';
import { VerdictMark } from '../../ui/Marks';
import { boxOf, crowding, fit, isPlaced, type Sight } from './plan';

const MARK = 9;
const order: Verdict[] = ['refused', 'open', 'acceptedWithNote', 'accepted'];

/** What arranging adds to the plan. */
export interface Arranging {
  /** Places that were dragged and are not kept yet, by id. */
  moved: Map<string, { x: number; y: number }>;
  onMove: (id: string, x: number, y: number) => void;
  /** A press on the plan itself, in metres. */
  onPress?: (x: number, y: number) => void;
  /** Drawn on top, in pixels. */
  overlay?: (toPixels: (x: number, y: number) => [number, number]) => ReactNode;
}

/** Metres. */
const bareField = { x1: 0, y1: 0, x2: 60, y2: 40 };

/** What is drawn on the plan instead of the Stops: a point of the site in pixels, and pixels a metre. */
export interface PlanLayer {
  drawn: (toPixels: (x: number, y: number) => [number, number], scale: number) => ReactNode;
  /** A press on the plan, in metres. */
  onPress?: (x: number, y: number) => void;
}

/**
 * The Stops where they are, over the drawing: route in order, solid where walked and dashed ahead, cabinets as black squares. Never the
 * only way:
 * everything is in the StopLine too. Where marks would touch, an area folds to one knot with its counts.
 */
export function PlanView({
  walk,
  current,
  only,
  onStop,
  arranging,
  layer,
}: {
  walk: WalkAnswer;
  current?: string;
  only?: Set<string>;
  onStop: (stop: WalkStop) => void;
  arranging?: Arranging;
  layer?: PlanLayer;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ w: 0, h: 0 });
  const [sight, setSight] = useState<Sight>();
  const fingers = useRef(new Map<number, { x: number; y: number }>());
  const drag = useRef<{ id?: string; moved: boolean }>({ moved: false });
  const drawing = walk.drawing;
  const drawn = drawing?.metresPerPixel
    ? {
        x: drawing.leftMetres,
        y: drawing.topMetres,
        w: drawing.widthPixels * drawing.metresPerPixel,
        h: drawing.heightPixels * drawing.metresPerPixel,
      }
    : null;
  const areas = useMemo(() => walk.areas.map((area) => ({ area, near: crowding(area), box: boxOf(area.stops) })), [walk.areas]);
  const whole = useMemo(
    () =>
      boxOf([
        ...walk.areas.flatMap((a) => a.stops),
        ...walk.cabinets,
        ...(drawn
          ? [
              { x: drawn.x, y: drawn.y },
              { x: drawn.x + drawn.w, y: drawn.y + drawn.h },
            ]
          : []),
      ]),
    // The drawing's place is told by its parts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [walk.areas, walk.cabinets, drawn?.x, drawn?.y, drawn?.w, drawn?.h],
  );
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setSize({ w: element.clientWidth, h: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  // Without a drawing and without a place there is a bare field to press on.
  const ground = whole ?? (arranging || layer?.onPress ? bareField : null);
  const shownSight = sight ?? (ground && size.w ? fit(ground, size.w, size.h) : undefined);
  const zoom = (by: number, px = size.w / 2, py = size.h / 2) => {
    if (!shownSight) return;
    const scale = Math.min(400, Math.max(0.02, shownSight.scale * by));
    // What lies under the finger stays under it.
    const wx = shownSight.x + (px - size.w / 2) / shownSight.scale;
    const wy = shownSight.y + (py - size.h / 2) / shownSight.scale;
    setSight({ scale, x: wx - (px - size.w / 2) / scale, y: wy - (py - size.h / 2) / scale });
  };
  const wheel = useRef(zoom);
  useLayoutEffect(() => {
    wheel.current = zoom;
  });
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      wheel.current(Math.exp(-event.deltaY * 0.0016), event.clientX - box.left, event.clientY - box.top);
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, []);

  const s = shownSight;
  const px = (x: number) => size.w / 2 + (x - (s?.x ?? 0)) * (s?.scale ?? 1);
  const py = (y: number) => size.h / 2 + (y - (s?.y ?? 0)) * (s?.scale ?? 1);
  const at = (event: React.PointerEvent) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const toSite = (p: { x: number; y: number }) => ({ x: s!.x + (p.x - size.w / 2) / s!.scale, y: s!.y + (p.y - size.h / 2) / s!.scale });
  const down = (event: React.PointerEvent) => {
    const mark = (event.target as Element).closest<SVGGElement>('[data-drag]');
    fingers.current.set(event.pointerId, at(event));
    drag.current = { id: arranging ? mark?.dataset.drag : undefined, moved: false };
    frame.current!.setPointerCapture(event.pointerId);
  };
  const moveTo = (event: React.PointerEvent) => {
    const before = fingers.current.get(event.pointerId);
    if (!before || !s) return;
    const now = at(event);
    if (!drag.current.moved && Math.hypot(now.x - before.x, now.y - before.y) < 4) return;
    drag.current.moved = true;
    const others = [...fingers.current].filter(([id]) => id !== event.pointerId).map(([, p]) => p);
    if (drag.current.id && arranging) {
      const site = toSite(now);
      arranging.onMove(drag.current.id, Math.round(site.x * 100) / 100, Math.round(site.y * 100) / 100);
    } else if (others[0]) {
      const was = Math.hypot(before.x - others[0].x, before.y - others[0].y);
      const is = Math.hypot(now.x - others[0].x, now.y - others[0].y);
      if (was > 0 && is > 0) zoom(is / was, (now.x + others[0].x) / 2, (now.y + others[0].y) / 2);
    } else setSight({ ...s, x: s.x - (now.x - before.x) / s.scale, y: s.y - (now.y - before.y) / s.scale });
    fingers.current.set(event.pointerId, now);
  };
  const up = (event: React.PointerEvent) => {
    fingers.current.delete(event.pointerId);
    if (drag.current.moved || !s || event.type === 'pointercancel') return;
    const target = document.elementFromPoint(event.clientX, event.clientY);
    const stop = target?.closest<SVGGElement>('[data-stop]')?.dataset.stop;
    const area = target?.closest<SVGGElement>('[data-area]')?.dataset.area;
    if (stop && !arranging) {
      const found = walk.areas.flatMap((a) => a.stops).find((x) => x.id === stop);
      if (found) onStop(found);
    } else if (area !== undefined) openArea(area);
    else {
      const press = layer?.onPress ?? arranging?.onPress;
      if (!press) return;
      const site = toSite(at(event));
      press(site.x, site.y);
    }
  };
  const openArea = (name: string) => {
    const found = areas.find((a) => a.area.name === name);
    if (!found?.box) return;
    const fitted = fit(found.box, size.w, size.h, 60);
    // Near enough that its marks do not touch.
    setSight({ ...fitted, scale: Math.max(fitted.scale, Math.min(400, (MARK * 2.4) / Math.max(0.05, found.near))) });
  };
  const keys = (event: React.KeyboardEvent) => {
    if (!s) return;
    const step = 80 / s.scale;
    const act: Record<string, () => void> = {
      ArrowLeft: () => setSight({ ...s, x: s.x - step }),
      ArrowRight: () => setSight({ ...s, x: s.x + step }),
      ArrowUp: () => setSight({ ...s, y: s.y - step }),
      ArrowDown: () => setSight({ ...s, y: s.y + step }),
      '+': () => zoom(1.4),
      '=': () => zoom(1.4),
      '-': () => zoom(1 / 1.4),
      '0': () => setSight(undefined),
    };
    if (!act[event.key] || event.target !== frame.current) return;
    event.preventDefault();
    event.stopPropagation();
    act[event.key]();
  };

  const place = (stop: WalkStop) => arranging?.moved.get(stop.id) ?? (isPlaced(stop) ? { x: stop.x, y: stop.y } : null);
  const inSight = (x: number, y: number, margin = 20) => x > -margin && y > -margin && x < size.w + margin && y < size.h + margin;
  const unplaced = useMemo(
    () => walk.areas.reduce((n, a) => n + a.stops.filter((x) => !isPlaced(x) && !arranging?.moved.has(x.id)).length, 0),
    [walk.areas, arranging?.moved],
  );
  const key = 'plain !min-h-9 !px-3 text-label';
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={frame}
        // The plan is worked with keys while it has the focus.
        tabIndex={0}
        role="application"
        aria-label={t('plan.here')}
        className={`relative min-h-0 flex-1 touch-none select-none overflow-hidden ${arranging || layer?.onPress ? 'cursor-crosshair' : 'cursor-grab'}`}
        onPointerDown={down}
        onPointerMove={moveTo}
        onPointerUp={up}
        onPointerCancel={up}
        onKeyDown={keys}
      >
        {s && (
          <svg width={size.w} height={size.h} className="absolute inset-0">
            {drawing && drawn && (
              <image
                href={`/api/jobs/${walk.jobId}/plan/${drawing.hash}`}
                x={px(drawn.x)}
                y={py(drawn.y)}
                width={drawn.w * s.scale}
                height={drawn.h * s.scale}
                preserveAspectRatio="none"
                className="plan-drawing"
              />
            )}
            {layer?.drawn((x, y) => [px(x), py(y)], s.scale)}
            {(layer ? [] : areas).map(({ area, near, box }) => {
              if (!box) return null;
              const folded = near * s.scale < MARK * 1.7;
              const [x1, y1, x2, y2] = [px(box.x1) - 16, py(box.y1) - 16, px(box.x2) + 16, py(box.y2) + 16];
              if (x2 < -40 || y2 < -40 || x1 > size.w + 40 || y1 > size.h + 40) return null;
              // An area that lies in another has its name below, out of the other's way.
              const inside = areas.some(
                (o) => o.box && o.area !== area && o.box.x1 <= box.x1 && o.box.y1 <= box.y1 && o.box.x2 >= box.x2 && o.box.y2 >= box.y2,
              );
              const counts = order.map((v) => [v, area.stops.filter((x) => x.verdict === v).length] as const).filter(([, n]) => n > 0);
              return (
                <g key={area.name} data-area={folded ? area.name : undefined} className={folded ? 'cursor-pointer' : ''}>
                  {!drawn && (
                    <rect
                      x={x1}
                      y={y1}
                      width={x2 - x1}
                      height={y2 - y1}
                      fill={folded ? 'var(--color-paper)' : 'none'}
                      stroke="var(--color-rule)"
                      strokeWidth={1.2}
                    />
                  )}
                  <text
                    x={x1}
                    y={inside ? y2 + 15 : y1 - 6}
                    fontSize={13}
                    fontWeight="700"
                    fill="var(--color-ink)"
                    stroke="var(--color-paper)"
                    strokeWidth={4}
                    paintOrder="stroke"
                  >
                    {area.name}
                  </text>
                  {folded && (
                    <g>
                      <rect
                        x={(x1 + x2) / 2 - counts.length * 25}
                        y={(y1 + y2) / 2 - 13}
                        width={counts.length * 50}
                        height={26}
                        fill="var(--color-paper)"
                        stroke="var(--color-ink)"
                      />
                      {counts.map(([v, n], i) => (
                        <g key={v} transform={`translate(${(x1 + x2) / 2 - counts.length * 25 + i * 50 + 5},${(y1 + y2) / 2 - 7})`}>
                          <svg width={14} height={14} viewBox="0 0 24 24">
                            <VerdictMark verdict={v} size={24} label="" />
                          </svg>
                          <text x={19} y={12} fontSize={13} className="font-read" fill="var(--color-ink)">
                            {n}
                          </text>
                        </g>
                      ))}
                      <title>{`${area.name}: ${counts.map(([v, n]) => `${n} ${t(`verdict.${v}`)}`).join(', ')}`}</title>
                    </g>
                  )}
                </g>
              );
            })}
            {(layer ? [] : areas).map(({ area, near }) => {
              if (near * s.scale < MARK * 1.7) return null;
              const placed = area.stops.map((stop) => ({ stop, at: place(stop) })).filter((x) => x.at && (!only || only.has(x.stop.id)));
              return (
                <g key={area.name}>
                  {placed.slice(1).map(({ stop, at: to }, i) => {
                    const from = placed[i];
                    const walked = from.stop.verdict !== 'open' && stop.verdict !== 'open';
                    const [ax, ay, bx, by] = [px(from.at!.x), py(from.at!.y), px(to!.x), py(to!.y)];
                    if (!inSight(ax, ay, 400) && !inSight(bx, by, 400)) return null;
                    return (
                      <line
                        key={stop.id}
                        x1={ax}
                        y1={ay}
                        x2={bx}
                        y2={by}
                        stroke={walked ? 'var(--color-ink)' : 'var(--color-rule)'}
                        strokeWidth={walked ? 3 : 1.6}
                        strokeDasharray={walked ? undefined : '7 6'}
                      />
                    );
                  })}
                  {placed.map(({ stop, at: to }) => {
                    const [x, y] = [px(to!.x), py(to!.y)];
                    if (!inSight(x, y)) return null;
                    const here = stop.id === current;
                    return (
                      <g
                        key={stop.id}
                        data-stop={stop.id}
                        data-drag={stop.id}
                        role="button"
                        tabIndex={-1}
                        aria-label={`${stop.label}, ${stop.name}, ${t(`verdict.${stop.verdict}`)}`}
                        className={arranging ? 'cursor-move' : 'cursor-pointer'}
                      >
                        <circle cx={x} cy={y} r={s.scale * near > 44 ? 22 : MARK * 1.6} fill="transparent" />
                        <circle cx={x} cy={y} r={MARK + 0.5} fill="var(--color-paper)" />
                        <svg x={x - MARK} y={y - MARK} width={MARK * 2} height={MARK * 2} viewBox="0 0 24 24" aria-hidden>
                          <VerdictMark verdict={stop.verdict} size={24} label="" />
                        </svg>
                        {(here || s.scale * near > 64 || arranging?.moved.has(stop.id)) && (
                          <text
                            x={x}
                            y={y - MARK - 8}
                            fontSize={here ? 15 : 12}
                            textAnchor="middle"
                            fontWeight={here ? 700 : 400}
                            fill={here ? 'var(--color-accent-ink)' : 'var(--color-ink-2)'}
                            stroke="var(--color-paper)"
                            strokeWidth={4}
                            paintOrder="stroke"
                            className="font-read"
                          >
                            {stop.label}
                          </text>
                        )}
                        {here && <circle cx={x} cy={y} r={MARK * 1.8} fill="none" stroke="var(--color-accent)" strokeWidth={3.5} />}
                        <title>{`${stop.label}, ${stop.name}`}</title>
                      </g>
                    );
                  })}
                </g>
              );
            })}
            {(layer ? [] : walk.cabinets).map((c) => {
              const to = arranging?.moved.get(c.id) ?? (isPlaced(c) ? { x: c.x, y: c.y } : null);
              if (!to || !inSight(px(to.x), py(to.y))) return null;
              // On a small screen that shows the whole site a cabinet is a point among the Stops, not over them.
              const half = size.w < 500 && !sight ? MARK * 0.55 : MARK;
              return (
                <g key={c.id} data-drag={c.id} role="img" aria-label={`${t('walk.cabinet')} ${c.label}, ${c.name}`}>
                  <rect x={px(to.x) - half} y={py(to.y) - half} width={half * 2} height={half * 2} fill="var(--color-ink)" />
                  <text x={px(to.x)} y={py(to.y) + 4.5} fontSize={12} textAnchor="middle" fill="var(--color-paper)" fontWeight="700">
                    {half === MARK && c.label.replace(/^\D+/, '').slice(0, 3)}
                  </text>
                  <title>{`${c.label}, ${c.name}`}</title>
                </g>
              );
            })}
            {arranging?.overlay?.((x, y) => [px(x), py(y)])}
          </svg>
        )}
        {!ground && <p className="p-6 text-ink-2">{t('plan.unplaced', unplaced)}</p>}
      </div>
      <div className="flex shrink-0 items-center gap-2 pt-2">
        <button className={key} onClick={() => zoom(1.5)}>
          {t('plan.nearer')}
        </button>
        <button className={key} onClick={() => zoom(1 / 1.5)}>
          {t('plan.farther')}
        </button>
        <button className={key} onClick={() => setSight(undefined)} disabled={!sight}>
          {t('plan.whole')}
        </button>
        {unplaced > 0 && !layer && <span className="ml-2 text-label text-ink-2">{t('plan.unplaced', unplaced)}</span>}
      </div>
    </div>
  );
}
