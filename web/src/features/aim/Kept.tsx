import type { components } from '../../api/generated/schema';
import type { ReadingValue } from '../../api/types';
import { say, t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { StateMark } from '../../ui/Marks';

/** A value as a picture gives it. */
export function valueWords(check: string, value: ReadingValue): string {
  if (value.kind === 'number' && value.unit === 'percent') return `${value.value.toFixed(2)} %`;
  if (value.kind === 'number') return value.unit === 'degree' ? `${value.value.toFixed(1)}\u00b0` : `${Math.round(value.value)} px/m`;
  if (value.kind === 'yesNo') return t(value.yes ? 'aim.yes' : 'aim.no');
  return value.kind === 'choice' ? t(`choice.${check}.${value.choice}`) : '';
}

/** What became of a picture that was kept: which rows it answered, and which not, and why. */
export function Kept({
  kept,
  none = t('aim.kept-none'),
  onClose,
}: {
  kept: components['schemas']['AimKept'];
  none?: string;
  onClose: () => void;
}) {
  return (
    <Sheet title={t('aim.keep')} hint={kept.rows.length > 0 ? t('aim.kept-picture') : none} onClose={onClose}>
      <ul className="mt-2">
        {kept.rows.map((r) => (
          <li key={r.row} className="flex min-h-11 flex-wrap items-center gap-x-3 border-b border-dotted border-hairline py-1">
            {!r.held && r.state && <StateMark state={r.state} />}
            <b>{t(`check.${r.check}`)}</b>
            <span className="font-read font-bold">{valueWords(r.check, r.value)}</span>
            <span className="text-label text-ink-2">
              {r.held ? `${t('aim.not-entered')} ${say(r.held)}` : r.state ? t(`state.${r.state}`) : t('aim.not-entered')}
            </span>
          </li>
        ))}
      </ul>
      <button className="forward mt-4 w-full" onClick={onClose}>
        {t('aim.next')}
      </button>
    </Sheet>
  );
}
