import type { DeviceModel, OwnCatalogueAnswer, WorkAnswer } from '../../api/types';

export type Limit = OwnCatalogueAnswer['limits'][number];
export type Figure = OwnCatalogueAnswer['figures'][number];
export type Check = OwnCatalogueAnswer['checks'][number];
export type Started = { data?: WorkAnswer; error?: unknown; response: Response };
type Light = NonNullable<DeviceModel['lights']>[number];
export type LightDraft = Pick<Light, 'id' | 'colour' | 'state'> & Partial<Pick<Light, 'beside' | 'dial'>> & { rhythm: string };
