import { useQuery } from '@tanstack/react-query';
import { type KeyboardEvent, type PointerEvent, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { answered, api } from '../../../api/client';
import type { PictureLine, PictureZone, ZoneUse } from '../../../api/types';
import { t } from '../../../texts';
import { blank, corner, halfway, inserted, mostCorners, moved, pressed, shifted } from './corners';
import type { FieldProps } from './way';

const uses: ZoneUse[] = ['ownGround', 'watch', 'ignore', 'private'];

/** Drawn by its shape, and not by a colour alone: what rings is a full line, what does not is dashed, what is blackened is black. */
const look: Record<ZoneUse, { fill: string; dash?: string; wide: number }> = {
  watch: { fill: 'rgb(246 244 238 / 0.25)', wide: 3 },
  ignore: { fill: 'rgb(27 31 29 / 0.3)', dash: '8 5', wide: 2 },
  private: { fill: 'rgb(27 31 29 / 0.85)', wide: 2 },
  ownGround: { fill: 'none', dash: '2 5', wide: 3 },
};

const [wide, high] = [1600, 900];

const newest = (pictures: PictureLine[]) =>
  pictures.reduce<PictureLine | undefined>((a, b) => (a && a.takenAt >= b.takenAt ? a : b), undefined);

/** Zones drawn on the agreed picture of the head, else on the newest of the place, or on another of it: by mouse, by touch, and by keys at each corner. */
export default function ZonesField({ row, entry, big, again }: FieldProps & { again: ReactNode }) {
  const { deviceId } = entry;
  const headId = row.key.on.id;
  const pictures = useQuery({
    queryKey: ['pictures', deviceId, entry.seen.length],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/pictures', { params: { path: { deviceId } } })),
  });
  // As its pages have it: the picture that was agreed of this head, and of no other.
  const views = useQuery({
    queryKey: ['card', deviceId, 'views'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/views', { params: { path: { deviceId } } })),
  });
  const heads = views.data?.heads ?? [];
  const agreed = heads.find((h) => h.id === headId)?.agreed[0]?.pictureId;
  const ofOthers = heads.filter((h) => h.id !== headId).flatMap((h) => h.agreed.map((v) => v.pictureId));
  const shownPictures = (pictures.data ?? []).filter((p) => !p.erased && !ofOthers.includes(p.id));
  const drawn = entry.draft.zones ?? [];
  const [at, setAt] = useState(0);
  const own = drawn[at] as PictureZone | undefined;
  const picture =
    shownPictures.find((p) => p.id === entry.draft.picture) ?? shownPictures.find((p) => p.id === agreed) ?? newest(shownPictures);
  const ratio = picture ? picture.height / picture.width : high / wide;
  const canvas = useRef<SVGSVGElement>(null);
  const grip = useRef<{ corner: number | null; x: number; y: number }>(null);
  const [focus, setFocus] = useState<number>();
  useLayoutEffect(() => {
    if (focus === undefined) return;
    canvas.current?.querySelector<SVGElement>(`[data-corner="${focus}"]`)?.focus();
    setFocus(undefined);
  }, [focus]);

  const put = (zones: PictureZone[]) => entry.change(zones.length > 0 ? { zones, picture: picture?.id } : {});
  const change = (zone: PictureZone) => put(drawn.map((z, i) => (i === at ? zone : z)));
  const add = (use: ZoneUse) => {
    put([...drawn, blank(use, t(`zone.name.${use}`), drawn)]);
    setAt(drawn.length);
  };
  const place = (e: PointerEvent) => {
    const box = canvas.current!.getBoundingClientRect();
    return corner((e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
  };
  const take = (e: PointerEvent, which: number | null) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    grip.current = { corner: which, ...place(e) };
  };
  const drag = (e: PointerEvent) => {
    if (!grip.current || !own) return;
    const to = place(e);
    if (grip.current.corner !== null) change(moved(own, grip.current.corner, to));
    else change(shifted(own, to.x - grip.current.x, to.y - grip.current.y));
    grip.current = { ...grip.current, ...to };
  };
  const drop = () => void (grip.current = null);
  const press = (e: KeyboardEvent, which: number) => {
    const after = own && pressed(own, which, e.key, e.shiftKey);
    if (!after) return;
    e.preventDefault();
    e.stopPropagation();
    change(after.zone);
    setFocus(after.at);
  };
  const points = (zone: PictureZone) => zone.points.map((p) => `${p.x * wide},${p.y * wide * ratio}`).join(' ');
  const reach = big ? 70 : 34;
  const half = big ? 22 : 13;

  return (
    <div className={`w-full ${big ? 'min-h-0 flex-1 overflow-y-auto px-4 pb-3' : 'max-w-[40rem]'}`}>
      {again}
      <div className="mb-2 flex flex-wrap items-center gap-1">
        <span className={`text-label text-ink-2 ${big ? 'w-full' : 'mr-1'}`}>{t('zone.add')}</span>
        {uses.map((use) => (
          <button key={use} type="button" className={`plain !px-3 ${big ? 'min-h-12 flex-auto' : '!min-h-9'}`} onClick={() => add(use)}>
            {t(`zone.use.${use}`)}
          </button>
        ))}
      </div>
      <div className="relative border border-ink bg-paper-lo" style={{ aspectRatio: `${wide} / ${wide * ratio}` }}>
        {picture && (
          <img
            src={`/api/cards/${deviceId}/pictures/${picture.id}.jpg`}
            alt={picture.caption || t('zone.picture')}
            className="absolute inset-0 h-full w-full"
            draggable={false}
          />
        )}
        <svg
          ref={canvas}
          viewBox={`0 0 ${wide} ${wide * ratio}`}
          className="absolute inset-0 h-full w-full"
          role="group"
          aria-label={t('zone.drawing')}
        >
          {drawn.map((zone, i) => {
            const { fill, dash, wide: width } = look[zone.use];
            const isOwn = i === at;
            return (
              <g key={i} className={isOwn ? 'touch-none' : ''}>
                <polygon
                  points={points(zone)}
                  fill={fill}
                  pointerEvents={zone.use === 'ownGround' && !isOwn ? 'stroke' : 'all'}
                  className="cursor-move"
                  onPointerDown={(e) => {
                    if (isOwn) take(e, null);
                    else setAt(i);
                  }}
                  onPointerMove={isOwn ? drag : undefined}
                  onPointerUp={drop}
                  onPointerCancel={drop}
                />
                {/* Light under dark: seen on snow and at night. */}
                {['#fdfcf8', isOwn ? '#d9480f' : '#1b1f1d'].map((stroke, layer) => (
                  <polygon
                    key={stroke}
                    points={points(zone)}
                    fill="none"
                    stroke={stroke}
                    strokeWidth={width + (layer === 0 ? 3 : 0)}
                    strokeDasharray={layer === 0 ? undefined : dash}
                    vectorEffect="non-scaling-stroke"
                    pointerEvents="none"
                  />
                ))}
              </g>
            );
          })}
          {own && (
            <g className="touch-none">
              {own.points.length < mostCorners &&
                own.points.map((_, i) => {
                  const mid = halfway(own, i);
                  return (
                    <g
                      key={`half${i}`}
                      className="cursor-copy"
                      onPointerDown={(e) => {
                        take(e, i + 1);
                        change(inserted(own, i, mid));
                      }}
                      onPointerMove={drag}
                      onPointerUp={drop}
                      onPointerCancel={drop}
                    >
                      <circle cx={mid.x * wide} cy={mid.y * wide * ratio} r={reach * 0.8} fill="transparent" />
                      <path
                        d={`M${mid.x * wide - 12} ${mid.y * wide * ratio}h24m-12 -12v24`}
                        stroke="#1b1f1d"
                        strokeWidth="7"
                        className="pointer-events-none"
                      />
                      <path
                        d={`M${mid.x * wide - 12} ${mid.y * wide * ratio}h24m-12 -12v24`}
                        stroke="#fdfcf8"
                        strokeWidth="3"
                        className="pointer-events-none"
                      />
                    </g>
                  );
                })}
              {own.points.map((p, i) => (
                <g
                  key={i}
                  data-corner={i}
                  role="button"
                  tabIndex={0}
                  aria-label={t('zone.corner', i + 1, own.name, Math.round(p.x * 100), Math.round(p.y * 100))}
                  className="group cursor-grab outline-none"
                  onKeyDown={(e) => press(e, i)}
                  onPointerDown={(e) => take(e, i)}
                  onPointerMove={drag}
                  onPointerUp={drop}
                  onPointerCancel={drop}
                >
                  <circle cx={p.x * wide} cy={p.y * wide * ratio} r={reach} fill="transparent" />
                  <rect
                    x={p.x * wide - half}
                    y={p.y * wide * ratio - half}
                    width={half * 2}
                    height={half * 2}
                    fill="#fdfcf8"
                    stroke="#d9480f"
                    strokeWidth="6"
                    className="group-focus-visible:[stroke-width:12px]"
                  />
                </g>
              ))}
            </g>
          )}
        </svg>
      </div>
      <p className="mt-1 text-label text-ink-2">
        {pictures.isError || (!picture && !pictures.isPending) ? t('zone.no-picture') : t('zone.hint')}
      </p>
      {shownPictures.length > 1 && picture && (
        <button
          type="button"
          className="min-h-11 text-label font-semibold underline"
          onClick={() => {
            const next = shownPictures[(shownPictures.indexOf(picture) + 1) % shownPictures.length];
            entry.change({ zones: drawn, picture: next.id });
          }}
        >
          {t('zone.other-picture')}
        </button>
      )}
      <ul className={`mt-1 ${big ? '' : 'grid grid-cols-2 gap-x-4'}`}>
        {drawn.map((zone, i) => (
          <li key={i} className={`flex items-center gap-2 border-t border-dotted border-hairline py-1 ${i === at ? 'bg-paper-lo' : ''}`}>
            <input
              className={`field min-w-0 flex-1 !py-1 ${big ? '' : '!min-h-9'}`}
              aria-label={t('zone.named', i + 1)}
              maxLength={40}
              value={zone.name}
              onFocus={() => setAt(i)}
              onChange={(e) => put(drawn.map((z, j) => (j === i ? { ...z, name: e.target.value } : z)))}
            />
            <span className="w-20 shrink-0 text-label leading-tight">{t(`zone.use.${zone.use}`)}</span>
            <button
              type="button"
              className={`shrink-0 text-label font-semibold underline ${big ? 'min-h-11' : 'min-h-9'}`}
              aria-label={t('zone.remove', zone.name)}
              onClick={() => {
                put(drawn.filter((_, j) => j !== i));
                setAt(0);
              }}
            >
              {t('zone.out')}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
