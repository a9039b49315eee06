import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { say, t } from '../../texts';
import { type ChannelLine, sameArea } from './channels';

const ways = ['walk', 'hand', 'lamp'] as const;
export type Way = (typeof ways)[number];

/** Hours of a schedule, day by day from Monday. */
function Week({ spans }: { spans: ChannelLine['week'] }) {
  return (
    <svg viewBox="0 0 1440 140" preserveAspectRatio="none" className="h-16 w-full" role="img" aria-label={t('rec.week')}>
      {[1, 2, 3, 4, 5, 6, 7].map((day) => (
        <path key={day} d={`M0 ${day * 20 - 10}h1440`} stroke="var(--color-band)" strokeWidth="9" vectorEffect="non-scaling-stroke" />
      ))}
      {spans.map((s) => (
        <path
          key={`${s.day} ${s.from}`}
          d={`M${s.from} ${s.day * 20 - 10}H${s.to}`}
          stroke="var(--color-ink)"
          strokeWidth="7"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {[360, 720, 1080].map((x) => (
        <path key={x} d={`M${x} 0v140`} stroke="var(--color-rule)" vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}

function Bond({ agrees }: { agrees: boolean | null }) {
  return (
    <svg viewBox="0 0 40 12" width="40" height="12" aria-hidden className="shrink-0">
      {agrees === true && <path d="M0 6h40" stroke="var(--color-ink)" strokeWidth="3" />}
      {agrees === false && <path d="M0 5h14l3-2M23 8h17" stroke="var(--color-refused)" strokeWidth="3" fill="none" />}
      {agrees === null && <path d="M0 6h40" stroke="var(--color-ink-3)" strokeWidth="1.6" strokeDasharray="5 4" />}
    </svg>
  );
}

/** One channel: what was planned, what the recorder has, what its clips show, and the event to make next. */
export function ChannelAside({
  line,
  lines,
  recorder,
  mayWork,
  busy,
  isRead,
  clockOf,
  onEvent,
  onStep,
}: {
  line: ChannelLine;
  lines: readonly ChannelLine[];
  recorder: string;
  mayWork: boolean;
  busy: boolean;
  isRead: boolean;
  clockOf: (at: string) => string;
  onEvent: (way: Way, channels: number[]) => void;
  onStep: (by: number) => void;
}) {
  const [isWide, setWide] = useState(false);
  const area = sameArea(lines, line);
  const at = lines.indexOf(line);
  const step = 'min-h-11 text-label font-semibold underline';
  const nameOf = (l: ChannelLine) => l.label || l.name || String(l.number);
  const rows: [string, string, string, boolean | null][] = [
    [
      'view',
      line.wanted || t('rec.nobody'),
      line.carries || (line.isTold ? t('rec.not-told') : t('rec.nobody')),
      line.finding === 'asPlanned' ? true : line.finding === 'untold' || !isRead ? null : false,
    ],
    ['name', line.wanted, line.name || t('rec.not-told'), line.name ? !line.nameDiffers : null],
    ['when', t('rec.kept-mode'), t(`rec.when.${line.when}`), line.isKept],
    ['state', t('rec.arrives'), t(`rec.state.${line.state}`), line.state === 'untold' ? null : line.state === 'live'],
  ];
  const [own] = line.clock;
  if (own)
    rows.push([
      'clock',
      t('rec.clock-near', recorder, own.limitSeconds),
      `${own.differenceSeconds >= 0 ? '+' : '-'}${Math.abs(own.differenceSeconds).toFixed(1)} ± ${own.uncertaintySeconds.toFixed(1)} s`,
      own.outcome === 'tooClose' ? null : own.outcome === 'in',
    ]);
  const size = [line.codec, line.wide && line.high ? `${line.wide}x${line.high}` : ''].filter(Boolean).join(' ');
  const [stream] = line.stream;
  if (stream) {
    rows.push([
      'stream',
      stream.largest ? t('rec.camera-has', stream.spec.megapixels, stream.largest) : t('rec.stream-asked', stream.spec.megapixels),
      size || t('rec.not-told'),
      stream.isLarge,
    ]);
    rows.push([
      'frames',
      t('rec.frames-asked', stream.spec.framesPerSecond),
      line.framesPerSecond === null
        ? t('rec.not-told')
        : stream.measuredFrames === null
          ? t('rec.frames-told', line.framesPerSecond)
          : t('rec.frames-came', line.framesPerSecond, stream.measuredFrames.toFixed(1)),
      stream.isQuick,
    ]);
  }
  const proofs = [...line.before, ...line.after];
  return (
    <section aria-label={t('rec.channel', line.number)}>
      <h2 className="flex flex-wrap items-baseline gap-x-3">
        {line.deviceId ? (
          <Link
            to="/card/$deviceId"
            params={{ deviceId: line.deviceId }}
            className="font-read -my-2 inline-flex min-h-11 items-center text-title font-bold underline decoration-1 underline-offset-4"
          >
            {line.label}
          </Link>
        ) : (
          <span className="font-read text-title font-bold">{line.name || t('rec.nobody')}</span>
        )}
        <span className="text-label text-ink-2">
          {[t('rec.channel', line.number), line.placeName, line.area].filter(Boolean).join(', ')}
        </span>
      </h2>
      {isRead &&
        (line.notes.length > 0 ? (
          line.notes.map(({ said, isWrong }) => (
            <p key={`${said.code} ${said.args.join(' ')}`} className={`mt-1 font-semibold ${isWrong ? 'text-refused' : 'text-noted'}`}>
              {say(said)}
            </p>
          ))
        ) : (
          <p className="mt-1">{t('rec.as-plan')}</p>
        ))}
      {isRead && line.by && <p className="text-label text-ink-2">{t(`rec.by.${line.by}`)}</p>}
      {mayWork && line.deviceId && (
        <section className="mt-3 border-t border-hairline pt-2" aria-label={t('pressed.title')}>
          <h3 className="font-bold">{t('pressed.title')}</h3>
          <p className="text-label text-ink-2">{t('pressed.hint')}</p>
          {area.length > 1 && (
            <label className="flex min-h-11 items-center gap-3 text-label">
              <input type="checkbox" className="h-5 w-5 accent-ink" checked={isWide} onChange={(e) => setWide(e.target.checked)} />
              {t('rec.also-area', line.area)}
            </label>
          )}
          <div className="mt-1 flex flex-wrap gap-2">
            {ways.map((way) => (
              <button
                key={way}
                className="plain disabled:opacity-40"
                disabled={busy}
                onClick={() => onEvent(way, isWide ? area : [line.number])}
              >
                {t(`pressed.way.${way}`)}
              </button>
            ))}
          </div>
          <p className="mt-1 flex gap-x-5">
            {at > 0 && (
              <button className={step} onClick={() => onStep(-1)}>
                {t('rec.step-back', nameOf(lines[at - 1]))}
              </button>
            )}
            {at < lines.length - 1 && (
              <button className={step} onClick={() => onStep(1)}>
                {t('rec.step-on', nameOf(lines[at + 1]))}
              </button>
            )}
          </p>
        </section>
      )}
      <h3 className="mt-3 border-t border-hairline pt-2 font-bold">{t('rec.planned-kept')}</h3>
      <div className="mt-1 text-label">
        <p className="grid grid-cols-[4rem_1fr_40px_1fr] gap-x-2 text-ink-2">
          <span />
          <span>{t('rec.planned')}</span>
          <span />
          <span>{t('rec.on-recorder')}</span>
        </p>
        {rows.map(([id, planned, kept, agrees]) => (
          <p key={id} className="grid grid-cols-[4rem_1fr_40px_1fr] items-center gap-x-2 border-t border-dotted border-hairline py-1">
            <span>{t(`rec.row.${id}`)}</span>
            <span className="font-read min-w-0 break-words">{planned}</span>
            <Bond agrees={isRead ? agrees : null} />
            <span className={`font-read min-w-0 break-words ${agrees === false ? 'font-bold text-refused' : ''}`}>
              {isRead ? kept : t('rec.not-told')}
            </span>
          </p>
        ))}
        {isRead && line.when === 'schedule' && (
          <div className="grid grid-cols-[4rem_1fr] gap-x-2 border-t border-dotted border-hairline py-1">
            <span>{t('rec.row.week')}</span>
            <Week spans={line.week} />
          </div>
        )}
        {isRead && line.rang !== null && (
          <p className="grid grid-cols-[4rem_1fr] gap-x-2 border-t border-dotted border-hairline py-1">
            <span>{t('rec.row.rang')}</span>
            <span className={`font-read ${line.rang.isOften ? 'font-bold text-refused' : ''}`}>{t('rec.rang', line.rang.events)}</span>
          </p>
        )}
        {line.meanMbps !== null && line.peakMbps !== null && (
          <p className="grid grid-cols-[4rem_1fr] gap-x-2 border-t border-dotted border-hairline py-1">
            <span>{t('rec.row.rate')}</span>
            <span className="font-read">{t('rec.mean-peak', line.meanMbps.toFixed(1), line.peakMbps.toFixed(1))}</span>
          </p>
        )}
      </div>
      {proofs.map((p) => (
        <figure key={p.at} className="mt-2">
          <figcaption className={`text-label ${p.proves === false || p.earlier === false ? 'font-semibold text-refused' : ''}`}>
            <b>{t('rec.event-at', clockOf(p.at), t(`pressed.way.${p.way}`).toLowerCase())}</b>{' '}
            {p.because.length > 0 ? p.because.map(say).join(' ') : t('rec.not-sent')}
          </figcaption>
          {p.picture && (
            <img
              src={`/api/cards/${line.deviceId}/pictures/${p.picture}.jpg`}
              alt={t('rec.still', line.number, clockOf(p.at))}
              className="mt-1 w-full max-w-80 border border-hairline"
              loading="lazy"
            />
          )}
        </figure>
      ))}
    </section>
  );
}
