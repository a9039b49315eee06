import { createRootRoute, createRoute, createRouter } from '@tanstack/react-router';
import { CardPage } from './features/cards/CardPage';
import { WalkPage } from './features/walk/WalkPage';
import { Shell } from './Shell';

const root = createRootRoute({ component: Shell });
const walk = createRoute({
  getParentRoute: () => root,
  path: '/',
  component: WalkPage,
  validateSearch: (s: Record<string, unknown>): { find?: string } => ({ find: typeof s.find === 'string' ? s.find : undefined }),
});
const card = createRoute({
  getParentRoute: () => root,
  path: '/card/$deviceId',
  component: CardPage,
  validateSearch: (s: Record<string, unknown>): { row?: string } => ({ row: typeof s.row === 'string' ? s.row : undefined }),
});

export const router = createRouter({ routeTree: root.addChildren([walk, card]) });

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
