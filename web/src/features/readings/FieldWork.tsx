import { useQueryClient } from '@tanstack/react-query';
import { Progress } from '../../ui/Progress';
import { Trouble } from '../../ui/Trouble';
import { Proposal } from './Proposal';
import type { useFieldWork } from './useFieldWork';

/** What became of work in the field: its trouble, how far it is, what it said, and what it proposes for Cards. */
export function FieldWork({
  of,
  jobId,
  children,
}: {
  of: ReturnType<typeof useFieldWork>;
  jobId: string;
  /** Beside the progress while it runs. */
  children?: React.ReactNode;
}) {
  const client = useQueryClient();
  return (
    <>
      <Trouble text={of.trouble} className="mt-2" />
      {of.running && <Progress work={of.work} what={of.doing} />}
      {of.running && children}
      {of.words.map((w) => (
        <p key={w} role="status" className="mt-1 font-semibold">
          {w}
        </p>
      ))}
      {of.draft && (
        <Proposal
          key={of.draft.id}
          jobId={jobId}
          draft={of.draft}
          onChange={of.setDraft}
          onTaken={async (next) => {
            of.setDraft(next);
            await Promise.all([client.invalidateQueries({ queryKey: ['card'] }), client.invalidateQueries({ queryKey: ['walk'] })]);
          }}
        />
      )}
    </>
  );
}
