import type { TraceStep } from '../../api/types';
import { say, t } from '../../texts';
import './packTexts';

/** The steps from what was read or counted to what is printed, each with what it rests on and its source. */
export function TraceSteps({ steps }: { steps: TraceStep[] }) {
  return (
    <ol className="mt-2 max-w-4xl">
      {steps.map((step, i) => (
        <li key={i} className="grid grid-cols-[32px_minmax(0,1fr)] gap-x-3 border-b border-dotted border-hairline py-2.5">
          <span className="font-read font-bold text-ink-2">{i + 1}</span>
          <div>
            <p className={`text-body ${step.kind === 'decision' ? 'font-bold' : ''}`}>{say(step.what)}</p>
            {step.from.length > 0 && (
              <p className="text-label text-ink-2">
                {step.from.map((term, n) => (
                  <span key={n}>
                    {n > 0 && ', '}
                    {term.name && `${t(term.name)} `}
                    {term.value.startsWith('@') ? t(term.value.slice(1)) : term.value}
                    {term.plusMinus && ` ±${term.plusMinus}`}
                    {term.halfFrom && <span className="text-ink-3"> ({say(term.halfFrom)})</span>}
                    {!alike(step) && says(step, term.origin) && <span className="text-ink-3"> ({t(`origin.${term.origin}`)})</span>}
                  </span>
                ))}
                {alike(step) && says(step, step.from[0].origin) && (
                  <span className="text-ink-3"> ({t(`origin.${step.from[0].origin}`)})</span>
                )}
              </p>
            )}
            {step.source && (
              <p className="text-label text-ink-2">
                {step.source} {step.edition && <span className="text-ink-3">({step.edition})</span>}
              </p>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}

const says = (step: TraceStep, origin: string) => step.kind === 'expected' || (step.kind === 'sum' && origin !== 'measured');
/** Where all that a step rests on has one origin, it is said once. */
const alike = (step: TraceStep) => step.from.length > 1 && step.from.every((term) => term.origin === step.from[0].origin);
