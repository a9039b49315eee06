import { useState } from 'react';
import { t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { NumberField } from '../../ui/NumberField';
import { Trouble } from '../../ui/Trouble';
import { nextName, speedsOf, tidy, type Design } from './driveWords';

/** Who drives, how fast, where, and by which same-plate rule the reader is set. */
export function DriveSheet({
  begin,
  onClose,
  onAgree,
}: {
  begin: Design;
  onClose: () => void;
  onAgree: (design: Design) => Promise<unknown>;
}) {
  const [design, setDesign] = useState<Design>(() =>
    begin.vehicles.length > 0 ? begin : { ...begin, vehicles: [{ name: 'A', plate: '' }] },
  );
  const [speeds, setSpeeds] = useState(begin.speedsKmh.join(', '));
  const [lanes, setLanes] = useState(begin.lanes.join(', '));
  const [trouble, setTrouble] = useState('');
  const change = (some: Partial<Design>) => setDesign({ ...design, ...some });
  const put = (i: number, some: object) => change({ vehicles: design.vehicles.map((v, n) => (n === i ? { ...v, ...some } : v)) });
  const agree = async () => {
    const kmh = speedsOf(speeds);
    if (!kmh) return setTrouble(t('plates.page.speeds-no'));
    const whole = tidy({ ...design, speedsKmh: kmh, lanes: lanes.split(/[;,]/) });
    if (whole.vehicles.length === 0 || whole.vehicles.some((v) => !v.plate.trim())) return setTrouble(t('plates.page.plate-no'));
    if (await onAgree(whole)) onClose();
    else setTrouble(t('ui.not-kept'));
  };
  return (
    <Sheet title={t('plates.page.drive')} hint={t('plates.page.drive-how')} onClose={onClose}>
      <Trouble text={trouble} />
      <fieldset>
        <legend className="text-label font-semibold">{t('plates.page.vehicles')}</legend>
        {design.vehicles.map((v, i) => (
          <div key={i} className="mt-1 grid grid-cols-[5rem_minmax(0,1fr)_auto] gap-2">
            <input
              className="field"
              aria-label={t('plates.page.vehicle-name', i + 1)}
              maxLength={20}
              value={v.name}
              onChange={(e) => put(i, { name: e.target.value })}
            />
            <input
              className="field font-read"
              aria-label={t('plates.page.vehicle-plate', v.name)}
              autoCapitalize="characters"
              autoComplete="off"
              maxLength={24}
              placeholder={t('plates.page.plate')}
              value={v.plate}
              onChange={(e) => put(i, { plate: e.target.value })}
            />
            <button
              className="min-h-11 text-label font-semibold underline disabled:opacity-40"
              disabled={design.vehicles.length === 1}
              onClick={() => change({ vehicles: design.vehicles.filter((_, n) => n !== i) })}
            >
              {t('plates.page.leave-out')}
              <span className="sr-only"> {v.name}</span>
            </button>
          </div>
        ))}
        {design.vehicles.length < 8 && (
          <button
            className="min-h-11 text-label font-semibold underline"
            onClick={() => change({ vehicles: [...design.vehicles, { name: nextName(design), plate: '' }] })}
          >
            {t('plates.page.one-more')}
          </button>
        )}
      </fieldset>
      <div className="mt-2 grid grid-cols-2 gap-x-4">
        <Labelled label={t('plates.page.speeds')}>
          <input className="field font-read" inputMode="text" value={speeds} onChange={(e) => setSpeeds(e.target.value)} />
        </Labelled>
        <Labelled label={t('plates.page.lanes')}>
          <input className="field" value={lanes} placeholder={t('plates.page.lanes-eg')} onChange={(e) => setLanes(e.target.value)} />
        </Labelled>
        <Labelled label={t('drive.field.intervalSeconds')}>
          <NumberField
            className="field font-read"
            value={design.intervalSeconds}
            onChange={(v: number) => change({ intervalSeconds: v })}
          />
        </Labelled>
        <Labelled label={t('plates.page.rule')}>
          <select
            className="field"
            value={design.rule ?? ''}
            onChange={(e) => change({ rule: (e.target.value || null) as Design['rule'] })}
          >
            <option value="">{t('plates.page.rule-unknown')}</option>
            {(['sinceLastRecord', 'sinceLastSeen'] as const).map((rule) => (
              <option key={rule} value={rule}>
                {t(`drive.rule.${rule}`)}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={t('drive.field.turnSeconds')}>
          <NumberField className="field font-read" value={design.turnSeconds} onChange={(v: number) => change({ turnSeconds: v })} />
        </Labelled>
        <Labelled label={t('drive.field.allowedMisses')}>
          <NumberField className="field font-read" value={design.allowedMisses} onChange={(v: number) => change({ allowedMisses: v })} />
        </Labelled>
      </div>
      {(
        [
          ['bothWays', 'plates.page.both-ways'],
          ['isAlone', 'plates.page.alone'],
        ] as const
      ).map(([field, words]) => (
        <label key={field} className="flex min-h-11 items-center gap-3 text-label">
          <input type="checkbox" className="size-5" checked={design[field]} onChange={(e) => change({ [field]: e.target.checked })} />
          {t(words)}
        </label>
      ))}
      <button className="forward mt-3 w-full" onClick={() => void agree()}>
        {t('plates.page.agree')}
      </button>
    </Sheet>
  );
}
