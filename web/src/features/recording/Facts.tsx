import { t } from '../../texts';
import type { RecorderPage } from './channels';

/** Offset and what it may hide, against the limit either way. */
function ClockLine({ of }: { of: RecorderPage['clock'][number] }) {
  const most = of.limitSeconds * 1.6;
  const x = (v: number) => 100 + (Math.max(-most, Math.min(most, v)) / most) * 96;
  const from = x(of.offsetSeconds - of.uncertaintySeconds);
  const to = x(of.offsetSeconds + of.uncertaintySeconds);
  return (
    <svg viewBox="0 0 200 22" width="200" height="22" aria-hidden className="max-w-full">
      <path d="M2 11h196" stroke="var(--color-rule)" />
      <rect x={x(-of.limitSeconds)} y="8" width={x(of.limitSeconds) - x(-of.limitSeconds)} height="6" fill="var(--color-band)" />
      <path d={`M${x(-of.limitSeconds)} 4v14M${x(of.limitSeconds)} 4v14`} stroke="var(--color-ink)" strokeWidth="1.6" />
      <path d={`M${from} 11H${to}M${from} 8v6M${to} 8v6`} stroke="var(--color-ink)" strokeWidth="1.4" />
      <circle cx={x(of.offsetSeconds)} cy="11" r="3.6" fill={of.outcome === 'out' ? 'var(--color-refused)' : 'var(--color-ink)'} />
    </svg>
  );
}

/** How the clock ran since it was read before: level as far as can be told, away, or set in between. */
function Drift({ of }: { of: NonNullable<RecorderPage['clock'][number]['drift']> }) {
  const hours = Math.round(of.hours);
  if (of.wasSet) return <span className="text-label text-ink-2">{t('rec.drift-set', hours)}</span>;
  if (of.daysToLimit === null)
    return <span className="text-label text-ink-2">{t('rec.drift-level', hours, of.uncertaintyPerDay.toFixed(2))}</span>;
  return (
    <span className="text-label font-semibold text-noted">
      {t('rec.drift-away', signed(of.secondsPerDay, 2), hours, of.daysToLimit.toFixed(1))}
    </span>
  );
}

const signed = (v: number, decimals = 1) => `${v >= 0 ? '+' : '-'}${Math.abs(v).toFixed(decimals)}`;

function Fact({ name, hint, children }: { name: string; hint?: string; children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[9rem_1fr] items-center gap-x-4 border-b border-dotted border-hairline py-1.5 max-sm:grid-cols-1">
      <span>
        <b>{name}</b> {hint && <span className="text-label text-ink-2">{hint}</span>}
      </span>
      <span className="flex flex-wrap items-center gap-x-4 gap-y-1">{children}</span>
    </div>
  );
}

/** What the recorder says of itself, beside its channels. */
export function Facts({ page, when, onAskTime }: { page: RecorderPage; when: (at: string) => string; onAskTime?: () => void }) {
  const [clock] = page.clock;
  const [ours] = page.reference;
  const colour = (outcome: string) => (outcome === 'out' ? 'font-semibold text-refused' : outcome === 'tooClose' ? 'text-noted' : '');
  return (
    <section aria-label={page.label} className="py-1">
      <Fact name={t('rec.clock')} hint={t('rec.clock-hint')}>
        {clock ? (
          <>
            <b className="font-read">{signed(clock.offsetSeconds)} s</b>
            <ClockLine of={clock} />
            <span className={colour(clock.outcome)}>{t(`rec.clock.${clock.outcome}`, clock.limitSeconds)}</span>
            <span className="text-label text-ink-2">
              {[
                `± ${clock.uncertaintySeconds.toFixed(3)} s`,
                clock.source,
                clock.zone,
                ...clock.against.map((a) => t('rec.clock-server', signed(a.differenceSeconds))),
              ]
                .filter(Boolean)
                .join(', ')}
            </span>
            {clock.drift && <Drift of={clock.drift} />}
          </>
        ) : (
          <span className="text-ink-2">{t('rec.clock-none')}</span>
        )}
      </Fact>
      <Fact name={t('rec.clock-ours')} hint={ours && t('rec.clock-ours-hint', ours.server)}>
        {ours ? (
          <>
            <b className={`font-read ${colour(ours.outcome)}`}>{signed(ours.aheadSeconds, 3)} s</b>
            <span className="text-label text-ink-2">
              {[`± ${ours.uncertaintySeconds.toFixed(3)} s`, t('rec.clock-at', ours.stratum, when(ours.at))].join(', ')}
            </span>
          </>
        ) : (
          <span className="text-label text-ink-2">{t(page.hasTimeServer ? 'rec.clock-not-compared' : 'rec.clock-no-server')}</span>
        )}
        {onAskTime && (
          <button className="min-h-11 text-label font-semibold underline" onClick={onAskTime}>
            {t('rec.clock-ask')}
          </button>
        )}
      </Fact>
      {page.readAt && <Told page={page} when={when} />}
    </section>
  );
}

