export type CellTrouble = { deviceId: string; field: string; what: string; mend: string };
