import { say, t } from '../../texts';
import { type LedgerRow, split } from './ledger';

/** The last part of an address tells it apart: it is heavy, what is shared is light. */
export function Address({ text, wrong }: { text: string; wrong?: boolean }) {
  const [shared, own] = split(text);
  return (
    <span className="font-read">
      <span className="text-ink-2">{shared}</span>
      <b className={wrong ? 'text-refused' : ''}>{own}</b>
    </span>
  );
}

/** Between two lists: whole where they agree, parted where they do not, dashed where one says nothing. */
function Strand({ kind }: { kind: 'whole' | 'parted' | 'dashed' }) {
  return (
    <svg viewBox="0 0 40 12" width="40" height="12" aria-hidden className="shrink-0">
      {kind === 'whole' && <path d="M0 6h40" stroke="var(--color-ink)" strokeWidth="3" />}
      {kind === 'dashed' && <path d="M0 6h40" stroke="var(--color-ink-3)" strokeWidth="1.6" strokeDasharray="5 4" />}
      {kind === 'parted' && <path d="M0 5h14l3-2M23 8h17" stroke="var(--color-refused)" strokeWidth="3" fill="none" />}
    </svg>
  );
}

const strand = (row: LedgerRow, one: 'planned' | 'found', other: 'found' | 'registered') =>
  !row[one] || !row[other]
    ? 'dashed'
    : row.differences.some((d) => d.one === one && d.other === other) || (other === 'found' && row.class === 'replacedDevice')
      ? 'parted'
      : 'whole';

const between = (row: LedgerRow, one: string, other: string) =>
  t(row.differences.some((d) => d.one === one && d.other === other) ? 'address.differs' : 'address.agrees');

/** Those that somebody has to do something about, a row each. */
export function LedgerTable({
  lines,
  active,
  hasList,
  hasLooked,
  onPick,
}: {
  lines: LedgerRow[];
  active?: string;
  hasList: boolean;
  hasLooked: boolean;
  onPick: (key: string) => void;
}) {
  const cell = 'min-w-0 py-2';
  return (
    <div role="table" aria-label={t('address.table')} className="border-t border-ink">
      <div
        role="row"
        className="grid grid-cols-[6rem_7.6rem_2.6rem_9.4rem_2.6rem_7.6rem_1fr] items-baseline gap-x-3 border-b border-hairline py-2 text-label text-ink-2 max-lg:hidden"
      >
        {['device', 'planned', '', 'found', '', 'registered', 'says'].map((h, i) => (
          <span key={i} role="columnheader">
            {h && t(`address.${h}`)}
          </span>
        ))}
      </div>
      {lines.map((row) => {
        const { key } = row;
        const notes = row.notes.filter((n) => n.weight !== 'told');
        return (
          <div
            key={key}
            role="row"
            data-row={key}
            tabIndex={0}
            aria-current={active === key || undefined}
            onClick={() => onPick(key)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              e.preventDefault();
              onPick(key);
            }}
            className={`relative grid cursor-pointer grid-cols-[6rem_7.6rem_2.6rem_9.4rem_2.6rem_7.6rem_1fr] items-center gap-x-3 border-b border-dotted border-hairline [contain-intrinsic-size:auto_52px] [content-visibility:auto] max-lg:grid-cols-[6rem_1fr] ${active === key ? 'bg-paper-hi' : ''}`}
          >
            {active === key && <span aria-hidden className="absolute inset-y-0 left-[-10px] w-1.5 bg-accent" />}
            <span role="cell" className={cell}>
              <span className="font-read block truncate font-bold">{row.name || t('address.unplanned')}</span>
              <span className="block truncate text-tick text-ink-2">{row.planned ? row.planned.name : t('address.unplanned')}</span>
            </span>
            <span role="cell" className={`${cell} max-lg:hidden`}>
              {row.planned?.address ? (
                <Address text={row.planned.address} />
              ) : (
                <span className="text-ink-2">{t(row.planned ? 'address.no-address' : 'address.nothing')}</span>
              )}
            </span>
            <span role="cell" className="max-lg:hidden">
              <Strand kind={strand(row, 'planned', 'found')} />
              <span className="sr-only">{row.planned && row.found ? between(row, 'planned', 'found') : ''}</span>
            </span>
            <span role="cell" className={`${cell} max-lg:hidden`}>
              {row.found ? (
                <>
                  <Address
                    text={row.found.address}
                    wrong={row.differences.some((d) => d.field === 'address' && d.one === 'planned' && d.other === 'found')}
                  />
                  <span className="font-read block truncate text-tick text-ink-2">
                    {row.found.hardwareAddress ?? row.found.serial ?? ''}
                  </span>
                </>
              ) : (
                <span className="text-ink-2">{t(hasLooked ? 'address.not-found' : 'address.not-looked')}</span>
              )}
            </span>
            <span role="cell" className="max-lg:hidden">
              <Strand kind={strand(row, 'found', 'registered')} />
              <span className="sr-only">{row.found && row.registered ? between(row, 'found', 'registered') : ''}</span>
            </span>
            <span role="cell" className={`${cell} max-lg:hidden`}>
              {row.registered ? (
                <>
                  <span className="block truncate">{t('address.channel', row.registered.recorder, row.registered.channel)}</span>
                  <span className="font-read block truncate text-tick text-ink-2">{row.registered.address}</span>
                </>
              ) : (
                <span className="text-ink-2">{t(hasList ? 'address.not-registered' : 'address.no-list')}</span>
              )}
            </span>
            <span role="cell" className={`${cell} text-label leading-snug`}>
              {notes[0] && (
                <span className={notes[0].weight === 'wrong' ? 'font-semibold text-refused' : 'font-semibold text-noted'}>
                  {say(notes[0])}
                </span>
              )}{' '}
              {notes.length > 1 && <span className="whitespace-nowrap text-ink-2">{t('address.and-more', notes.length - 1)}</span>}
            </span>
          </div>
        );
      })}
    </div>
  );
}

/** Many that need no row each: label and the last part of the address, by area. */
export function Index({
  lines,
  areaOf,
  active,
  dim,
  onPick,
}: {
  lines: LedgerRow[];
  areaOf: (deviceId?: string) => string;
  active?: string;
  dim?: boolean;
  onPick: (key: string) => void;
}) {
  const areas = new Map<string, LedgerRow[]>();
  for (const line of lines) {
    const area = areaOf(line.planned?.id);
    areas.set(area, [...(areas.get(area) ?? []), line]);
  }
  return (
    <div className="grid grid-cols-[9rem_1fr] gap-x-4 max-sm:grid-cols-1">
      {[...areas].map(([area, group]) => (
        <div key={area} className="contents">
          <span className="pt-1 text-label font-semibold">{area}</span>
          <span className="flex flex-wrap gap-x-5 [contain-intrinsic-size:auto_26px]">
            {group.map((row) => {
              const { key } = row;
              const address = row.found?.address ?? row.planned?.address ?? '';
              return (
                <button
                  key={key}
                  aria-pressed={active === key}
                  onClick={() => onPick(key)}
                  className={`font-read min-h-7 text-label max-sm:min-h-11 ${dim ? 'text-ink-2' : ''} ${active === key ? 'font-bold underline' : ''}`}
                >
                  {row.name} <span className="text-ink-2">.{split(address)[1]}</span>
                </button>
              );
            })}
          </span>
        </div>
      ))}
    </div>
  );
}
