import { textOf } from '../../outbox/line';
import { Link } from '@tanstack/react-router';
import type { OutboxItem } from '../../outbox/items';
import { store } from '../../outbox/store';
import { discard, send } from '../../outbox/outbox';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';

/** Entries that the record refused: nothing is dropped without a word. */
export function RefusedSheet({ items, onClose }: { items: OutboxItem[]; onClose: () => void }) {
  const again = async (item: OutboxItem) => {
    await (await store()).outbox.update(item.seq, { refused: undefined });
    void send();
  };
  return (
    <Sheet title={t('dialog.refused')} onClose={onClose}>
      {items.map((item) => (
        <div key={item.id} className="border-b border-hairline py-3">
          <p className="font-semibold text-refused">{item.refused!.detail}</p>
          <p className="text-label text-ink-2">{textOf(item) || item.path}</p>
          <div className="mt-2 flex gap-2">
            <Link
              className="plain inline-flex items-center"
              to="/card/$deviceId"
              params={{ deviceId: item.deviceId }}
              search={{ row: item.row }}
              onClick={onClose}
            >
              {t('button.mend')}
            </Link>
            <button className="plain" onClick={() => void again(item)}>
              {t('button.send-again')}
            </button>
            <button className="plain" onClick={() => void discard(item)}>
              {t('button.discard')}
            </button>
          </div>
        </div>
      ))}
    </Sheet>
  );
}
