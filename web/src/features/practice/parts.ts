import { has, t } from '../../texts';

export const featureName = (f: string) => (has(`feature.${f}`) ? t(`feature.${f}`) : f);

export const toNumber = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));

export const slug = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
