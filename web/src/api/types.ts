import type { components } from './generated/schema';

type Schemas = components['schemas'];
export type CardAnswer = Schemas['CardAnswer'];
export type Card = Schemas['Card'];
export type CardRow = Schemas['CardRow'];
export type Attempt = Schemas['Attempt'];
export type ReadingValue = Schemas['ReadingValue'];
export type WireMapAnalysis = Schemas['WireMapAnalysis'];
export type LegSummary = Schemas['LegSummary'];
export type State = Schemas['State'];
export type Verdict = Schemas['Verdict'];
export type Message = Schemas['Message'];
export type Accuracy = Schemas['Accuracy'];
export type Spare = Schemas['Spare'];
export type WalkAnswer = Schemas['WalkAnswer'];
export type WalkStop = Schemas['WalkStop'];
export type KitAnswer = Schemas['KitAnswer'];
export type KitInstrument = Schemas['KitInstrument'];
export type PreviewAnswer = Schemas['PreviewAnswer'];
export type TesterAnswer = Schemas['TesterAnswer'];
export type CatalogueAnswer = Schemas['CatalogueAnswer'];
export type FaultOnCard = Schemas['FaultOnCard'];
export type Severity = Schemas['Severity'];
export type ActDefinition = Schemas['ActDefinition'];

export interface Problem {
  title: string;
  detail: string;
  status: number;
  code?: string;
  field?: string;
}
