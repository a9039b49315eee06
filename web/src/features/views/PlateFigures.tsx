import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';
import { SeenList } from '../plates/SeenList';
import { Unlike } from '../plates/ZoneInView';
import '../cards/cardTexts';

/** What a plate is in the view that is tried, and whether the zone that it is read in is in the picture. */
export default function PlateFigures({ view }: { view: components['schemas']['PlateView'] }) {
  return (
    <section className="mt-2 border-t border-hairline pt-1" aria-label={t('check.plates.geometry')}>
      <h2 className="text-label font-bold">{t('check.plates.geometry')}</h2>
      <p className={`text-label ${view.isIn ? '' : 'font-semibold text-refused'}`}>{say(view.zone)}</p>
      <SeenList seen={view.seen} />
      <Unlike view={view} />
    </section>
  );
}
