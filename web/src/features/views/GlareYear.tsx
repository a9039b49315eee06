import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import { troubleOf } from '../../api/send';
import { t } from '../../texts';
import { day } from '../../ui/format';
import type { Design } from './geometry';

/** A year of sun: months across, hours up. */
export function GlareYear({ deviceId, design, width }: { deviceId: string; design: Design; width: number }) {
  const { data, error } = useQuery({
    queryKey: ['views', deviceId, 'glare', design.azimuthDeg, design.tiltDeg, design.horizontalDeg, design.pixelsHigh / design.pixelsWide],
    enabled: design.azimuthDeg !== null,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(
        api.POST('/api/cards/{deviceId}/views/glare', { params: { path: { deviceId } }, body: { design, edition: 'edition2014' }, signal }),
      ),
  });
  const hour = (time: string) => Number(time.slice(0, 2)) + Number(time.slice(3, 5)) / 60;
  const [w, h] = [Math.min(width, 620), 128];
  const x = (iso: string) => 30 + ((Date.parse(iso) - Date.UTC(data?.year ?? 2026, 0, 1)) / 86_400_000 / 366) * (w - 34);
  const y = (hours: number) => h - 16 - ((hours - 3) / 19) * (h - 22);
  const [next] = data?.next ?? [];
  return (
    <section aria-label={t('views.sun')} className="mt-2 border-t border-hairline pt-1">
      <p className="flex flex-wrap items-baseline gap-x-3 text-label">
        <b>{t('views.sun')}</b>
        {design.azimuthDeg === null && <span className="text-ink-2">{t('views.sun-no-azimuth')}</span>}
        {error && <span className="text-refused">{troubleOf(error)}</span>}
        {data && design.azimuthDeg !== null && (
          <span>
            {next?.firstInView && next.lastInView
              ? t('views.sun-next', day(next.day), next.firstInView.slice(0, 5), next.lastInView.slice(0, 5))
              : data.daysInView === 0
                ? t('views.sun-never')
                : ''}
          </span>
        )}
        {data && data.daysInView > 0 && design.azimuthDeg !== null && (
          <span className="text-ink-3">{t(data.daysInView === 1 ? 'views.sun-days-1' : 'views.sun-days', data.daysInView)}</span>
        )}
      </p>
      {data && design.azimuthDeg !== null && data.days.length > 0 && (
        <figure className="m-0">
          <svg width={w} height={h} aria-hidden>
            {[6, 12, 18].map((o) => (
              <g key={o}>
                <line x1="30" x2={w - 4} y1={y(o)} y2={y(o)} stroke="var(--color-hairline)" />
                <text x="26" y={y(o) + 4} textAnchor="end" fontSize="12" className="font-read" fill="var(--color-ink-3)">
                  {o}
                </text>
              </g>
            ))}
            {data.days.map((d) => (
              <g key={d.day}>
                {d.firstInGuard && d.lastInGuard && (
                  <line
                    x1={x(d.day)}
                    x2={x(d.day)}
                    y1={y(hour(d.firstInGuard))}
                    y2={y(hour(d.lastInGuard)) - 1}
                    stroke="var(--color-band)"
                    strokeWidth="2"
                  />
                )}
                {d.firstInView && d.lastInView && (
                  <line
                    x1={x(d.day)}
                    x2={x(d.day)}
                    y1={y(hour(d.firstInView))}
                    y2={y(hour(d.lastInView)) - 1}
                    stroke="var(--color-ink)"
                    strokeWidth="2"
                  />
                )}
              </g>
            ))}
            {['01', '04', '07', '10'].map((m) => (
              <text key={m} x={x(`${data.year}-${m}-01`)} y={h - 2} fontSize="12" fill="var(--color-ink-3)">
                {day(`${data.year}-${m}-01`)}
              </text>
            ))}
          </svg>
          <figcaption className="text-tick text-ink-3">
            {t('views.sun-how')} {data.place && t('views.sun-by-zone', data.place)}
          </figcaption>
        </figure>
      )}
    </section>
  );
}
