import type { components } from '../../api/generated/schema';
import { t } from '../../texts';

export type Edition = components['schemas']['DetailEdition'];

/** Whose levels of detail are meant. */
export const EditionField = ({
  edition,
  onEdition,
  className = '',
}: {
  edition: Edition;
  onEdition: (edition: Edition) => void;
  className?: string;
}) => (
  <select
    className={`field !min-h-9 !w-auto !py-0.5 text-label ${className}`}
    aria-label={t('views.edition')}
    value={edition}
    onChange={(e) => onEdition(e.target.value as Edition)}
  >
    {(['edition2014', 'edition2025'] as const).map((e) => (
      <option key={e} value={e}>
        {t(`edition.${e}`)}
      </option>
    ))}
  </select>
);
