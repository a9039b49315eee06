import { t } from '../../texts';
import { moment } from '../../ui/format';

export function Editions({ list, zone }: { list: { version: number; why: string; by: string; at: string }[]; zone: string }) {
  if (list.length === 0) return null;
  return (
    <>
      <h3 className="mt-5 text-label font-bold text-ink-2">{t('practice.editions')}</h3>
      <ol>
        {list.slice(0, 8).map((e) => (
          <li key={e.version} className="border-b border-hairline py-1 text-label">
            <span className="font-read font-bold">{e.version}</span> {e.why}.{' '}
            <span className="text-ink-2">{`${e.by}, ${moment(e.at, zone)}`}</span>
          </li>
        ))}
      </ol>
    </>
  );
}
