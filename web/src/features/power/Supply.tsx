import { Link } from '@tanstack/react-router';
import type { PowerSupply } from '../../api/types';
import { t } from '../../texts';
import { TapLadder } from '../../ui/VoltageLadder';
import { watts } from './sourceText';

export function Supply({ supply, stacked }: { supply: PowerSupply; stacked?: boolean }) {
  const f = supply.figures;
  return (
    <div
      className={`mt-1 grid gap-x-8 ${stacked ? 'grid-cols-[1.4fr_1fr] max-sm:grid-cols-1' : 'grid-cols-[460px_minmax(0,1fr)] max-[1151px]:grid-cols-1'}`}
    >
      {supply.taps.length > 0 && f.volts !== null ? (
        <TapLadder
          volts={f.volts}
          min={supply.minVolts ?? f.volts}
          max={supply.maxVolts ?? f.volts}
          taps={supply.taps.map((x) => ({ label: x.label, metres: x.metres, volts: x.volts, outOfRange: x.outOfRange }))}
        />
      ) : (
        <p className="py-2 text-ink-2">{t('power.no-taps')}</p>
      )}
      <div className="text-label leading-snug">
        {supply.taps.length > 0 && !supply.solved && (
          <p className="text-body font-bold text-refused">
            {t(supply.taps.some((x) => x.watts === null) ? 'power.unknown-watts' : 'power.no-solution')}
          </p>
        )}
        {supply.supplyAmperes !== null && (
          <p className={`text-body font-bold ${supply.supplyOk === false ? 'text-refused' : ''}`}>
            {supply.usableAmperes === null
              ? t('power.amperes', supply.supplyAmperes.toFixed(2))
              : t(
                  supply.supplyOk ? 'power.amperes-ok' : 'power.amperes-over',
                  supply.supplyAmperes.toFixed(2),
                  supply.usableAmperes.toFixed(2),
                )}
          </p>
        )}
        <p className={supply.fuse === 'ok' || supply.fuse === 'notChecked' ? 'text-ink-2' : 'font-bold text-refused'}>
          {t(`fuse.${supply.fuse}`)}
        </p>
        <p className="text-ink-2">
          {f.wireAreaMm2 !== null ? `${f.wireAreaMm2} mm²` : `${f.wireGaugeAwg ?? 18} AWG`}
          {supply.longestMetres !== null && `, ${t('power.longest', supply.longestMetres.toFixed(0))}`}
        </p>
        <ul className="mt-1">
          {supply.taps.map((x) => (
            <li key={x.deviceId} className={x.outOfRange ? 'font-bold text-refused' : ''}>
              <Link to="/card/$deviceId" params={{ deviceId: x.deviceId }} className="font-read font-bold underline">
                {x.label}
              </Link>{' '}
              {t('power.tap', x.metres, watts(x.watts))}
              {!x.metresKnown && ` (${t('origin.assumed')})`}
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
