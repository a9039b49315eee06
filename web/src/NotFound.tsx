import { Link } from '@tanstack/react-router';
import { t } from './texts';

/** An address that leads nowhere: what was asked for, and the way on. */
export const NotFound = () => (
  <main className="flex-1 px-6 py-8 max-sm:px-4">
    <h1 className="text-title font-bold">{t('ui.no-page')}</h1>
    <p className="mt-2 break-all font-read text-label text-ink-2">{window.location.pathname}</p>
    <p className="mt-4">
      <Link to="/" className="forward inline-flex items-center">
        {t('nav.walk')}
      </Link>
    </p>
  </main>
);
