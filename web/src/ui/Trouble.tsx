/** What went wrong, in words; nothing where nothing did. */
export const Trouble = ({ text, className = 'mb-3' }: { text: string | null | undefined; className?: string }) =>
  text ? (
    <p role="alert" className={`${className} font-semibold text-refused`}>
      {text}
    </p>
  ) : null;
