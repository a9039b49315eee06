import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';
import { Trouble } from '../../ui/Trouble';
import { Block } from './Block';
import './howTexts';
import { byArea, down, knobs, type Knob, type Tried } from './holds';

type Forecast = components['schemas']['RecordingForecast'];
type Loads = components['schemas']['ChannelLoads'];

/** Whether a recorder holds what was promised, what breaks first, and the same with other figures tried. */
export default function Holds({ deviceId }: { deviceId: string }) {
  const [tried, setTried] = useState<Tried>({});
  const { data, error } = useQuery({
    queryKey: ['card', deviceId, 'recording', tried],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/recording', { params: { path: { deviceId }, query: tried } })),
    placeholderData: keepPreviousData,
  });
  if (error) return <Trouble text={troubleOf(error)} className="mt-3" />;
  if (!data) return null;
  const [store] = data.store;
  const [read] = data.read;
  const [now] = data.tried;
  if (!store || !read || !now)
    return (
      <Block title={t('holds.title')}>
        {data.trouble ? (
          <p className="text-label text-refused">{t('holds.trouble', store.disks, say(data.trouble))}</p>
        ) : (
          <p className="text-label text-ink-2">{t(store ? 'holds.no-channels' : 'holds.no-store')}</p>
        )}
      </Block>
    );
  const isTried = Object.values(tried).some((v) => v !== undefined);
  const days = tried.days ?? store.daysPromised;
  return (
    <Block title={t('holds.ask', days)}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className={`text-[1.35rem] ${now.outcome === 'out' ? 'text-refused' : now.outcome === 'tooClose' ? 'text-noted' : ''}`}>
          {now.retention.days === null ? t('holds.nothing') : t(`holds.${now.outcome}`, now.retention.days.toFixed(1))}
        </b>
        {isTried && (
          <button className="min-h-11 text-label font-semibold underline" onClick={() => setTried({})}>
            {t('holds.as-read')}
          </button>
        )}
      </p>
      <Intake loads={data.loads} forecast={now} limit={store.intakeMbps} />
      <p className="font-read mt-1 text-label text-ink-2">
        {t(
          'holds.sum',
          now.retention.meanMbps.toFixed(1),
          (now.retention.bytesPerDay / 1e12).toFixed(3),
          (now.retention.usableBytes / 1e12).toFixed(1),
        )}
      </p>
      <p className="mt-1 text-label">
        {now.spare.map((s, i) => (
          <span key={s.limit} className={s.share < 0 ? 'font-semibold text-refused' : i === 0 ? 'font-semibold' : ''}>
            {t(s.share < 0 ? `holds.over.${s.limit}` : `holds.spare.${s.limit}`, (Math.abs(s.share) * 100).toFixed(1))}{' '}
          </span>
        ))}
      </p>
      {now.line && (
        <p className="mt-1 text-label">
          {t('holds.line', now.line.usedMbps.toFixed(1), now.line.uploadMbps, now.line.allowedMbps.toFixed(1))}
          {now.line.sendsMbps > 0 && t('holds.line-sends', now.line.sendsMbps.toFixed(1))}
          {!now.line.isWithin && <b className="text-refused">{t('holds.line-over')}</b>}
        </p>
      )}
      {store.intakeMbps === null && <p className="text-label text-ink-2">{t('holds.no-intake')}</p>}
      {(now.estimated > 0 || data.loads.motionAssumed || data.loads.unknown.length > 0 || data.loads.notRecorded.length > 0) && (
        <p className="mt-1 text-label text-noted">
          {now.estimated > 0 && `${t('holds.estimated', now.estimated)} `}
          {data.loads.motionAssumed && `${t('holds.assumed')} `}
          {data.loads.unknown.length > 0 && `${t('holds.unknown', data.loads.unknown.join(', '))} `}
          {data.loads.notRecorded.length > 0 && t('holds.not-recorded', data.loads.notRecorded.join(', '))}
        </p>
      )}
      <fieldset className="mt-2 border-t border-hairline pt-1">
        <legend className="sr-only">{t('holds.try')}</legend>
        {knobs(read, now, store.daysPromised, tried).map((k) => (
          <Slide key={k.id} knob={k} onSet={(value) => setTried({ ...tried, [k.id]: value })} />
        ))}
      </fieldset>
    </Block>
  );
}

/** How wide a drawing may be, so that its words keep their size. */
function useWidth() {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(400);
  useEffect(() => {
    if (!box.current) return;
    const seen = new ResizeObserver(([e]) => setWidth(Math.max(240, Math.round(e.contentRect.width))));
    seen.observe(box.current);
    return () => seen.disconnect();
  }, []);
  return [box, width] as const;
}

