import { describe, expect, it } from 'vitest';
import type { ChannelLine } from './channels';
import { begun, nothingOf, typed } from './typedList';

const line = (channel: number, name = '', address = '', serial = '') => ({ ...nothingOf(channel), name, address, serial });

describe('a recorder’s list that is typed', () => {
  it('begins with every channel and nothing in any: what is planned is not what is registered', () => {
    const lines = begun([{ number: 3, name: 'GT-01', plannedName: 'GT-01' }, { number: 4 }] as unknown as ChannelLine[]);
    expect(lines).toEqual([line(3), line(4)]);
    expect(typed(lines)).toEqual([]);
  });

  it('says only what was typed', () => {
    const lines = [line(1, ' GT-01 '), line(2, '  '), line(7, 'Door, "old"', '10.46.8.13', 'TH4121')];
    expect(typed(lines).map((l) => l.channel)).toEqual([1, 7]);
  });
});
