import { t } from '../../texts';

/** Opens how the numbers of a source came about. */
export function WhyButton({ of, open, onClick }: { of: string; open: boolean; onClick: () => void }) {
  return (
    <button className="min-h-11 text-label font-semibold underline" aria-expanded={open} aria-label={t('sum.open', of)} onClick={onClick}>
      {t(open ? 'sum.fold' : 'sum.show')}
    </button>
  );
}
