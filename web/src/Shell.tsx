import { Link, Outlet, useMatchRoute, useRouterState } from '@tanstack/react-router';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useCatalogue, useKit, useLive, useTexts } from './api/queries';
import { instrumentTrouble } from './features/cards/instrumentTrouble';
import { heldBack } from './outbox/line';
import { useOutbox, useStorageFull } from './outbox/outbox';
import { setIdentity, useIdentity } from './session/identity';
import { setCurrentJob } from './session/job';
import { isNewHere, mayDo, noLongerNew, personIn, useAccess } from './session/access';
import { useJob } from './session/useJob';
import { focusHome } from './ui/focus';
import { useHand, useWideHead } from './session/posture';
import { t } from './texts';
import { clock } from './ui/format';
import { Brand, Here } from './ui/Marks';
import { useKeys } from './ui/keys';

const RefusedSheet = lazy(() => import('./features/cards/RefusedSheet').then((m) => ({ default: m.RefusedSheet })));
const IdentitySheet = lazy(() => import('./features/kit/IdentitySheet').then((m) => ({ default: m.IdentitySheet })));
const SignIn = lazy(() => import('./features/access/SignIn'));
const JobSheet = lazy(() => import('./features/jobs/JobSheet').then((m) => ({ default: m.JobSheet })));
const KeptFresh = lazy(() => import('./features/walk/KeptFresh').then((m) => ({ default: m.KeptFresh })));
const JobScope = lazy(() => import('./features/jobs/JobScope').then((m) => ({ default: m.JobScope })));
const KeysSheet = lazy(() => import('./ui/KeysSheet').then((m) => ({ default: m.KeysSheet })));

/** The sections with the letter that leads there after G. */
const tabs = [
  ['/register', 'E'],
  ['/readings', 'R'],
  ['/power', 'O'],
  ['/addresses', 'A'],
  ['/recording', 'D'],
  ['/handover', 'H'],
  ['/kit', 'K'],
  ['/practice', 'P'],
] as const;

function Tab({ to, letter, children, here }: { to: string; letter: string; children: string; here: boolean }) {
  const at = Math.max(0, children.toLowerCase().indexOf(letter.toLowerCase()));
  return (
    <Link
      to={to}
      aria-current={here ? 'page' : undefined}
      className={`relative flex h-[38px] items-center px-2.5 text-body ${here ? 'border-x border-t border-ink bg-paper font-bold' : 'text-ink-2'}`}
    >
      {here && (
        <span className="absolute -top-[3px] left-1/2 -translate-x-1/2">
          <Here down />
        </span>
      )}
      <span>
        {children.slice(0, at)}
        <span className={here ? '' : 'underline'}>{children[at]}</span>
        {children.slice(at + 1)}
      </span>
      <span className="sr-only">{`G ${letter}`}</span>
    </Link>
  );
}

