import type { components } from '../../api/generated/schema';

export type RecorderPage = components['schemas']['RecorderPage'];
export type ChannelLine = components['schemas']['ChannelLine'];
export type ProofLine = components['schemas']['ProofLine'];

/** What a clip is drawn as: a bar, a broken one, a dashed one, a mark that waits, or nothing. */
export type Drawn = { kind: 'found' | 'refused' | 'neither' | 'waits' | 'nothing'; seconds: number };

/** Nothing is proven by default: what nobody looked for is drawn as nothing. */
export function drawn(proof: ProofLine | undefined, waits: boolean): Drawn {
  if (waits) return { kind: 'waits', seconds: 0 };
  if (!proof) return { kind: 'nothing', seconds: 0 };
  return {
    kind: proof.proves === null ? 'neither' : proof.proves && proof.earlier !== false ? 'found' : 'refused',
    seconds: proof.seconds,
  };
}

/** The channels of the chosen one's area: what happens there may be seen by all of them. */
export const sameArea = (lines: readonly ChannelLine[], line: ChannelLine) =>
  lines.filter((l) => l.area === line.area && l.area !== '' && l.deviceId !== null).map((l) => l.number);

/** The most urgent first: what is wrong, then what nobody has proven. */
export const first = (lines: readonly ChannelLine[]) =>
  lines.find((l) => l.needsHand) ?? lines.find((l) => l.deviceId !== null && l.before.length === 0) ?? lines[0];
