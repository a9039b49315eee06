import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { answered, api } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { troubleOf } from '../../api/send';
import { say, t } from '../../texts';
import { day } from '../../ui/format';
import { StateMark } from '../../ui/Marks';
import { NumberField } from '../../ui/NumberField';
import { Trouble } from '../../ui/Trouble';
import { degrees } from './words';

export type Touch = components['schemas']['AimTouch'];

/** Where the grips begin: level, in the middle. */
export const untouched: Touch = {
  thing: 'horizon',
  from: { x: 0.25, y: 0.5 },
  to: { x: 0.75, y: 0.5 },
  metres: null,
  metresOff: 0,
  facesDeg: null,
};

/** Nothing is measured where nobody has put both ends; of one target alone, the first. */
export const isPlaced = ({ from, to, thing }: Touch, targets = 2) =>
  (from.x !== untouched.from.x || from.y !== untouched.from.y) &&
  ((thing === 'target' && targets < 2) || to.x !== untouched.to.x || to.y !== untouched.to.y);

/** What may be touched: targets where the agreed view has some. */
export const thingsOf = (targets: readonly string[]): Touch['thing'][] => [
  'horizon',
  'upright',
  'length',
  ...(targets.length > 0 ? (['target'] as const) : []),
  'lamp',
  'mirror',
];

/** It shines, or throws light back: the picture is looked at between the grips. */
export const isLight = ({ thing }: Pick<Touch, 'thing'>) => thing === 'lamp' || thing === 'mirror';

export type Light = components['schemas']['TouchedLight'];

/** Where a light stands in the picture, what it spreads to, and what a turn that gets rid of it costs. */
export function lightSays(light: Light, targets = 0): string[] {
  const { rightDeg, aboveDeg, bearingDeg, mirrored } = light;
  const side = (deg: number, less: string, more: string) => [degrees(Math.abs(deg)), t(`aim.side.${deg < 0 ? less : more}`)] as const;
  const [way] = light.ways;
  const [next] = mirrored?.next ? [mirrored.next] : [];
  return [
    light.whitePercent > 0 ? t('aim.touch-white', Math.max(1, Math.round(light.whitePercent))) : '',
    rightDeg !== null && aboveDeg !== null
      ? t('aim.touch-from-axis', ...side(rightDeg, 'left', 'right'), ...side(aboveDeg, 'below', 'above'))
      : '',
    bearingDeg !== null ? t('aim.touch-bearing', bearingDeg.toFixed(0)) : '',
    way && targets > 0 ? (way.loses.length > 0 ? t('aim.touch-loses', way.loses.join(', ')) : t('aim.touch-keeps')) : '',
    mirrored?.ownLight ? t('aim.touch-own-light') : '',
    next?.firstInView && next.lastInView
      ? t('aim.touch-sun', mirrored!.days, day(next.day), next.firstInView.slice(0, 5), next.lastInView.slice(0, 5))
      : mirrored
        ? t('aim.touch-sun-never')
        : '',
  ].filter(Boolean);
}

const putWords = (thing: Touch['thing'], targets: readonly string[]) =>
  thing === 'target' && targets.length > 1
    ? t('aim.touch-put.targets', ...targets.slice(0, 2))
    : t(`aim.touch-put.${thing}`, targets[0] ?? '');

