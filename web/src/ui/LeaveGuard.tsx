import { useBlocker } from '@tanstack/react-router';
import { Dialog as Radix } from 'radix-ui';
import { t } from '../texts';

/**
 * Asks before a page with unsaved work is left: by a link, by Back, or with the whole window. What is kept on this device as a draft
 * needs none.
 * @param when whether anything would be lost
 */
export function LeaveGuard({ when }: { when: boolean }) {
  const leaving = useBlocker({ shouldBlockFn: () => when, enableBeforeUnload: () => when, withResolver: true });
  if (leaving.status !== 'blocked') return null;
  return (
    <Radix.Root open onOpenChange={(open) => !open && leaving.reset()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-paper-lo/80" />
        <Radix.Content
          role="alertdialog"
          className="fixed inset-x-0 bottom-0 z-50 border-t-2 border-ink bg-paper p-5 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/3 sm:w-[420px] sm:-translate-x-1/2 sm:border-2"
        >
          <Radix.Title className="text-lead font-bold">{t('dialog.leave-title')}</Radix.Title>
          <Radix.Description className="mt-1 text-ink-2">{t('dialog.leave')}</Radix.Description>
          <div className="mt-4 flex flex-wrap gap-x-5">
            <button className="forward" onClick={() => leaving.reset()}>
              {t('dialog.stay')}
            </button>
            <button className="min-h-11 font-semibold underline" onClick={() => leaving.proceed()}>
              {t('dialog.drop')}
            </button>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
