import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';

/** What each recorder has in its own list: asked for where it answers, else from a file that somebody exported there. */
export function ListSheet({
  recorders,
  canRead,
  onRead,
  onFile,
  onClose,
}: {
  recorders: string[];
  canRead: boolean;
  onRead: (recorder: string) => void;
  onFile: (recorder: string, file: File) => void;
  onClose: () => void;
}) {
  return (
    <Sheet title={t('address.lists')} hint={t('address.lists.hint')} onClose={onClose}>
      <ul className="mt-2">
        {recorders.map((r) => (
          <li key={r} className="flex flex-wrap items-center gap-x-5 border-b border-dotted border-hairline">
            <span className="font-read min-w-16 font-bold">{r}</span>
            {canRead && (
              <button className="min-h-11 font-semibold underline" onClick={() => onRead(r)}>
                {t('address.lists.read', r)}
              </button>
            )}
            <label className="inline-flex min-h-11 cursor-pointer items-center font-semibold underline">
              {t('address.lists.file', r)}
              <input
                type="file"
                className="sr-only"
                accept=".csv,.txt,.tsv,.xlsx"
                onChange={(e) => {
                  const file = e.target.files?.[0];
                  e.target.value = '';
                  if (file) onFile(r, file);
                }}
              />
            </label>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