/** Every channel as wide as its mean, area by area, then all that moves at once, against what the recorder takes in where that is known. */
function Intake({ loads, forecast, limit }: { loads: Loads; forecast: Forecast; limit: number | null }) {
  const [box, width] = useWidth();
  const { peakMbps: peak, meanMbps: mean } = forecast.retention;
  const most = Math.max(peak, limit ?? 0, 1e-9) * 1.02;
  const x = (v: number) => (v / most) * width;
  /** Words that would run out of the drawing end at its edge. */
  const anchor = (v: number) => (x(v) > width - 40 ? 'end' : x(v) < 40 ? 'start' : 'middle');
  let at = 0;
  return (
    <div ref={box}>
      <svg
        viewBox={`0 0 ${width} 52`}
        width={width}
        height="52"
        role="img"
        aria-label={t(limit === null ? 'holds.intake-unknown' : 'holds.intake', mean.toFixed(1), peak.toFixed(1), limit ?? 0)}
        className="mt-1 block max-w-full"
      >
        {byArea(loads.channels, forecast.channelMbps).map((area) => {
          const from = at;
          const blocks = area.rates.map((rate) => {
            const left = at;
            at += x(rate);
            return <rect key={left} x={left} y="16" width={Math.max(0.6, x(rate) - 1.2)} height="15" fill="var(--color-ink)" />;
          });
          return (
            <g key={area.name}>
              {blocks}
              {at - from > area.name.length * 7.4 && (
                <text x={from} y="11" fontSize="12.5" fill="var(--color-ink-2)">
                  {area.name}
                </text>
              )}
            </g>
          );
        })}
        <rect
          x={x(mean)}
          y="16.5"
          width={Math.max(0, x(peak) - x(mean))}
          height="14"
          fill="none"
          stroke="var(--color-ink)"
          strokeDasharray="4 3"
        />
        <text x={x(mean)} y="48" fontSize="12.5" className="font-read" textAnchor={anchor(mean)}>
          {mean.toFixed(1)}
        </text>
        {x(peak) - x(mean) > 60 && (
          <text x={x(peak)} y="48" fontSize="12.5" className="font-read" textAnchor={anchor(peak)}>
            {limit !== null && Math.abs(x(limit) - x(peak)) < 50 ? '' : peak.toFixed(1)}
          </text>
        )}
        {limit !== null && (
          <>
            <path d={`M${x(limit)} 8V37`} stroke={peak > limit ? 'var(--color-refused)' : 'var(--color-ink)'} strokeWidth="2.5" />
            <text x={x(limit)} y="48" fontSize="12.5" fontWeight="bold" className="font-read" textAnchor={anchor(limit)}>
              {limit}
            </text>
          </>
        )}
      </svg>
    </div>
  );
}

/** One thing that is tried: where it was read, where it stands, and the most that holds. */
function Slide({ knob, onSet }: { knob: Knob; onSet: (value: number) => void }) {
  const place = (v: number) => `${Math.min(100, Math.max(0, ((v - knob.least) / (knob.most - knob.least)) * 100))}%`;
  return (
    <label className="grid grid-cols-[7rem_1fr_5.5rem] items-center gap-x-3 border-b border-dotted border-hairline py-1 text-label max-sm:grid-cols-[1fr_auto]">
      <span>
        <b>{t(`holds.knob.${knob.id}`)}</b>
        <br />
        <span className="font-read text-[1.05rem] font-bold">{knob.value.toFixed(knob.decimals)}</span> {t(`holds.unit.${knob.id}`)}
      </span>
      <span className="relative block max-sm:col-span-2 max-sm:row-start-2">
        <input
          type="range"
          className="block h-11 w-full accent-ink"
          min={knob.least}
          max={knob.most}
          step={knob.step}
          value={knob.value}
          aria-valuetext={`${knob.value.toFixed(knob.decimals)} ${t(`holds.unit.${knob.id}`)}`}
          onChange={(e) => onSet(Number(e.target.value))}
        />
        {knob.holds !== null && knob.holds < knob.most && knob.holds > knob.least && (
          <span aria-hidden className="pointer-events-none absolute bottom-0 top-0 w-0.5 bg-refused" style={{ left: place(knob.holds) }} />
        )}
      </span>
      <span className="text-right text-ink-2">
        {knob.holds === null
          ? t(knob.id === 'frames' ? 'holds.not-all' : 'holds.any')
          : knob.holds >= knob.most
            ? t('holds.any')
            : knob.holds < knob.least
              ? t('holds.none')
              : t('holds.at-most', down(knob.holds, Number.isInteger(knob.holds) ? 0 : Math.max(1, knob.decimals)))}
      </span>
    </label>
  );
}
