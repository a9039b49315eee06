import { t } from '../texts';
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

export const KeysSheet = ({ onClose }: { onClose: () => void }) => (
  <Sheet title={t('dialog.keys')} onClose={onClose} wide>
    <dl className="grid grid-cols-1 gap-x-10 sm:grid-cols-2">
      {keys.map(([key, what]) => (
        <div key={key} className="flex items-center justify-between border-b border-hairline py-2">
          <dt>
            <span className="key">{key}</span>
          </dt>
          <dd>{t(what)}</dd>
        </div>
      ))}
    </dl>
  </Sheet>
);
