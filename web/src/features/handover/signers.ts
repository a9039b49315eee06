import type { Strokes } from '../../ui/SignaturePad';

export type Role = 'technician' | 'client' | 'witness';
export type Signer = { role: Role; name: string; position: string; strokes: Strokes; typed?: boolean };

/** What was filled in towards a seal, and the state of the job that stood on the screen while it was. */
export interface SigningDraft {
  signers: Signer[];
  of: string;
  place: string;
  reservations: string;
  languages: string[];
  /** Fingerprint of what was shown when the first signature was given; none where nobody has signed. */
  shown?: string;
  /** Id of the revision that was asked for: asked again, it is the same one. */
  sealing?: string;
}

export const emptyDraft: SigningDraft = {
  signers: [
    { role: 'technician', name: '', position: '', strokes: [] },
    { role: 'client', name: '', position: '', strokes: [] },
  ],
  of: '',
  place: '',
  reservations: '',
  languages: ['en'],
};

export const hasSigned = (s: Signer) => (s.typed ? s.name.trim() !== '' : s.strokes.length > 0);

/** The draft after a change: the first signature fixes what it was given for, the last one that is cleared frees it. */
export function changed(draft: SigningDraft, next: Partial<SigningDraft>, shown: string): SigningDraft {
  const after = { ...draft, ...next };
  return { ...after, shown: after.signers.some(hasSigned) ? (draft.shown ?? shown) : undefined };
}

/** Something came to the record, or the cover was changed, after the first of them signed. */
export const signedBefore = (draft: SigningDraft, shown: string) => draft.shown !== undefined && draft.shown !== shown;

/** The first whose signature stands without a name; nothing is asked before that is mended. */
export const nameless = (signers: Signer[]) => signers.findIndex((s) => !s.typed && s.strokes.length > 0 && s.name.trim() === '');

/** A typed text is no code, whatever sign it begins with. */
const literal = (text: string) => (text.startsWith('@') ? `@${text}` : text);

export type Question = { code: 'nobody' | 'missing' | 'named-unsigned' | 'sealed-already'; words: string[] };

/**
 * What has to be answered before a seal that cannot be taken back.
 * @param sealed number of the revision that holds exactly what would be sealed; 0 where none does
 */
export function questions(signers: Signer[], sealed: number): Question[] {
  const asked: Question[] = [];
  if (sealed > 0) asked.push({ code: 'sealed-already', words: [String(sealed)] });
  if (!signers.some(hasSigned)) return [...asked, { code: 'nobody', words: [] }];
  for (const s of signers.filter((s) => !hasSigned(s)))
    if (s.name.trim() !== '') asked.push({ code: 'named-unsigned', words: [literal(s.name.trim()), `@pack.sign.${s.role}`] });
    else if (s.role !== 'witness') asked.push({ code: 'missing', words: [`@pack.sign.${s.role}`] });
  return asked;
}
