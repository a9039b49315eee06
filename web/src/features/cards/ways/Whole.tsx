/** Digits only. */
export function Whole({
  label,
  value,
  onChange,
  focus,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  focus?: boolean;
}) {
  return (
    <label className="block min-w-0 flex-1">
      <span className="block text-label text-ink-2">{label}</span>
      <input
        autoFocus={focus}
        inputMode="numeric"
        autoComplete="off"
        maxLength={19}
        className="field font-read min-w-0 text-lead"
        value={value}
        onChange={(e) => onChange(e.target.value.replace(/[^\d]/g, ''))}
      />
    </label>
  );
}

/** The number of what was typed; null where it is none. */
export const wholeOf = (text: string | undefined) => (text && /^\d{1,19}$/.test(text.trim()) ? Number(text.trim()) : null);
