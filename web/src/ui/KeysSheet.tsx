import { setIdentity, useIdentity } from '../session/identity';
import { t } from '../texts';
import '../features/access/accessTexts';
import { Sheet } from './Dialog';

const keys: [string, string][] = [
  ['Up Down', 'key.check'],
  ['[ ]  Page', 'key.stop'],
  ['Enter', 'button.save-next'],
  ['Shift+Enter', 'key.save-stay'],
  ['Esc', 'key.leave'],
  ['R', 'key.retest'],
  ['T', 'key.read'],
  ['F', 'key.fault'],
  ['N', 'key.note'],
  ['X', 'key.na'],
  ['A', 'key.work'],
  ['U', 'key.withdraw'],
  ['K', 'key.concede'],
  ['B', 'key.built'],
  ['S', 'key.aside'],
  ['V', 'key.verdict'],
  ['G', 'key.section'],
  ['/', 'key.find'],
  ['D', 'key.night'],
  ['?', 'key.all'],
];

/** What this house calls things, where the trade has no one word. */
const words = ['walk', 'stop', 'card', 'check', 'verdict', 'run', 'due', 'stale', 'spare', 'concede', 'hold', 'act'];

export function KeysSheet({ onClose }: { onClose: () => void }) {
  const off = useIdentity().lettersOff ?? false;
  return (
    <Sheet title={t('dialog.keys')} onClose={onClose} wide>
      <label className="mb-3 flex min-h-11 items-center gap-3">
        <input type="checkbox" className="h-5 w-5" checked={off} onChange={(e) => setIdentity({ lettersOff: e.target.checked })} />
        <span>
          <b>{t('keys.off')}</b> <span className="text-ink-2">{t('keys.off-hint')}</span>
        </span>
      </label>
      <dl className="grid grid-cols-1 gap-x-10 sm:grid-cols-2">
        {keys.map(([key, what]) => (
          <div
            key={key}
            className={`flex items-center justify-between border-b border-hairline py-2 ${off && key.length === 1 ? 'text-ink-3 line-through' : ''}`}
          >
            <dt>
              <span className="key">{key}</span>
            </dt>
            <dd>{t(what)}</dd>
          </div>
        ))}
      </dl>
      <h3 className="mt-6 border-t border-ink pt-2 text-body font-bold">{t('words.title')}</h3>
      <dl className="grid grid-cols-1 gap-x-10 sm:grid-cols-2">
        {words.map((word) => {
          const [name, meaning] = t(`words.${word}`).split('\t');
          return (
            <div key={word} className="border-b border-hairline py-2 text-label">
              <dt className="font-bold">{name}</dt>
              <dd className="text-ink-2">{meaning}</dd>
            </div>
          );
        })}
      </dl>
    </Sheet>
  );
}
