import { KeyHints } from '../../ui/KeyHints';
import { Link, useNavigate } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import type { CardRow } from '../../api/types';
import { useBeside, useCabinet } from '../../session/posture';
import { say, t } from '../../texts';
import { Sign, VerdictMark } from '../../ui/Marks';
import { SignalPath } from '../../ui/SignalPath';
import { StopLine } from '../../ui/StopLine';
import { focusHome, isNowhere } from '../../ui/focus';
import { useKeys } from '../../ui/keys';
import type { CardView } from './CardPage';
import { cardKeys } from './cardKeys';
import { coverText, isAcceptance } from './cover';
import { asking, due, keptText, nextAsking } from './due';
import { Evidence } from './Evidence';
import { foldedOf, LONG } from './fold';
import { OpenCheck } from './OpenCheck';
import { RowLine } from './RowLine';
import { Folded, Standing, Waits } from './Sections';
import { Undo, useUndo } from './Undo';

/** Keys that the foot names: for whoever reads, and what recording adds. */
const readingKeys: [string, string][] = [
  ['Up Down', 'key.check'],
  ['[ ]', 'key.stop'],
  ['V', 'key.verdict'],
  ['G', 'key.section'],
  ['?', 'key.all'],
];
const recordingKeys: [string, string][] = [
  ['T', 'key.read'],
  ['F', 'key.fault'],
  ['A', 'key.work'],
];

