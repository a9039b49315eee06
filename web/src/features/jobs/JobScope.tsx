import type { JobLine } from '../../api/types';
import '../cards/cardTexts';
import { named } from '../cards/cover';
import { t } from '../../texts';

/** What a job covers, beside its name on every page; nothing where it covers all of the work. Fetched after what is drawn. */
export function JobScope({ job }: { job: JobLine }) {
  const words = scopeOf(job);
  return words ? (
    <span className="block truncate text-tick text-ink-2" title={words}>
      {words}
    </span>
  ) : null;
}

export const scopeOf = ({ covers = [], kindsApart = 0 }: Pick<JobLine, 'covers' | 'kindsApart'>) =>
  [covers.length > 0 && t('scope.covers', named(covers)), kindsApart > 0 && t('scope.kinds-apart', kindsApart)].filter(Boolean).join(', ');
