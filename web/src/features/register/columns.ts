export const usual = [
  'label',
  'name',
  'area',
  'kind',
  'model',
  'serial',
  'hardware_address',
  'address',
  'cabinet',
  'port',
  'recorder',
  'channels',
  'run',
  'length_m',
  'height_m',
  'reach',
];

export const wide: Record<string, number> = {
  name: 220,
  path: 200,
  hardware_address: 160,
  label: 92,
  area: 130,
  kind: 130,
  address: 118,
  model: 120,
};

export const widthOf = (field: string) => wide[field] ?? 96;
