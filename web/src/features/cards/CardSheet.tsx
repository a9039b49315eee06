import { lazy, Suspense } from 'react';
import { DemoSheet } from '../demo/DemoSheet';
import { FaultEndSheet, RulingSheet } from './RulingSheet';
import { type SheetProps } from './sheetProps';
import { FaultSheet } from './FaultSheet';
import { ActSheet } from './ActSheet';
import { WordsSheet } from './WordsSheet';
import { VerdictSheet } from './VerdictSheet';

const BuiltSheet = lazy(() => import('./BuiltSheet'));

const HowSheet = lazy(() => import('./HowSheet'));

const BlockSheet = lazy(() => import('./BlockSheet'));

export function CardSheet(props: SheetProps) {
  switch (props.name) {
    case 'fault':
      return props.row ? <FaultSheet {...props} row={props.row} /> : null;
    case 'how':
      return props.row ? (
        <Suspense>
          <HowSheet answer={props.answer} row={props.row} onClose={props.onClose} />
        </Suspense>
      ) : null;
    case 'ruling':
      return props.row ? <RulingSheet {...props} row={props.row} /> : null;
    case 'faultEnd':
      return <FaultEndSheet {...props} />;
    case 'act':
      return <ActSheet {...props} />;
    case 'verdict':
      return <VerdictSheet {...props} />;
    case 'built':
      return (
        <Suspense>
          <BuiltSheet answer={props.answer} zone={props.zone} nameOfPerson={props.nameOfPerson} onClose={props.onClose} />
        </Suspense>
      );
    case 'block':
      return (
        <Suspense>
          <BlockSheet answer={props.answer} zone={props.zone} onClose={props.onClose} />
        </Suspense>
      );
    case 'demo':
      return <DemoSheet answer={props.answer} onClose={props.onClose} />;
    default:
      return <WordsSheet {...props} />;
  }
}
