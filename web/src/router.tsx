import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from '@tanstack/react-router';
import type { Verdict } from './api/types';
import { WalkPage, type WalkSearch } from './features/walk/WalkPage';
import { onJobChange, withJob, withoutJob } from './session/job';
import { NotFound } from './NotFound';
import { Shell } from './Shell';

const text = (value: unknown) => (typeof value === 'string' ? value : typeof value === 'number' ? String(value) : undefined);
const verdicts: Verdict[] = ['accepted', 'acceptedWithNote', 'refused', 'open'];

const loadCard = () => import('./features/cards/CardRoute');
// The Card is what comes next: it is fetched as soon as the Walk has been drawn.
setTimeout(() => void loadCard(), 400);
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
const taking = createRoute({
  getParentRoute: () => root,
  path: '/import',
  component: lazyRouteComponent(() => import('./features/jobs/ImportPage')),
});
const kit = createRoute({
  getParentRoute: () => root,
  path: '/kit',
  component: lazyRouteComponent(() => import('./features/kit/KitPage')),
});
const practice = createRoute({
  getParentRoute: () => root,
  path: '/practice',
  component: lazyRouteComponent(() => import('./features/practice/PracticePage')),
});
const power = createRoute({
  getParentRoute: () => root,
  path: '/power',
  component: lazyRouteComponent(() => import('./features/power/PowerPage')),
});
const addresses = createRoute({
  getParentRoute: () => root,
  path: '/addresses',
  component: lazyRouteComponent(() => import('./features/addresses/AddressPage')),
});
const recording = createRoute({
  getParentRoute: () => root,
  path: '/recording',
  component: lazyRouteComponent(() => import('./features/recording/RecordingPage')),
  validateSearch: (s: Record<string, unknown>): { device?: string } => ({ device: text(s.device) }),
});
const path = createRoute({
  getParentRoute: () => root,
  path: '/path/$deviceId',
  component: lazyRouteComponent(() => import('./features/power/PathPage')),
});
const readings = createRoute({
  getParentRoute: () => root,
  path: '/readings',
  component: lazyRouteComponent(() => import('./features/readings/ReadingsPage')),
});

const handover = createRoute({
  getParentRoute: () => root,
  path: '/handover',
  component: lazyRouteComponent(() => import('./features/handover/HandoverPage')),
});
const verify = createRoute({
  getParentRoute: () => root,
  path: '/verify',
  component: lazyRouteComponent(() => import('./features/handover/VerifyPage')),
});
const pictures = createRoute({
  getParentRoute: () => root,
  path: '/pictures/$deviceId',
  component: lazyRouteComponent(() => import('./features/handover/PicturesPage')),
});
const trace = createRoute({
  getParentRoute: () => root,
  path: '/trace/$deviceId',
  component: lazyRouteComponent(() => import('./features/handover/TracePage')),
  validateSearch: (s: Record<string, unknown>): { row?: string } => ({ row: text(s.row) }),
});
const why = createRoute({
  getParentRoute: () => root,
  path: '/why/$of',
  component: lazyRouteComponent(() => import('./features/handover/SumPage')),
});

const access = createRoute({
  getParentRoute: () => root,
  path: '/access',
  component: lazyRouteComponent(() => import('./features/access/AccessPage')),
});
const me = createRoute({
  getParentRoute: () => root,
  path: '/me',
  component: lazyRouteComponent(() => import('./features/access/MePage')),
});
const join = createRoute({
  getParentRoute: () => root,
  path: '/join',
  component: lazyRouteComponent(() => import('./features/access/JoinPage')),
});
const trust = createRoute({
  getParentRoute: () => root,
  path: '/trust',
  component: lazyRouteComponent(() => import('./features/access/TrustPage')),
});

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