/** Something of the picture is measured between two grips: how it leans, or how much detail is there. */
export function Touching({
  path,
  number,
  touch,
  targets,
  isKeeping,
  onChange,
  onKeep,
  onClose,
}: {
  path: { deviceId: string; headId: string };
  number: number;
  touch: Touch;
  /** Names of the agreed view's targets. */
  targets: readonly string[];
  isKeeping: boolean;
  onChange: (touch: Touch) => void;
  onKeep: (caption: string) => void;
  onClose: () => void;
}) {
  const wants = !isPlaced(touch, targets.length)
    ? putWords(touch.thing, targets)
    : touch.thing === 'length' && !touch.metres
      ? t('aim.touch-say')
      : '';
  const query = useQuery({
    enabled: !wants,
    queryKey: ['aim', path, 'touch', number, touch],
    placeholderData: keepPreviousData,
    gcTime: 5000,
    retry: false,
    queryFn: ({ signal }) =>
      answered(api.POST('/api/cards/{deviceId}/aim/{headId}/touch', { params: { path }, body: { number, touch }, signal })),
  });
  const told = query.error || wants ? undefined : query.data;
  const { measured, light, row } = told ?? {};
  const isRoll = measured?.value.unit === 'degree';
  const digits = isRoll ? 1 : 0;
  const unit = isRoll ? '\u00b0' : ' px/m';
  return (
    <section aria-label={t('aim.touch')}>
      <p className="text-label">
        <b>{t('aim.touch')}</b> <span className="text-ink-3">{t('aim.touch-how')}</span>
      </p>
      <div role="radiogroup" aria-label={t('aim.touch')} className="mt-1 flex flex-wrap gap-2">
        {thingsOf(targets).map((thing) => (
          <button
            key={thing}
            role="radio"
            aria-checked={touch.thing === thing}
            className={`plain ${touch.thing === thing ? '!border-2 !border-ink font-bold' : ''}`}
            onClick={() => onChange({ ...touch, thing })}
          >
            {t(`aim.touch.${thing}`)}
          </button>
        ))}
      </div>
      {touch.thing === 'length' && (
        <div className="mt-2 grid grid-cols-2 gap-3">
          <label className="text-label font-semibold">
            {t('aim.touch-metres')}
            <NumberField
              optional
              className="field font-read"
              value={touch.metres}
              onChange={(metres: number | null) => onChange({ ...touch, metres })}
            />
          </label>
          <label className="text-label font-semibold">
            {t('aim.touch-off')}
            <NumberField
              className="field font-read"
              value={touch.metresOff}
              onChange={(metresOff: number) => onChange({ ...touch, metresOff })}
            />
          </label>
        </div>
      )}
      {touch.thing === 'mirror' && (
        <label className="mt-2 block text-label font-semibold">
          {t('aim.touch-faces')}
          <NumberField
            optional
            className="field font-read"
            value={touch.facesDeg}
            onChange={(facesDeg: number | null) => onChange({ ...touch, facesDeg })}
          />
        </label>
      )}
      {touch.thing === 'target' && (
        <label className="mt-2 block text-label font-semibold">
          {t('aim.touch-targets-off')}
          <NumberField
            className="field font-read"
            value={touch.metresOff}
            onChange={(metresOff: number) => onChange({ ...touch, metresOff })}
          />
        </label>
      )}
      <div role="status" data-testid="aim-touched" className="mt-3 border-t border-hairline pt-2">
        {wants ? (
          <p className="text-lead">{wants}</p>
        ) : query.error ? (
          <Trouble text={troubleOf(query.error)} />
        ) : measured ? (
          <>
            <p className="font-read text-[3rem] leading-tight font-bold">
              {measured.value.value.toFixed(digits)}
              {unit}
              <span className="ml-3 text-lead font-normal text-ink-2">
                {'\u00b1'} {measured.uncertainty.toFixed(isRoll ? 1 : 0)}
              </span>
            </p>
            {measured.doubt && <p className="text-table font-semibold text-noted">{say(measured.doubt)}</p>}
            {!measured.doubt &&
              measured.steps.map((step) => (
                <p key={step.way} className="text-lead font-semibold">
                  {degrees(step.degrees)}
                  {'\u00b0'} {t(`aim.way.${step.way}`)}
                </p>
              ))}
            <p className="text-table">
              {touch.thing === 'target' ? t('aim.touch-target') : isRoll ? t('aim.touch-roll') : t('aim.touch-detail')}{' '}
              {touch.thing !== 'target' && t('aim.touch-pixels', Math.round(measured.lengthPixels))}
            </p>
            {measured.isTooShort && <p className="font-semibold text-noted">{t('aim.touch-short')}</p>}
          </>
        ) : light ? (
          <>
            <p className="text-lead font-semibold">{say(light.said)}</p>
            {lightSays(light, targets.length).map((line) => (
              <p key={line} className="text-table">
                {line}
              </p>
            ))}
            {!row && <p className="mt-1 text-table text-ink-2">{t('aim.touch-no-harm')}</p>}
          </>
        ) : null}
        {!wants && row && (
          <p className="mt-1 flex flex-wrap items-center gap-2">
            {row.state && !row.held && <StateMark state={row.state} />} <b>{t(`check.${row.check}`)}</b>
            <span className="text-ink-2">{row.held ? say(row.held) : row.state ? t(`state.${row.state}`) : ''}</span>
          </p>
        )}
      </div>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <button
          className="forward disabled:opacity-40"
          disabled={isKeeping || (measured ? measured.isTooShort || !!measured.doubt : !light)}
          onClick={() => onKeep(t(`aim.touch.${touch.thing}`))}
        >
          {t(isLight(touch) ? 'aim.touch-light-keep' : 'aim.touch-keep')}
        </button>
        <button className="plain" onClick={onClose}>
          {t('aim.touch-close')}
        </button>
      </div>
    </section>
  );
}
