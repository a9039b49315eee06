import { useBlocker } from '@tanstack/react-router';
import { Dialog as Radix } from 'radix-ui';
import { useEffect, useRef, useState, type FocusEvent, type ReactNode } from 'react';
import { t } from '../texts';
import { focusHome } from './focus';
import { holdsWords, typedIn } from './typedIn';

/** A sheet of paper over the page. Esc and "Close" leave it, and nothing is saved; where something was typed, that is asked first. */
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
  // What opened it has the keys again when it is gone; opened by a key, the page's own place has.
  const [opener] = useState(() => document.activeElement);
  const fields = useRef(new Map<Element, string>());
  const [leaving, setLeaving] = useState(false);
  const stay = useRef<HTMLButtonElement>(null);
  const touched = (event: FocusEvent) => {
    const value = typedIn(event.target);
    if (value !== undefined && !fields.current.has(event.target)) fields.current.set(event.target, value);
  };
  useEffect(() => {
    // The whole page is about to go.
    const ask = (event: BeforeUnloadEvent) => {
      if (holdsWords(fields.current)) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, []);
  // Back, on a phone, is pressed to be rid of the sheet: what was typed is asked for first, and the page stays.
  useBlocker({
    shouldBlockFn: ({ action }) => {
      if (!['BACK', 'FORWARD', 'GO'].includes(action) || leaving) return false;
      if (holdsWords(fields.current)) setLeaving(true);
      else onClose();
      return true;
    },
    enableBeforeUnload: false,
  });
  useEffect(() => {
    if (leaving) stay.current?.focus();
  }, [leaving]);
  return (
    <Radix.Root
      open
      onOpenChange={(open) => {
        if (open) return;
        if (!leaving && holdsWords(fields.current)) setLeaving(true);
        else if (leaving) setLeaving(false);
        else onClose();
      }}
    >
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-paper-lo/80" />
        <Radix.Content
          className={`fixed inset-x-0 bottom-0 z-50 max-h-[92dvh] overflow-auto border-t-2 border-ink bg-paper p-5 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/2 sm:-translate-x-1/2 sm:-translate-y-1/2 sm:border-2 ${wide ? 'sm:w-[720px]' : 'sm:w-[480px]'}`}
          aria-describedby={hint ? 'sheet-hint' : undefined}
          onFocusCapture={touched}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (opener instanceof HTMLElement && opener.isConnected && opener !== document.body) opener.focus();
            else focusHome();
          }}
        >
          <Radix.Title className="pr-16 text-lead font-bold">{title}</Radix.Title>
          {hint && (
            <p id="sheet-hint" className="mt-1 pr-16 text-label text-ink-2">
              {hint}
            </p>
          )}
          {leaving && (
            <div
              role="alertdialog"
              aria-label={t('dialog.leave-title')}
              className="sticky top-0 z-10 mt-3 border border-noted bg-paper p-3"
            >
              <p className="font-semibold">{t('dialog.leave')}</p>
              <div className="flex flex-wrap gap-x-5">
                <button ref={stay} className="plain" onClick={() => setLeaving(false)}>
                  {t('dialog.stay')}
                </button>
                <button className="min-h-11 text-label font-semibold underline" onClick={onClose}>
                  {t('dialog.drop')}
                </button>
              </div>
            </div>
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
