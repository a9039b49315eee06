import { Radios } from '../../../ui/Radios';
import type { CardRow } from '../../../api/types';
import { has, t } from '../../../texts';
import { choiceText, unitOf } from '../../../ui/format';
import type { Draft } from '../drafts';
import type { Entry } from '../entry';

/** Yes, no and the choices as big rows: the same for mouse, keys and thumb. */
export function Choices({
  row,
  entry,
  big,
  onEnter,
}: {
  row: CardRow;
  entry: Entry;
  big?: boolean;
  onEnter?: (draft: Draft, next: boolean) => void;
}) {
  const items: [string, string, Draft, boolean][] =
    row.check.entry === 'yesNo'
      ? [
          ['yes', t('ui.yes'), { yes: true }, entry.draft.yes === true],
          ['no', t('ui.no'), { yes: false }, entry.draft.yes === false],
        ]
      : row.check.choices.map((c) => [
          c,
          `${choiceText(row, c)} ${c === 'none' ? '' : unitOf(row)}`.trim(),
          { choice: c },
          entry.draft.choice === c,
        ]);
  return (
    <Radios
      letters={row.check.entry === 'yesNo' ? ['y', 'n'] : undefined}
      label={t(`check.${row.check.id}.ask`)}
      className={big ? 'flex flex-1 flex-col outline-none' : 'flex flex-wrap gap-2'}
    >
      {items.map(([id, word, draft, on]) => (
        <button
          key={id}
          type="button"
          role="radio"
          aria-checked={on}
          onClick={() => entry.change(draft)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && onEnter) {
              e.preventDefault();
              e.stopPropagation();
              // The press that opened the row, held too long, says nothing.
              if (e.repeat) return;
              onEnter(draft, !e.shiftKey);
            }
          }}
          className={
            big
              ? `min-h-glove flex-1 border-b border-hairline px-5 text-title font-bold ${on ? 'bg-ink text-paper' : ''}`
              : `plain ${on ? '!border-2 !border-ink font-bold' : ''}`
          }
        >
          {!big && row.check.entry === 'yesNo' && (
            <span className="key mr-2" aria-hidden>
              {id === 'yes' ? 'Y' : 'N'}
            </span>
          )}
          {word}
          {big && row.check.entry === 'yesNo' && has(`check.${row.check.id}.${id}`) && (
            <span className="block text-table font-normal">{t(`check.${row.check.id}.${id}`)}</span>
          )}
        </button>
      ))}
    </Radios>
  );
}
