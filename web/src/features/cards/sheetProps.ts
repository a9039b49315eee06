import type { CardAnswer, CardRow, CatalogueAnswer } from '../../api/types';

export type SheetName =
  | 'fault'
  | 'how'
  | 'na'
  | 'note'
  | 'skip'
  | 'act'
  | 'withdraw'
  | 'concede'
  | 'verdict'
  | 'demo'
  | 'built'
  | 'block'
  | 'ruling'
  | 'faultEnd';

export interface SheetProps {
  answer: CardAnswer;
  row: CardRow | undefined;
  catalogue: CatalogueAnswer | undefined;
  name: SheetName;
  /** The Fault it is about, where it is about one. */
  faultId?: string;
  zone: string;
  nameOfPerson: (id: string) => string;
  onClose: () => void;
  /** What was said is kept. */
  onKept?: () => void;
}
