import { has, t } from '../../texts';

export const featureName = (f: string) => (has(`feature.${f}`) ? t(`feature.${f}`) : f);

export const toNumber = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));

export const slug = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/** What people call a limit or a figure; the id of one that was added here and has no name. */
export const nameOf = (id: string, isFigure: boolean) => {
  const code = `${isFigure ? 'figure' : 'limit-name'}.${id}`;
  return has(code) ? t(code) : id;
};
