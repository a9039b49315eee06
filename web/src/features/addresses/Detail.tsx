import { Link } from '@tanstack/react-router';
import { say, t } from '../../texts';
import type { LedgerRow } from './ledger';
import { NoteLine } from './NoteLine';

/** What the three lists show together; where one of them was not read, the notes say what is known. */
const CLASSES: LedgerRow['class'][] = ['inAllThree', 'replacedDevice', 'unplannedRegistered', 'unknownDevice'];

type Mend = NonNullable<LedgerRow['notes'][number]['mend']>;

interface DetailProps {
  row: LedgerRow;
  busy: boolean;
  mayWork: boolean;
  mayPlan: boolean;
  onMend: (mend: Mend) => void;
  onRestart: () => void;
}

/** One device: what each note means, what to do about it, and the part of it that one press can do. */
export function Detail({ row, busy, mayWork, mayPlan, onMend, onRestart }: DetailProps) {
  const { planned, found } = row;
  const facts: [string, string | number | null | undefined][] = found
    ? [
        ['model', [found.maker, found.model].filter(Boolean).join(' ')],
        ['serial', found.serial],
        ['mac', found.hardwareAddress],
        ['firmware', found.firmware],
        ['mask', found.mask],
        ['gateway', found.gateway],
        ['found-by', found.by.map((b) => t(`address.way.${b}`)).join(', ')],
        ['users', found.users?.join(', ')],
        ['fingerprint', found.fingerprint?.slice(0, 16)],
      ]
    : [];
  const mends = [...new Set(row.notes.map((n) => n.mend).filter((m): m is Mend => !!m))];
  return (
    <section aria-label={row.name}>
      <h2 className="font-read text-title font-bold">
        {planned ? (
          <Link
            to="/card/$deviceId"
            params={{ deviceId: planned.id }}
            className="-my-2 inline-flex min-h-11 items-center underline decoration-1 underline-offset-4"
          >
            {planned.label}
          </Link>
        ) : (
          row.name
        )}
      </h2>
      <p className="text-label text-ink-2">
        {[planned?.name, CLASSES.includes(row.class) && t(`address.class.${row.class}`)].filter(Boolean).join(', ')}
      </p>
      {row.notes.length === 0 && <p className="mt-2">{t('address.nothing-wrong')}</p>}
      <ol className="mt-2">
        {row.notes.map((n, i) => (
          <li key={`${n.code} ${i}`} className="border-t border-dotted border-hairline py-2">
            <NoteLine note={n} />
          </li>
        ))}
      </ol>
      {row.unregistered && (
        <p className="mt-1 text-label text-ink-2">
          {t('address.recorder')}: {say(row.unregistered)}
        </p>
      )}
      {row.setAt.map((place) => (
        <p key={place.args[0]} className="text-label text-ink-2">
          {say(place)}
        </p>
      ))}
      {row.breaks.length > 0 && <p className="mt-1 text-label font-semibold text-noted">{row.breaks.map(say).join(' ')}</p>}
      <div className="mt-2 flex flex-wrap gap-x-4 gap-y-2">
        {mends.map((m) => {
          const isPlan = m === 'noteUnit' || m === 'planFollows';
          return (isPlan ? mayPlan : mayWork) ? (
            <button key={m} className="plain disabled:opacity-40" disabled={busy} onClick={() => onMend(m)}>
              {t(`address.mend.${m}`)}
            </button>
          ) : null;
        })}
        {mayWork && planned?.isCamera && found?.serial && (
          <button className="min-h-11 font-semibold underline disabled:opacity-40" disabled={busy} onClick={onRestart}>
            {t('address.restart')}
          </button>
        )}
      </div>
      {facts.length > 0 && (
        <dl className="mt-3 grid grid-cols-[8rem_1fr] border-t border-hairline pt-2 text-label">
          {facts
            .filter(([, value]) => value)
            .map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-ink-2">{t(`address.detail.${name}`)}</dt>
                <dd className="font-read min-w-0 break-words">{value}</dd>
              </div>
            ))}
          {found?.streams.map((s) => (
            <div key={s.name} className="contents">
              <dt className="text-ink-2">{t('address.detail.streams')}</dt>
              <dd className="font-read min-w-0 break-words">
                {[
                  s.name,
                  s.codec,
                  s.wide && s.high && `${s.wide}×${s.high}`,
                  s.framesPerSecond && t('address.fps', s.framesPerSecond),
                  s.kilobitsPerSecond && t('address.kbps', s.kilobitsPerSecond),
                ]
                  .filter(Boolean)
                  .join(' ')}
              </dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}
