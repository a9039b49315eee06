import { Link } from '@tanstack/react-router';
import { useCard } from '../../api/queries';
import { t } from '../../texts';
import { nameOf } from '../../ui/format';
import { StateMark } from '../../ui/Marks';
import { valueOf } from '../cards/ways';
import { besideNight } from './nightWords';
import '../cards/cardTexts';

/** Volts and watts with the infrared on, as the Card has them: a lamp that is short of them lights less than it could. */
export default function BesideNight({ deviceId }: { deviceId: string }) {
  const rows = besideNight(useCard(deviceId).data?.card.rows ?? []);
  if (rows.length === 0) return null;
  return (
    <section className="mt-3 border-t border-hairline pt-1" aria-label={t('night.beside')}>
      <h2 className="text-label font-semibold">{t('night.beside')}</h2>
      {rows.map((row) => {
        const counts = row.attempts.find((a) => a.readingId === row.counts);
        const value = counts && valueOf(row, counts.value, counts.map);
        return (
          <Link
            key={row.id}
            to="/card/$deviceId"
            params={{ deviceId }}
            search={{ row: row.id }}
            className="flex min-h-11 items-center gap-2 border-b border-dotted border-hairline text-label"
          >
            <StateMark state={row.state} />
            <span className="min-w-0 flex-1 underline underline-offset-4">{nameOf(row)}</span>
            <b className="font-read">{value ? `${value.big} ${value.unit}` : t('night.beside-none')}</b>
          </Link>
        );
      })}
    </section>
  );
}
