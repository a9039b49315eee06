import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { t } from '../texts';

/** A sheet of paper over the page. Esc leaves it, and nothing is saved. */
export function Sheet({
  title,
  hint,
  onClose,
  children,
  wide,
}: {
  title: string;
  hint?: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Radix.Root open onOpenChange={(open) => !open && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-paper-lo/80" />
        <Radix.Content
          className={`fixed inset-x-0 bottom-0 z-50 max-h-[92dvh] overflow-auto border-t-2 border-ink bg-paper p-5 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/2 sm:-translate-x-1/2 sm:-translate-y-1/2 sm:border-2 ${wide ? 'sm:w-[720px]' : 'sm:w-[480px]'}`}
          aria-describedby={hint ? 'sheet-hint' : undefined}
        >
          <Radix.Title className="pr-16 text-lead font-bold">{title}</Radix.Title>
          {hint && (
            <p id="sheet-hint" className="mt-1 pr-16 text-label text-ink-2">
              {hint}
            </p>
          )}
          <div className="mt-4">{children}</div>
          <Radix.Close className="absolute right-4 top-4 min-h-11 px-2 text-label font-semibold text-ink-2 underline">
            {t('dialog.close')}
          </Radix.Close>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="mb-3 block">
      <span className="mb-1 block text-label font-semibold text-ink-2">{label}</span>
      {children}
    </label>
  );
}
