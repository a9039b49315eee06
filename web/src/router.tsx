import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Verdict } from './api/types';
import { WalkPage, type WalkSearch } from './features/walk/WalkPage';
import { onJobChange, withJob, withoutJob } from './session/job';
import { NotFound } from './NotFound';
import { Shell } from './Shell';

const text = (value: unknown) => (typeof value === 'string' ? value : typeof value === 'number' ? String(value) : undefined);
const verdicts: Verdict[] = ['accepted', 'acceptedWithNote', 'refused', 'open'];

const loadCard = () => import('./features/cards/CardRoute');
// Opened on a Card its code is fetched at once, beside all else; after the Walk it is what comes next.
if (window.location.pathname.startsWith('/card/')) void loadCard();
else setTimeout(() => void loadCard(), 400);
const root = createRootRoute({ component: Shell });
const walk = createRoute({
  getParentRoute: () => root,
  path: '/',
  component: WalkPage,
  validateSearch: (s: Record<string, unknown>): WalkSearch => ({
    find: text(s.find),
    verdict: verdicts.find((v) => v === s.verdict),
    held: s.held === true || undefined,
    plan: s.plan === true || undefined,
  }),
});
const card = createRoute({
  getParentRoute: () => root,
  path: '/card/$deviceId',
  component: lazyRouteComponent(loadCard),
  validateSearch: (s: Record<string, unknown>): { row?: string } => ({ row: text(s.row) }),
});
// What is used at the desk is loaded when it is opened.
const register = createRoute({
  getParentRoute: () => root,
  path: '/register',
  component: lazyRouteComponent(() => import('./features/register/RegisterPage')),
  validateSearch: (s: Record<string, unknown>): { find?: string; different?: boolean; finding?: number } => ({
    find: text(s.find),
    different: s.different === true || undefined,
    finding: typeof s.finding === 'number' ? s.finding : undefined,
  }),
});
/** A page that is fetched when it is opened. */
const page = <P extends string>(path: P, load: () => Promise<{ default: () => ReactNode }>) =>
  createRoute({ getParentRoute: () => root, path, component: lazyRouteComponent(load) });
const taking = page('/import', () => import('./features/jobs/ImportPage'));
const kit = page('/kit', () => import('./features/kit/KitPage'));
const practice = page('/practice', () => import('./features/practice/PracticePage'));
const power = page('/power', () => import('./features/power/PowerPage'));
const addresses = page('/addresses', () => import('./features/addresses/AddressPage'));
const recording = createRoute({
  getParentRoute: () => root,
  path: '/recording',
  component: lazyRouteComponent(() => import('./features/recording/RecordingPage')),
  validateSearch: (s: Record<string, unknown>): { device?: string } => ({ device: text(s.device) }),
});
const views = page('/views/$deviceId', () => import('./features/views/ViewsPage'));
const coverage = page('/coverage', () => import('./features/views/CoveragePage'));
const aim = page('/aim/$deviceId', () => import('./features/aim/AimPage'));
const focus = page('/focus/$deviceId', () => import('./features/aim/FocusPage'));
const night = page('/night/$deviceId', () => import('./features/aim/NightPage'));
const plates = page('/plates/$deviceId', () => import('./features/plates/PlatesPage'));
const identity = page('/identity/$recorderId', () => import('./features/identity/IdentityPage'));
const path = page('/path/$deviceId', () => import('./features/power/PathPage'));
const readings = page('/readings', () => import('./features/readings/ReadingsPage'));

const handover = page('/handover', () => import('./features/handover/HandoverPage'));
const verify = page('/verify', () => import('./features/handover/VerifyPage'));
const pictures = page('/pictures/$deviceId', () => import('./features/handover/PicturesPage'));
const trace = createRoute({
  getParentRoute: () => root,
  path: '/trace/$deviceId',
  component: lazyRouteComponent(() => import('./features/handover/TracePage')),
  validateSearch: (s: Record<string, unknown>): { row?: string } => ({ row: text(s.row) }),
});
const why = page('/why/$of', () => import('./features/handover/SumPage'));

const access = page('/access', () => import('./features/access/AccessPage'));
const me = page('/me', () => import('./features/access/MePage'));
const join = page('/join', () => import('./features/access/JoinPage'));
const trust = page('/trust', () => import('./features/access/TrustPage'));

export const router = createRouter({
  // Every address carries its job; within it pages know their place by themselves.
  rewrite: { input: ({ url }) => withoutJob(url), output: ({ url }) => withJob(url) },
  defaultNotFoundComponent: NotFound,
  routeTree: root.addChildren([
    walk,
    card,
    register,
    taking,
    kit,
    practice,
    power,
    addresses,
    recording,
    views,
    coverage,
    aim,
    focus,
    night,
    plates,
    identity,
    path,
    readings,
    handover,
    verify,
    pictures,
    trace,
    why,
    access,
    me,
    join,
    trust,
  ]),
});

// Another job at hand: the address says so, and what is shown is of it.
onJobChange(() => {
  const shown = withJob(new URL(window.location.href.replace(/\/job\/[0-9a-fA-F-]{36}(?=\/|$)/, '')));
  if (shown.href !== window.location.href) window.history.replaceState(window.history.state, '', shown.href);
  void router.invalidate();
});

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
