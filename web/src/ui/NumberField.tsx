import { useEffect, useState } from 'react';

const number = (text: string) => Number(text.trim().replace(',', '.'));

/** A number as it is typed: it is taken once it is one, and what was typed stays as it stands. */
export function NumberField({
  value,
  onChange,
  className,
  label,
  optional,
}: {
  value: number | null | undefined;
  onChange: (value: never) => void;
  className: string;
  label?: string;
  optional?: boolean;
}) {
  const shown = value === null || value === undefined ? '' : String(value);
  const [text, setText] = useState(shown);
  useEffect(() => {
    setText((typed) => (typed.trim() !== '' && number(typed) === value ? typed : typed.trim() === '' && shown === '' ? typed : shown));
  }, [shown, value]);
  const bad = text.trim() === '' ? !optional : Number.isNaN(number(text));
  return (
    <input
      aria-label={label}
      aria-invalid={bad || undefined}
      inputMode="decimal"
      autoComplete="off"
      className={`${className} min-w-0 ${bad ? '!border-refused' : ''}`}
      value={text}
      onChange={(e) => {
        setText(e.target.value);
        if (e.target.value.trim() === '') {
          if (optional) onChange(null as never);
        } else if (!Number.isNaN(number(e.target.value))) onChange(number(e.target.value) as never);
      }}
      onKeyDown={(e) => {
        // Up and Down try the next figure.
        const by = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
        if (!by || Number.isNaN(number(text))) return;
        e.preventDefault();
        const next = Math.round((number(text) + by * (e.shiftKey ? 10 : 1)) * 1000) / 1000;
        setText(String(next));
        onChange(next as never);
      }}
    />
  );
}
