import type { WrittenChannel } from '../../api/types';
import type { ChannelLine } from './channels';

/** A channel as its recorder's page shows it; what was not typed is not said. */
export const nothingOf = (channel: number): WrittenChannel => ({ channel, name: '', address: '', serial: '', hardwareAddress: '' });

/** A line for each channel that is planned or was told, and nothing in any: what is planned is not what is registered. */
export const begun = (channels: readonly ChannelLine[]): WrittenChannel[] => channels.map(({ number }) => nothingOf(number));

/** Lines in which something was typed. */
export const typed = (lines: readonly WrittenChannel[]) =>
  lines.filter((l) => [l.name, l.address, l.serial].some((text) => text.trim() !== ''));