/** What it says of its disks and people. */
function Told({ page, when }: { page: RecorderPage; when: (at: string) => string }) {
  const short = page.daysKept !== null && page.daysPromised !== null && page.daysKept < page.daysPromised;
  return (
    <>
      <Fact name={t('rec.disks')}>
        {page.disks.length === 0 && <span className="text-ink-2">{t('rec.not-told')}</span>}
        {page.disks.map((d) => (
          <span key={d.bay} className="flex items-center gap-1" title={t('rec.disk', d.bay, t(`rec.disk.${d.state}`))}>
            <svg viewBox="0 0 30 18" width="30" height="18" aria-hidden>
              {d.state === 'healthy' && <rect x="1" y="1" width="28" height="16" fill="var(--color-ink)" />}
              {d.state === 'failing' && (
                <>
                  <rect x="1" y="1" width="28" height="16" fill="none" stroke="var(--color-refused)" strokeWidth="2" />
                  <path d="M4 14l8-8 4 6 9-8" fill="none" stroke="var(--color-refused)" strokeWidth="2" />
                </>
              )}
              {d.state === 'missing' && (
                <path d="M1 6V1h8M21 1h8v5M29 12v5h-8M9 17H1v-5" fill="none" stroke="var(--color-refused)" strokeWidth="2" />
              )}
              {d.state === 'untold' && (
                <rect x="1" y="1" width="28" height="16" fill="none" stroke="var(--color-ink-3)" strokeDasharray="3 3" />
              )}
            </svg>
            <span className="sr-only">{t('rec.disk', d.bay, t(`rec.disk.${d.state}`))}</span>
            {d.state !== 'healthy' && (
              <span aria-hidden className="text-label">
                {t('rec.disk', d.bay, t(`rec.disk.${d.state}`))}
              </span>
            )}
          </span>
        ))}
      </Fact>
      <Fact name={t('rec.days')}>
        {page.daysKept === null ? (
          <span className="text-ink-2">{t('rec.days-none')}</span>
        ) : (
          <b className={`font-read ${short ? 'text-refused' : ''}`}>{t('rec.days-kept', page.daysKept.toFixed(1))}</b>
        )}
        <span className="text-label text-ink-2">
          {page.daysPromised === null ? t('rec.days-not-promised') : t('rec.days-promised', page.daysPromised)}
        </span>
      </Fact>
      {page.notifies && (
        <Fact name={t('rec.who')}>
          {page.notifies.length === 0 ? <b className="text-refused">{t('rec.who-none')}</b> : page.notifies.join(', ')}
        </Fact>
      )}
      {page.users && <Fact name={t('rec.users')}>{page.users.join(', ') || t('rec.nobody')}</Fact>}
      {page.startedAt && (
        <p className="mt-1 text-label text-ink-2">
          {t('rec.started', when(page.startedAt))}. {t('rec.restart-hint')}
        </p>
      )}
    </>
  );
}
