/** A key as it is compared with a voice on the telephone: all of it, in groups of four. */
export const Fingerprint = ({ of }: { of: string }) => (
  <p className="font-read select-all text-label" title={of}>
    {of.replace(/(.{4})(?=.)/g, '$1 ')}
  </p>
);
