import type { db } from './db';

let loading: Promise<typeof db> | undefined;

/** The browser's own store; its code is fetched beside the first page and not before it. */
export const store = (): Promise<typeof db> => (loading ??= import('./db').then((module) => module.db));
