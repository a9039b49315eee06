import { useMutation } from '@tanstack/react-query';
import { api } from '../api/client';
import type { WorkAnswer } from '../api/types';
import { t } from '../texts';

/** How far long work is, in words and as a line that fills; it can be cancelled while nothing is kept. */
export function Progress({ work, what, canCancel = true }: { work?: WorkAnswer; what: string; canCancel?: boolean }) {
  const cancel = useMutation({ mutationFn: (id: string) => api.POST('/api/progress/{id}/cancel', { params: { path: { id } } }) });
  const share = work && work.of > 0 ? work.done / work.of : 0;
  return (
    <div role="status" className="my-4 max-w-xl">
      <p className="text-body">
        {what} {work && work.of > 0 && <span className="font-read text-ink-2">{t('ui.n-of-m', work.done, work.of)}</span>}
      </p>
      <svg viewBox="0 0 100 4" preserveAspectRatio="none" className="mt-1 h-1.5 w-full" aria-hidden>
        <path d="M0 2h100" stroke="var(--color-rule)" strokeDasharray="2 1.6" strokeWidth="1.4" />
        <path d={`M0 2h${share * 100}`} stroke="var(--color-ink)" strokeWidth="4" />
      </svg>
      {canCancel && work && (
        <button className="mt-2 min-h-11 font-semibold underline" onClick={() => cancel.mutate(work.id)}>
          {t('ui.stop')}
        </button>
      )}
    </div>
  );
}
