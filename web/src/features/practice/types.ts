import type { DeviceModel, OwnCatalogueAnswer, WorkAnswer } from '../../api/types';

export type Limit = OwnCatalogueAnswer['limits'][number];
export type Figure = OwnCatalogueAnswer['figures'][number];
export type Check = OwnCatalogueAnswer['checks'][number];
export type Started = { data?: WorkAnswer; error?: unknown; response: Response };
export type LightDraft = { id: string; colour: string; rhythm: string; state: NonNullable<DeviceModel['lights']>[number]['state'] };
