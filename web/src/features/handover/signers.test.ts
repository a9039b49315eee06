import { describe, expect, it } from 'vitest';
import { changed, emptyDraft, nameless, questions, signedBefore, type Signer } from './signers';

const stroke = [[0, 0, 0.5, 0.5, 1, 0.2, 1.5, 0.6]];
const by = (role: Signer['role'], name: string, drawn: boolean): Signer => ({ role, name, position: '', strokes: drawn ? stroke : [] });
const codes = (signers: Signer[], sealed = 0) => questions(signers, sealed).map((q) => q.code);

describe('before a seal', () => {
  it('nothing is asked where both have signed and are named', () => {
    expect(codes([by('technician', 'Ina Solberg', true), by('client', 'Marit Holm', true)])).toEqual([]);
  });

  it('nobody, one party, and a name without a signature are each asked', () => {
    expect(codes(emptyDraft.signers)).toEqual(['nobody']);
    expect(codes([by('technician', 'Ina Solberg', true), by('client', '', false)])).toEqual(['missing']);
    expect(codes([by('technician', 'Ina Solberg', true), by('client', 'Marit Holm', false)])).toEqual(['named-unsigned']);
    expect(codes([by('technician', 'Ina Solberg', true), by('client', 'Marit Holm', true), by('witness', '', false)])).toEqual([]);
  });

  it('a second seal of the same is asked, whoever signs it', () => {
    expect(codes([by('technician', 'Ina Solberg', true), by('client', 'Marit Holm', true)], 3)).toEqual(['sealed-already']);
    expect(codes(emptyDraft.signers, 3)).toEqual(['sealed-already', 'nobody']);
  });

  it('a drawing without a name is found; a name alone signs only where that was chosen', () => {
    expect(nameless([by('technician', 'Ina Solberg', true), by('client', ' ', true)])).toBe(1);
    expect(nameless([by('technician', '', false)])).toBe(-1);
    expect(codes([{ ...by('technician', 'Ina Solberg', false), typed: true }, by('client', 'Marit Holm', true)])).toEqual([]);
  });
});

describe('what a signature was given for', () => {
  it('is fixed by the first and freed by the last that is cleared', () => {
    let draft = changed(emptyDraft, { reservations: 'CC-07' }, 'a');
    expect(draft.shown).toBeUndefined();
    draft = changed(draft, { signers: [by('technician', '', true), draft.signers[1]] }, 'a');
    expect([draft.shown, signedBefore(draft, 'a'), signedBefore(draft, 'b')]).toEqual(['a', false, true]);
    draft = changed(draft, { place: 'Quay' }, 'b');
    expect(draft.shown).toBe('a');
    draft = changed(draft, { signers: emptyDraft.signers }, 'b');
    expect([draft.shown, draft.reservations, draft.place]).toEqual([undefined, 'CC-07', 'Quay']);
  });
});
