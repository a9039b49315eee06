import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';

export type Board = components['schemas']['IdentityBoard'];
export type Channel = Board['channels'][number];
export type Finding = Channel['view']['finding'];

/** In the order in which they are said. */
export const findings: Finding[] = ['same', 'swapped', 'twice', 'upsideDown', 'mirrored', 'stranger', 'cannotTell'];

export const isWrong = (f: Finding) => f !== 'same' && f !== 'cannotTell';

/** How many of each; what there is none of is left out. */
export const counts = (channels: Channel[]): [Finding, number][] =>
  findings.map((f): [Finding, number] => [f, channels.filter((c) => c.view.finding === f).length]).filter(([, n]) => n > 0);

/** What pictures tell a Card for sure: that its channel shows its view, or certainly another. */
export const tells = (channels: Channel[]) =>
  channels.filter((c) => c.view.planned && c.view.showsPlanned !== null).map((c) => c.view.number);

/** The first that needs somebody, else the first. */
export const firstOf = (channels: Channel[]) =>
  channels.find((c) => isWrong(c.view.finding)) ?? channels.find((c) => c.view.finding === 'cannotTell') ?? channels[0];

/** Exchanges that have to do with a channel, and those that they hang on. */
export function ringOf(board: Board, number: number): Board['exchanges'] {
  const ring = new Set([number]);
  for (let grown = true; grown;) {
    grown = false;
    for (const e of board.exchanges)
      if (ring.has(e.a) !== ring.has(e.b)) {
        ring.add(e.a).add(e.b);
        grown = true;
      }
  }
  return board.exchanges.filter((e) => ring.has(e.a));
}

/** What is said of a channel in one line. */
export function verdictOf(c: Channel): string {
  const { finding, shows, sure, why } = c.view;
  const said =
    finding === 'swapped' || finding === 'twice'
      ? t('identity.shows', shows ? nameOf(shows) : '')
      : finding === 'upsideDown' || finding === 'mirrored'
        ? t('identity.own')
        : finding === 'stranger'
          ? t('identity.no-match')
          : '';
  return [said, why && finding === 'cannotTell' ? say(why) : '', sure === 'none' ? '' : t(`identity.sure.${sure}`)]
    .filter(Boolean)
    .join(', ');
}

/** A place with its head, as a list calls it. */
export const nameOf = (p: { label: string; head: number; heads: number }) => (p.heads > 1 ? `${p.label} ${p.head}` : p.label);

export const pictureOf = (jobId: string, recorderId: string, board: Board, channel: number) =>
  `/api/jobs/${jobId}/recorders/${recorderId}/views/picture.jpg?look=${board.number}&channel=${channel}`;
