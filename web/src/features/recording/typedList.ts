import type { ChannelLine } from './channels';

/** A channel as its recorder's page shows it; what was not typed is not said. */
export interface TypedLine {
  channel: number;
  name: string;
  address: string;
  serial: string;
}

/** A line for each channel that is planned or was told, and nothing in any: what is planned is not what is registered. */
export const begun = (channels: readonly ChannelLine[]): TypedLine[] =>
  channels.map(({ number }) => ({ channel: number, name: '', address: '', serial: '' }));

/** Lines in which something was typed. */
export const typed = (lines: readonly TypedLine[]) => lines.filter((l) => [l.name, l.address, l.serial].some((text) => text.trim() !== ''));
