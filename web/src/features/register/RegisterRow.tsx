import { memo } from 'react';
import type { RegisterAnswer, RegisterLine } from '../../api/types';
import { t } from '../../texts';

export interface Handlers {
  press: (row: number, column: number, text: string) => void;
  type: (text: string) => void;
  key: (e: React.KeyboardEvent) => void;
  leave: () => void;
}

export const Row = memo(function Row({
  row,
  index,
  top,
  columns,
  register,
  here,
  typing,
  edits,
  troubles,
  handlers,
  template,
  width,
}: {
  row: RegisterLine;
  index: number;
  top: number;
  columns: { id: string; index: number }[];
  register: RegisterAnswer;
  here: number;
  typing?: string;
  edits?: Record<string, string>;
  troubles?: Record<string, string>;
  handlers: React.RefObject<Handlers>;
  template: string;
  width: number;
}) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={`register-row ${row.cancelled ? 'text-ink-3 line-through' : ''}`}
      style={{ transform: `translateY(${top}px)`, gridTemplateColumns: template, width }}
    >
      {columns.map((c, i) => {
        const text = edits?.[c.id] ?? row.cells[c.index] ?? '';
        const isHere = here === i;
        const isTyping = isHere && typing !== undefined;
        const differs = c.id in row.planned && edits?.[c.id] === undefined;
        return (
          <div
            key={c.id}
            role="gridcell"
            id={isHere ? 'register-here' : undefined}
            aria-selected={isHere}
            className={`register-cell ${i === 0 ? 'register-first' : ''} ${isHere ? 'register-at' : ''} ${edits?.[c.id] !== undefined ? 'bg-paper-hi font-bold' : ''} ${troubles?.[c.id] ? 'text-refused' : ''}`}
            title={isHere ? text : undefined}
            onClick={() => !isTyping && handlers.current.press(index, i, text)}
          >
            {isTyping ? (
              <CellInput
                value={typing}
                label={`${row.cells[0]}, ${t(`field.${c.id}`)}`}
                words={c.id === 'kind' ? register.kinds : register.columns[c.index].words}
                onChange={handlers.current.type}
                onKey={handlers.current.key}
                onBlur={handlers.current.leave}
              />
            ) : (
              <>
                {differs && <span aria-label={`${t('register.planned', row.planned[c.id] || t('register.nothing'))}, `}>*</span>}
                {c.id === 'kind' && text ? t(`kind.${text}`) : text}
              </>
            )}
          </div>
        );
      })}
    </div>
  );
});

function CellInput(props: {
  value: string;
  label: string;
  words: string[];
  onChange: (v: string) => void;
  onKey: (e: React.KeyboardEvent) => void;
  onBlur: () => void;
}) {
  return (
    <>
      <input
        autoFocus
        aria-label={props.label}
        list={props.words.length ? 'register-words' : undefined}
        className="h-[30px] w-full bg-paper-hi px-1 font-bold outline-none"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        onKeyDown={props.onKey}
        onBlur={props.onBlur}
      />
      {props.words.length > 0 && (
        <datalist id="register-words">
          {props.words.map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
      )}
    </>
  );
}
