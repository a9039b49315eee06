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

/** The last event of a channel belongs after the restart, or before it where there was none. */
export const waitsAfter = (line: ChannelLine, restartAt: string | null) =>
  line.pendingAt !== null && restartAt !== null && line.pendingAt > restartAt;

/** How many are proven, refused, and without an event that tells either. */
export function tally(lines: readonly ChannelLine[]) {
  const planned = lines.filter((l) => l.deviceId !== null);
  const of = (proves: (l: ChannelLine) => boolean | null | undefined, want: boolean) => planned.filter((l) => proves(l) === want).length;
  const before = (l: ChannelLine) => l.before[0]?.proves;
  const after = (l: ChannelLine) => l.isProvenAfter;
  return {
    planned: planned.length,
    proven: of(before, true),
    refused: of(before, false),
    open: planned.filter((l) => before(l) === undefined || before(l) === null).length,
    provenAfter: of(after, true),
    refusedAfter: of(after, false),
  };
}

/** The channels of the chosen one's area: what happens there may be seen by all of them. */
export const sameArea = (lines: readonly ChannelLine[], line: ChannelLine) =>
  lines.filter((l) => l.area === line.area && l.area !== '' && l.deviceId !== null).map((l) => l.number);

/** The most urgent first: what is wrong, then what nobody has proven. */
export const first = (lines: readonly ChannelLine[]) =>
  lines.find((l) => l.needsHand) ?? lines.find((l) => l.deviceId !== null && l.before.length === 0) ?? lines[0];
