import 'fake-indexeddb/auto';
import { vi } from 'vitest';

/** As much of a browser as what is tested here asks for. */
vi.stubGlobal('window', { location: { origin: 'http://walkdown' }, addEventListener: () => {} });
vi.stubGlobal('document', { addEventListener: () => {}, documentElement: { dataset: {} }, visibilityState: 'visible' });
vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => {}, removeItem: () => {} });
vi.stubGlobal('navigator', { onLine: true });