/** Head, path and foot stay; the checks scroll, with what proves them beside. */
export function CabinetCard({ view }: { view: CardView }) {
  const { answer, active, activate, sheet } = view;
  const { card, place } = answer;
  const [shown, setShown] = useState<ReadonlySet<string>>(new Set());
  const navigate = useNavigate();
  // How many are not taken stands before it.
  const reasons =
    card.verdict.verdict === 'accepted' ? [] : card.verdict.because.filter((b) => !b.code.startsWith('verdict.not-taken')).map(say);
  const cabinet = useCabinet();
  const beside = useBeside();
  const [openId, setOpen] = useState<string>();
  const dueRows = new Set(due(card.rows, openId ?? active?.id));
  const rows = card.rows.filter((r) => shown.has(r.check.section) || dueRows.has(r));
  const [by, setBy] = useState<Readonly<Record<string, boolean>>>({});
  const [first, setFirst] = useState({ key: '', press: 0 });
  const column = useRef<HTMLDivElement>(null);
  const at = rows.findIndex((row) => row.id === active?.id);
  // The arrows take the keys along, so that a reader says what is marked.
  const moved = useRef(false);
  const go = (to: number) => {
    if (!rows[to]) return;
    moved.current = true;
    activate(rows[to].id);
  };
  const open = (row: CardRow | undefined, typed = '') => {
    if (!row) return;
    activate(row.id);
    // What is worked out is entered by nobody.
    if (view.readOnly || row.check.entry === 'derived') return;
    setFirst({ key: typed, press: first.press + 1 });
    setOpen(row.id);
  };
  const done = (row: CardRow, next: boolean, saved: string[] = [row.id]) => {
    setOpen(undefined);
    // What was saved a moment ago is not asked for again, though the record may not have answered yet.
    const asks = next ? nextAsking(rows, view.outbox, row.id, saved) : undefined;
    const to = asks ?? (next ? rows[rows.findIndex((r) => r.id === row.id) + 1] : row);
    if (to) activate(to.id);
    if (asks) open(asks);
  };
  const leave = () => setOpen(undefined);
  const { undo } = useUndo(view);
  const isAllAsked = rows.length > 0 && asking(rows, view.outbox).every((r) => r.heldBy.length > 0);
  const [chord, setChord] = useState(false);
  useKeys(
    chord
      ? {
          w: () => (setChord(false), void navigate({ to: '/' })),
          e: () => (setChord(false), void navigate({ to: '/register' })),
          r: () => (setChord(false), void navigate({ to: '/readings' })),
          o: () => (setChord(false), void navigate({ to: '/power' })),
          k: () => (setChord(false), void navigate({ to: '/kit' })),
          p: () => (setChord(false), void navigate({ to: '/practice' })),
          c: () => setChord(false),
          Escape: () => setChord(false),
        }
      : {
          ...cardKeys(view),
          ArrowDown: (e) => (e.preventDefault(), go(at + 1)),
          ArrowUp: (e) => (e.preventDefault(), go(at - 1)),
          z: () => void undo(),
          Enter: (e) => {
            if (e.target instanceof HTMLButtonElement || e.target instanceof HTMLAnchorElement) return;
            e.preventDefault();
            open(active);
          },
          digit: (e) => {
            if (active?.check.entry !== 'number') return;
            e.preventDefault();
            open(active, e.key);
          },
          // Wherever on the Card the keys are.
          Escape: () => openId && leave(),
          r: () => open(active),
          t: () => open(active, 'tester'),
          g: () => setChord(true),
          '/': (e) => (e.preventDefault(), void navigate({ to: '/', search: { find: '' } })),
        },
  );
  useEffect(() => {
    // The open Check is kept a third from the top.
    const element = column.current?.querySelector<HTMLElement>(`[data-row="${CSS.escape(active?.id ?? '')}"]`);
    if (!element || !column.current) return;
    const box = column.current.getBoundingClientRect();
    const mine = element.getBoundingClientRect();
    if (openId || mine.top < box.top || mine.bottom > box.bottom)
      column.current.scrollTo({ top: column.current.scrollTop + mine.top - box.top - box.height / 3, behavior: 'instant' });
  }, [active?.id, openId]);
  useEffect(() => {
    if (!moved.current || openId) return;
    moved.current = false;
    column.current?.querySelector<HTMLElement>('[data-home]')?.focus({ preventScroll: true });
  }, [active?.id, openId]);
  // The last one is saved: the keys go on to the next Stop, unless somebody took them elsewhere meanwhile.
  const wasAsked = useRef(isAllAsked);
  useEffect(() => {
    if (isAllAsked && !wasAsked.current && (isNowhere() || document.activeElement?.matches('[data-home]'))) focusHome();
    wasAsked.current = isAllAsked;
  }, [isAllAsked]);
  const sections = [...new Set(card.rows.map((r) => r.check.section))];
  const more = (section: string) => card.rows.filter((r) => r.check.section === section && !rows.includes(r)).length;
  const leg = active?.check.leg;
  const isLong = due(card.rows).length > LONG;
  const folded = foldedOf(sections, due(card.rows).length, active?.check.section, by);
  const fold = (section: string, to: boolean) => setBy({ ...by, [section]: to });

  return (
    <div className="flex min-h-0 flex-1">
      {cabinet && view.walk && (
        <div className="w-stopline shrink-0 border-r border-hairline">
          <StopLine walk={view.walk} current={place.id} narrow />
        </div>
      )}
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="shrink-0 px-6 pt-4">
          <div className="flex items-start gap-5">
            <h1 className="font-read text-code font-bold">{place.label}</h1>
            <div className="min-w-0 flex-1 pt-0.5">
              <p className="truncate text-lead font-bold">{place.name}</p>
              <p className="truncate text-label text-ink-2">
                {[
                  t(`kind.${place.kind}`),
                  place.model,
                  place.powerClass !== null && `${t('term.class')} ${place.powerClass}`,
                  place.runs[0]?.port,
                  place.address,
                  place.channels.join(', '),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </p>
            </div>
            <button className="flex items-start gap-3 text-left" onClick={() => sheet('verdict')}>
              <span className="pt-1">
                <VerdictMark verdict={card.verdict.verdict} size={26} label="" />
              </span>
              <span>
                <span className="block text-lead font-bold" data-testid="verdict">
                  {t(`verdict.${card.verdict.verdict}`)}
                </span>
                {isAcceptance(card.verdict.verdict) && (
                  <span className="block max-w-64 text-label font-semibold">{coverText(card.verdict).covers}</span>
                )}
                <span className="block max-w-64 text-label text-ink-2">
                  {[t('card.taken', card.taken, card.total), keptText(card.rows, view.outbox), ...reasons].filter(Boolean).join(', ')}
                </span>
              </span>
            </button>
          </div>
          <BuiltLine view={view} />
          {card.hold && (
            <p role="alert" className="mt-1 font-bold text-refused">
              {say(card.hold)}
            </p>
          )}
          <div className="mt-2">
            <SignalPath
              card={card}
              current={leg}
              onLeg={(l) => {
                const own = rows.filter((r) => r.check.leg === l);
                const to = own.find((r) => r.state !== 'in') ?? own[0];
                if (to) activate(to.id);
              }}
            />
          </div>
        </div>
        <div className={`flex min-h-0 flex-1 px-6 pt-1 ${beside ? 'gap-9' : 'flex-col overflow-y-auto'}`}>
          <div ref={column} className={beside ? 'min-h-0 w-[612px] shrink-0 overflow-y-auto' : 'w-full shrink-0'} tabIndex={-1}>
            {rows.length === 0 && <p className="py-6 text-ink-2">{t('card.no-checks')}</p>}
            {isLong && <Standing view={view} rows={due(card.rows)} />}
            {sections.map((section) =>
              folded.has(section) ? (
                <Folded
                  key={section}
                  section={section}
                  rows={rows.filter((r) => r.check.section === section)}
                  onOpen={() => fold(section, false)}
                />
              ) : (
                <section key={section} className="flex border-t border-ink" aria-label={t(`section.${section}`)}>
                  <h2 className="w-margin shrink-0 pt-3 text-body font-bold">
                    {isLong && section !== active?.check.section ? (
                      <button type="button" aria-expanded className="text-left font-bold" onClick={() => fold(section, true)}>
                        {t(`section.${section}`)}
                      </button>
                    ) : (
                      t(`section.${section}`)
                    )}
                  </h2>
                  <ul className="min-w-0 flex-1">
                    {rows
                      .filter((row) => row.check.section === section)
                      .map((row) => (
                        <li key={row.id} data-row={row.id} className="border-b border-dotted border-hairline last:border-0">
                          {openId === row.id ? (
                            <OpenCheck
                              view={view}
                              row={row}
                              first={first}
                              onDone={(next, saved) => done(row, next, saved)}
                              onLeave={leave}
                            />
                          ) : (
                            <RowLine
                              view={view}
                              row={row}
                              active={row.id === active?.id}
                              onOpen={() => open(row)}
                              onActivate={() => activate(row.id)}
                            />
                          )}
                          {!beside && row.id === active?.id && (
                            <div className="mb-3 border-l-2 border-hairline pl-4">
                              <Evidence view={view} />
                            </div>
                          )}
                        </li>
                      ))}
                    {(more(section) > 0 || shown.has(section)) && (
                      <li>
                        <button
                          className="min-h-9 pl-7 text-label text-ink-2 underline"
                          onClick={() =>
                            setShown(new Set(shown.has(section) ? [...shown].filter((s) => s !== section) : [...shown, section]))
                          }
                        >
                          {shown.has(section) ? t('card.fewer') : t('card.more', more(section))}
                        </button>
                      </li>
                    )}
                  </ul>
                </section>
              ),
            )}
            <Waits view={view} rows={card.rows} onRow={(row) => activate(row.id)} />
            {isAllAsked && (
              <p className="flex flex-wrap items-center gap-x-5 border-t border-ink py-3">
                <span className="font-bold">{t('card.all-asked')}</span>
                {view.nextStop && (
                  <button data-home="onward" className="forward" onClick={() => view.goStop(1)}>
                    {`${t('card.next-stop')}: ${view.nextStop.label}`} <span className="key ml-1">]</span>
                  </button>
                )}
              </p>
            )}
            <div className="h-24" />
          </div>
          {beside && (
            <aside className="min-h-0 min-w-0 max-w-[400px] flex-1 overflow-y-auto border-t border-ink pb-4">
              <Evidence view={view} />
            </aside>
          )}
        </div>
        <footer className="flex h-9 shrink-0 items-center gap-4 overflow-hidden whitespace-nowrap border-t border-hairline px-6 text-label">
          {/* Hints give way to what can be pressed. */}
          <span className="flex min-w-0 items-center gap-4 overflow-hidden max-[1151px]:hidden">
            <KeyHints keys={view.readOnly ? readingKeys : [...readingKeys.slice(0, 2), ...recordingKeys, ...readingKeys.slice(2)]} />
          </span>
          <Undo view={view} className="shrink-0 font-semibold underline" />
          {view.demo && (
            <button className="ml-auto shrink-0 font-semibold underline" onClick={() => sheet('demo')}>
              {t('card.demo')}
            </button>
          )}
        </footer>
      </main>
    </div>
  );
}

/** What is otherwise than planned, and what holds the Card up: one line each, and the way to change it. */
export function BuiltLine({ view }: { view: CardView }) {
  const { place, card } = view.answer;
  const lines = [
    place.addedOnSite && t('card.added'),
    place.cancelled && t('card.cancelled'),
    ...place.differences.map((d) =>
      t('card.otherwise', t(`field.${d.field}`), d.asBuilt ?? t('card.nothing'), d.planned ?? t('card.nothing')),
    ),
    place.unknown.length > 0 && t('card.unknown', place.unknown.map((u) => t(`model.${u}`)).join('; ')),
  ].filter(Boolean);
  return (
    <p className="mt-1 flex min-w-0 flex-wrap items-baseline gap-x-4 text-label max-sm:items-center">
      {!view.readOnly && (
        <button
          className="inline-flex min-h-6 shrink-0 items-center font-semibold underline max-sm:min-h-11"
          onClick={() => view.sheet('built')}
        >
          {t('card.built')}
        </button>
      )}
      {lines.length > 0 && <span className="min-w-0 truncate text-ink-2">{lines.join('; ')}</span>}
      {place.runs.length > 0 && (
        <Link
          to="/path/$deviceId"
          params={{ deviceId: place.id }}
          className="inline-flex min-h-6 shrink-0 items-center font-semibold underline max-sm:min-h-11"
        >
          {t('path.open')}
        </Link>
      )}
      <Link
        to="/pictures/$deviceId"
        params={{ deviceId: place.id }}
        className="inline-flex min-h-6 shrink-0 items-center font-semibold underline max-sm:min-h-11"
      >
        {t('pictures.open')}
      </Link>
      {card.rows.some((r) => r.key.on.kind === 'head') &&
        (['/views/$deviceId', '/aim/$deviceId', '/focus/$deviceId', '/night/$deviceId'] as const).map((to) => (
          <Link
            key={to}
            to={to}
            params={{ deviceId: place.id }}
            className="inline-flex min-h-6 shrink-0 items-center font-semibold underline max-sm:min-h-11"
          >
            {t(`card.open${to.split('/$')[0]}`)}
          </Link>
        ))}
      {card.rows.some((r) => r.check.id === 'plates.trial') && (
        <Link
          to="/plates/$deviceId"
          params={{ deviceId: place.id }}
          className="inline-flex min-h-6 shrink-0 items-center font-semibold underline max-sm:min-h-11"
        >
          {t('card.open/plates')}
        </Link>
      )}
      <button
        className={`flex min-h-6 shrink-0 items-center gap-1.5 font-semibold max-sm:min-h-11 ${view.readOnly ? '' : 'underline'}`}
        hidden={!!view.readOnly && !card.blocked}
        disabled={!!view.readOnly}
        onClick={() => view.sheet('block')}
      >
        {card.blocked ? (
          <>
            <Sign sign={card.blocked.setAside ? 'aside' : 'blocked'} />
            {card.blocked.setAside ? t('card.aside', card.blocked.reason) : t('card.held', card.blocked.blockedBy, card.blocked.reason)}
          </>
        ) : (
          t('card.hold')
        )}
      </button>
    </p>
  );
}