export function Shell() {
  useTexts();
  const { job, walk, isUnknown } = useJob();
  const [choosing, setChoosing] = useState(false);
  const access = useAccess().data;
  useLive(job?.id, access?.me?.session);
  const me = useIdentity();
  // Who is signed in is who writes.
  const signedIn = personIn(access, job?.id);
  useEffect(() => {
    if (access?.me && job && me.personId !== signedIn) setIdentity({ personId: signedIn });
  }, [access?.me, job, me.personId, signedIn]);
  const hand = useHand();
  const wide = useWideHead();
  const kit = useKit(job?.id);
  const catalogue = useCatalogue();
  const outbox = useOutbox();
  const refused = outbox.filter((item) => item.refused);
  const held = heldBack(outbox).length;
  const waiting = outbox.length - refused.length - held;
  const full = useStorageFull();
  const [who, setWho] = useState(false);
  const [keys, setKeys] = useState(false);
  const [showRefused, setShowRefused] = useState(false);
  const [now, setNow] = useState(Date.now());
  const [online, setOnline] = useState(navigator.onLine);
  const match = useMatchRoute();
  const onCard = !!match({ to: '/card/$deviceId' });
  const section = useRouterState({ select: (s) => s.location.pathname });
  /** In the hand these pages have the whole screen. */
  const alone = hand && (onCard || /^\/(aim|focus|night|plates)\b/.test(section));
  /** The pages behind a tab count as the tab's. */
  const at = (tab: string) =>
    section === tab ||
    (tab === '/register' && section === '/import') ||
    (tab === '/handover' && /^\/(verify|why)\b/.test(section)) ||
    (tab === '/power' && section.startsWith('/path/'));
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000);
    const heard = () => setOnline(navigator.onLine);
    window.addEventListener('online', heard);
    window.addEventListener('offline', heard);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', heard);
      window.removeEventListener('offline', heard);
    };
  }, []);
  useKeys({ d: () => setIdentity({ night: !me.night }), '?': () => setKeys(true) });
  const person = kit.data?.people.find((p) => p.id === me.personId);
  const instrument = kit.data?.instruments.find((i) => i.id === me.instrumentId);
  const trouble = instrumentTrouble(instrument);
  const [looking, setLooking] = useState(false);
  const mustChoose = !!kit.data && !access?.me && (!person || person.left);
  /** Somebody has just come in here: what he measures with is his next choice. */
  const cameIn = !!signedIn && mayDo(access, 'work') && !!kit.data && isNewHere();
  useEffect(() => {
    // Stays open until it is left, so that the instrument can be chosen too.
    if ((mustChoose && !looking) || (cameIn && !me.instrumentId)) setWho(true);
    if (cameIn) noLongerNew();
  }, [mustChoose, looking, cameIn, me.instrumentId]);
  const next = walk.data?.next?.id ?? walk.data?.areas[0]?.stops[0]?.id;
  const problem = catalogue.data?.problems[0];

  // Whoever is not in sees the door, and what he was about to do stays behind it; an invitation and the way to trust are before it.
  const outside = !!access?.mustSignIn && online && section !== '/join' && section !== '/trust';
  const status = (
    <span role="status" className="flex items-center gap-3 text-label">
      {!online && <span className="font-semibold text-noted">{t('ui.no-network')}</span>}
      {waiting > 0 && <span className="font-semibold">{t('ui.not-sent', waiting)}</span>}
      {refused.length > 0 && (
        <button className="min-h-11 font-bold text-refused underline sm:min-h-0" onClick={() => setShowRefused(true)}>
          {t('ui.refused', refused.length)}
          {held > 0 && `, ${t('ui.held-back', held)}`}
        </button>
      )}
    </span>
  );

  return (
    <div className="flex h-dvh flex-col print:block print:h-auto">
      <button
        className="sr-only focus:not-sr-only focus:absolute focus:left-4 focus:top-1 focus:z-50 focus:min-h-11 focus:bg-ink focus:px-4 focus:font-bold focus:text-paper"
        onClick={focusHome}
      >
        {t('ui.skip')}
      </button>
      {!alone && (
        <header className="print:hidden flex h-12 shrink-0 items-end border-b border-ink px-6 max-sm:px-4">
          <Link to="/" className="mb-3 flex items-center gap-2 font-bold max-sm:mb-0">
            <Brand /> <span className="max-sm:sr-only">{t('brand')}</span>
          </Link>
          {job ? (
            <button
              className="mb-1 ml-5 mr-8 flex min-h-8 min-w-0 items-center truncate text-label leading-tight text-ink-2 underline max-sm:mb-0 max-sm:ml-3 max-sm:mr-2 max-sm:min-h-11"
              onClick={() => setChoosing(true)}
            >
              <span className="min-w-0 text-left">
                <span className="block truncate">{job.name}</span>
                <Suspense>
                  <JobScope job={job} />
                </Suspense>
              </span>
            </button>
          ) : null}
          {wide && (
            <nav className={`flex ${job ? '' : 'ml-6'}`}>
              <Tab to="/" letter="W" here={section === '/'}>
                {t('nav.walk')}
              </Tab>
              {(next || onCard) && (
                <Tab to={onCard ? section : `/card/${next}`} letter="C" here={onCard}>
                  {t('nav.card')}
                </Tab>
              )}
              {job && (
                <>
                  {tabs.map(([to, letter]) => (
                    <Tab key={to} to={to} letter={letter} here={at(to)}>
                      {t(`nav.${to.slice(1)}`)}
                    </Tab>
                  ))}
                </>
              )}
            </nav>
          )}
          <span className="mb-2.5 ml-auto flex items-center gap-4 whitespace-nowrap max-sm:mb-0">
            {!hand && status}
            {kit.data && (
              <button
                className="text-label font-semibold underline max-sm:flex max-sm:min-h-11 max-sm:items-center"
                onClick={() => setWho(true)}
              >
                {person?.name ?? access?.me?.name ?? t('ui.who')}
                {instrument && (
                  <span
                    className={`ml-2 max-lg:hidden ${trouble ? 'font-bold text-refused' : 'font-normal text-ink-2'}`}
                    title={trouble ?? undefined}
                  >
                    {instrument.name}
                    {trouble && `, ${t(instrument.retired ? 'kit.retired' : `kit.${instrument.calibration}`)}`}
                  </span>
                )}
              </button>
            )}
            {job && <span className="font-read text-body font-bold max-sm:hidden">{clock(now, job.timeZone)}</span>}
          </span>
        </header>
      )}
      {!wide && !alone && job && (
        <nav
          className="print:hidden flex shrink-0 gap-x-5 overflow-x-auto whitespace-nowrap border-b border-hairline px-6 max-sm:gap-x-4 max-sm:px-4"
          aria-label={t('nav.more')}
        >
          {(['/', ...tabs.map(([to]) => to)] as const).map((to) => (
            <Link
              key={to}
              to={to}
              aria-current={at(to) ? 'page' : undefined}
              className={`flex min-h-11 shrink-0 items-center text-body ${at(to) ? 'font-bold' : 'text-ink-2 underline'}`}
            >
              {t(to === '/' ? 'nav.walk' : `nav.${to.slice(1)}`)}
            </Link>
          ))}
        </nav>
      )}
      {hand && (outbox.length > 0 || !online) && (
        <div className="flex shrink-0 justify-end border-b border-hairline px-4 py-1">{status}</div>
      )}
      {full && (
        <p role="alert" className="shrink-0 border-b-2 border-refused px-6 py-1 font-bold text-refused max-sm:px-4">
          {t('ui.storage-full')}
        </p>
      )}
      {isUnknown && (
        <p role="alert" className="shrink-0 border-b border-noted px-6 py-1 text-label font-semibold text-noted max-sm:px-4">
          {t('jobs.unknown', job?.name ?? '')}{' '}
          <button className="min-h-6 underline max-sm:min-h-11" onClick={() => job && setCurrentJob(job.id)}>
            {t('jobs.stay')}
          </button>
        </p>
      )}
      {job?.damaged && (
        <p role="alert" className="shrink-0 border-b-2 border-refused px-6 py-1 text-label font-semibold text-refused max-sm:px-4">
          {t('ui.damaged', job.damaged.join(', '))}
        </p>
      )}
      {job?.setAside && (
        <p role="alert" className="shrink-0 border-b border-noted px-6 py-1 text-label font-semibold text-noted max-sm:px-4">
          {t('ui.set-aside', job.setAside)}
        </p>
      )}
      {problem && (
        <p className="shrink-0 border-b border-noted px-6 py-1 text-label text-noted">
          {t('catalogue.problem', problem.file, problem.what)}
        </p>
      )}
      <Outlet />
      <Suspense>{job && <KeptFresh jobId={job.id} />}</Suspense>
      <Suspense>
        {outside && <SignIn access={access} />}
        {who && kit.data && job && (
          <IdentitySheet
            jobId={job.id}
            kit={kit.data}
            onClose={() => (setWho(false), setLooking(true))}
            forced={mustChoose}
            access={access}
          />
        )}
        {choosing && <JobSheet onClose={() => setChoosing(false)} />}
        {keys && <KeysSheet onClose={() => setKeys(false)} />}
        {showRefused && refused.length > 0 && <RefusedSheet items={refused} onClose={() => setShowRefused(false)} />}
      </Suspense>
    </div>
  );
}
