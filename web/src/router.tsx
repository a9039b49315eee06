import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from '@tanstack/react-router';
import type { Verdict } from './api/types';
import { CardPage } from './features/cards/CardPage';
import { WalkPage, type WalkSearch } from './features/walk/WalkPage';
import { Shell } from './Shell';

const text = (value: unknown) => (typeof value === 'string' ? value : typeof value === 'number' ? String(value) : undefined);
const verdicts: Verdict[] = ['accepted', 'acceptedWithNote', 'refused', 'open'];

const root = createRootRoute({ component: Shell });
const walk = createRoute({
  getParentRoute: () => root,
  path: '/',
  component: WalkPage,
  validateSearch: (s: Record<string, unknown>): WalkSearch => ({
    find: text(s.find),
    verdict: verdicts.find((v) => v === s.verdict),
    held: s.held === true || undefined,
  }),
});
const card = createRoute({
  getParentRoute: () => root,
  path: '/card/$deviceId',
  component: CardPage,
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
const kit = createRoute({ getParentRoute: () => root, path: '/kit', component: lazyRouteComponent(() => import('./features/kit/KitPage')) });
const practice = createRoute({
  getParentRoute: () => root,
  path: '/practice',
  component: lazyRouteComponent(() => import('./features/practice/PracticePage')),
});

export const router = createRouter({ routeTree: root.addChildren([walk, card, register, taking, kit, practice]) });

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
