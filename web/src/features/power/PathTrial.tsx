import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { answered, api } from '../../api/client';
import type { PathAnswer, PathPiece, PathSettings, PieceKind } from '../../api/types';
import { entry, troubleOf } from '../../api/send';
import { useHand } from '../../session/posture';
import { say, t } from '../../texts';
import { NumberField } from '../../ui/NumberField';
import { VoltageLadder } from '../../ui/VoltageLadder';
import { LeaveGuard } from '../../ui/LeaveGuard';
import { Trouble } from '../../ui/Trouble';

const kinds: PieceKind[] = ['cable', 'cord', 'panel', 'coupler', 'protector', 'sharingAdapter', 'injector', 'splitter'];

const materials = ['solidCopper', 'strandedCopper', 'copperCladAluminium'] as const;

export function Trial({ deviceId, run }: { deviceId: string; run: PathAnswer }) {
  const client = useQueryClient();
  const [pieces, setPieces] = useState<PathPiece[]>(run.pieces);
  const [settings, setSettings] = useState<PathSettings>(run.settings);
  const [asMeasured, setAsMeasured] = useState(false);
  const hand = useHand();
  const [answer, setAnswer] = useState<PathAnswer>(run);
  const newPiece = (kind: PieceKind) => run.fresh.find((p) => p.kind === kind)!;
  const [trouble, setTrouble] = useState<string>();
  const [kept, setKept] = useState(false);
  const latest = useRef(0);
  const unsaved = JSON.stringify(pieces) !== JSON.stringify(run.pieces) || JSON.stringify(settings) !== JSON.stringify(run.settings);
  const changed = unsaved || asMeasured;
  useEffect(() => {
    // Each change is worked out at once; an answer that was overtaken is left aside.
    const mine = ++latest.current;
    answered(
      api.POST('/api/cards/{deviceId}/path/try', {
        params: { path: { deviceId } },
        body: { runId: run.runId, pieces, settings, asMeasured },
      }),
    )
      .then((next) => {
        if (mine !== latest.current) return;
        setAnswer(next);
        setTrouble(undefined);
      })
      .catch((error: unknown) => {
        if (mine === latest.current) setTrouble(troubleOf(error));
      });
  }, [pieces, settings, asMeasured, deviceId, run.runId]);
  const set = (i: number, next: Partial<PathPiece>) => {
    setKept(false);
    setPieces(pieces.map((p, n) => (n === i ? { ...p, ...next } : p)));
  };
  const move = (i: number, by: number) => {
    const next = [...pieces];
    const [piece] = next.splice(i, 1);
    next.splice(i + by, 0, piece);
    setPieces(next);
  };
  const keep = async () => {
    try {
      await answered(
        api.POST('/api/cards/{deviceId}/path', {
          params: { path: { deviceId } },
          body: { ...entry(), runId: run.runId, pieces, temperatureC: settings.temperatureC, why: null, screened: settings.screened },
        }),
      );
      setKept(true);
      await Promise.all([
        client.invalidateQueries({ queryKey: ['path', deviceId] }),
        client.invalidateQueries({ queryKey: ['card', deviceId] }),
      ]);
    } catch (error) {
      setTrouble(troubleOf(error));
    }
  };
  const r = answer.result;
  const small = 'field font-read !min-h-10 !px-2 !py-1';
  return (
    <div className="mt-2 flex gap-9 max-[1151px]:flex-col">
      <LeaveGuard when={unsaved} />
      <div className="min-w-0 flex-1">
        {r && answer.problems.length === 0 && r.states.length > 0 ? (
          <VoltageLadder pieces={answer.pieces} trial={r} sourceVolts={answer.settings.sourceVolts} narrow={hand} />
        ) : (
          r && <p className="py-6 text-ink-2">{t(r.shared ? 'path.shared' : 'path.no-power')}</p>
        )}
        <Trouble text={trouble} className="my-2" />
        <section className="mt-3 border-t border-ink pt-2" aria-label={t('path.settings')}>
          <div className="grid grid-cols-5 gap-x-4 gap-y-2 max-sm:grid-cols-2">
            {(
              [
                ['sourceVolts', 'V'],
                ['temperatureC', ''],
                ['powerClass', ''],
                ['wattsInfraredOff', 'W'],
                ['wattsInfraredOn', 'W'],
              ] as const
            ).map(([k, unit]) => (
              <label key={k} className="block">
                <span className="block text-label text-ink-2">
                  {t(`path.${k}`)} {unit}
                  {k === 'temperatureC' && ` ${t('path.origin', t(`origin.${run.temperatureOrigin}`))}`}
                </span>
                <NumberField
                  className={small}
                  value={settings[k]}
                  optional={k !== 'sourceVolts' && k !== 'temperatureC'}
                  onChange={(v) => setSettings({ ...settings, [k]: v })}
                />
              </label>
            ))}
          </div>
          <label className="mt-1 flex min-h-11 items-center gap-2 text-label">
            <input
              type="checkbox"
              className="h-5 w-5 accent-ink"
              checked={settings.screened}
              onChange={(e) => setSettings({ ...settings, screened: e.target.checked })}
            />
            {t('path.screened')}
          </label>
        </section>
        <section className="mt-4 border-t border-ink pt-2">
          <h2 className="text-body font-bold">{t('path.pieces')}</h2>
          <div
            aria-hidden
            className="mt-1 grid grid-cols-[118px_78px_70px_148px_80px_1fr_158px] gap-2 text-tick text-ink-2 max-[1151px]:hidden"
          >
            {['path.kind', 'path.metres', 'path.gauge-label', 'path.material', 'path.contact-label', 'path.category-label'].map((h) => (
              <span key={h}>{t(h)}</span>
            ))}
          </div>
          <ul>
            {pieces.map((p, i) => (
              <li key={i} className="border-b border-dotted border-hairline py-1.5">
                <div className="grid grid-cols-[118px_78px_70px_148px_80px_1fr_158px] items-center gap-2 max-[1151px]:grid-cols-3 max-sm:grid-cols-2">
                  <select
                    aria-label={t('path.kind')}
                    className={`${small} !font-text`}
                    value={p.kind}
                    onChange={(e) =>
                      setPieces(
                        pieces.map((x, n) =>
                          n === i
                            ? {
                                ...newPiece(e.target.value as PieceKind),
                                metres: newPiece(e.target.value as PieceKind).isConductor ? Math.max(x.metres, 0.5) : 0,
                                label: x.label,
                              }
                            : x,
                        ),
                      )
                    }
                  >
                    {kinds.map((k) => (
                      <option key={k} value={k}>
                        {t(`piece.${k}`)}
                      </option>
                    ))}
                  </select>
                  {p.isConductor ? (
                    <>
                      <Unit unit="m">
                        <NumberField
                          label={t('path.metres')}
                          className={small}
                          value={p.metres}
                          onChange={(v) => set(i, { metres: v ?? 0 })}
                        />
                      </Unit>
                      <Unit unit="AWG">
                        <NumberField
                          label={t('path.gauge-label')}
                          className={small}
                          value={p.gaugeAwg}
                          optional
                          onChange={(v) => set(i, { gaugeAwg: v })}
                        />
                      </Unit>
                      <select
                        aria-label={t('path.material')}
                        className={`${small} !font-text`}
                        value={p.material ?? 'solidCopper'}
                        onChange={(e) => set(i, { material: e.target.value as (typeof materials)[number] })}
                      >
                        {materials.map((m) => (
                          <option key={m} value={m}>
                            {t(`path.metal.${m}`)}
                          </option>
                        ))}
                      </select>
                    </>
                  ) : (
                    <span className="col-span-3 flex gap-3 text-label text-ink-2 max-[1151px]:col-span-2 max-sm:col-span-1">
                      {(p.kind === 'splitter' || p.kind === 'injector') && (
                        <label className="flex items-baseline gap-1.5 whitespace-nowrap">
                          {t('path.rated-label')}
                          <Unit unit="W">
                            <NumberField
                              label={t('path.rated-label')}
                              className={`${small} !w-16`}
                              value={p.ratedWatts ?? null}
                              optional
                              onChange={(v) => set(i, { ratedWatts: v })}
                            />
                          </Unit>
                        </label>
                      )}
                      {p.kind === 'splitter' && (
                        <Unit unit="%">
                          <NumberField
                            label={t('path.efficiency-label')}
                            className={small}
                            value={p.efficiencyPercent}
                            optional
                            onChange={(v) => set(i, { efficiencyPercent: v })}
                          />
                        </Unit>
                      )}
                    </span>
                  )}
                  <Unit unit="ohm">
                    <NumberField
                      label={t('path.contact-label')}
                      className={small}
                      value={p.contactOhms}
                      onChange={(v) => set(i, { contactOhms: v ?? 0 })}
                    />
                  </Unit>
                  <span className="flex min-w-0 gap-2">
                    {p.kind === 'cable' && (
                      <select
                        aria-label={t('path.category')}
                        className={`${small} !w-16 shrink-0`}
                        value={p.category ?? ''}
                        onChange={(e) => set(i, { category: e.target.value })}
                      >
                        {['', '5e', '6', '6A', '7', '7A', '8'].map((c) => (
                          <option key={c} value={c}>
                            {c === '' ? '\u2013' : c}
                          </option>
                        ))}
                      </select>
                    )}
                    <input
                      aria-label={t('path.label-label')}
                      className={`${small} !font-text`}
                      maxLength={60}
                      value={p.label}
                      onChange={(e) => set(i, { label: e.target.value })}
                    />
                  </span>
                  <span className="flex items-center gap-2 whitespace-nowrap text-label">
                    <label className="flex min-h-9 items-center gap-1.5" title={t('path.listed-hint')}>
                      <input
                        type="checkbox"
                        className="h-5 w-5 accent-ink"
                        checked={p.listed}
                        onChange={(e) => set(i, { listed: e.target.checked })}
                      />
                      {t('path.listed')}
                    </label>
                    <button className="min-h-9 underline disabled:opacity-30" disabled={i === 0} onClick={() => move(i, -1)}>
                      {t('path.up')}
                    </button>
                    <button className="min-h-9 underline" onClick={() => setPieces(pieces.filter((_, n) => n !== i))}>
                      {t('path.remove')}
                    </button>
                  </span>
                </div>
                {answer.problems
                  .filter((x) => x.piece === i)
                  .map((x) => (
                    <p key={x.what} className="text-label font-semibold text-refused">
                      {x.what}
                    </p>
                  ))}
              </li>
            ))}
          </ul>
          <p className="mt-2 flex flex-wrap items-center gap-x-4">
            <span className="text-label text-ink-2">{t('path.add')}</span>
            {kinds.map((k) => (
              <button
                key={k}
                className="min-h-11 text-label font-semibold underline"
                onClick={() =>
                  setPieces(
                    pieces.at(-1)?.kind === 'splitter' ? [...pieces.slice(0, -1), newPiece(k), pieces.at(-1)!] : [...pieces, newPiece(k)],
                  )
                }
              >
                {t(`piece.${k}`)}
              </button>
            ))}
          </p>
        </section>
      </div>
      <aside className="w-[330px] shrink-0 border-t border-ink pt-2 max-[1151px]:w-full" aria-live="polite">
        {r && (
          <dl className="text-body">
            {r.states.map((s) => (
              <div key={s.state} className="mb-3">
                <dt className="text-label text-ink-2">{t(`condition.${s.state}`)}</dt>
                <dd>
                  {s.volts === null ? (
                    <b className="text-refused">{t('path.cannot-carry-most', s.watts, s.maxWatts?.toFixed(1) ?? '')}</b>
                  ) : (
                    <>
                      <span className="font-read text-reading font-bold">{s.volts.toFixed(2)}</span> V,{' '}
                      <span className="font-read">{s.amperes?.toFixed(3)}</span> A
                      <span className={`block text-label ${s.verdict === 'ok' ? 'text-ink-2' : 'font-bold text-refused'}`}>
                        {s.verdict === 'ok'
                          ? t('path.lost', s.lossWatts?.toFixed(2) ?? '', s.sourceWatts?.toFixed(1) ?? '')
                          : t(`path.verdict.${s.verdict}`)}
                      </span>
                    </>
                  )}
                  {s.findings.map((f) => (
                    <span key={f.code} className="block text-label font-bold text-refused">
                      {say(f)}
                    </span>
                  ))}
                </dd>
              </div>
            ))}
            <Fact
              name={t('path.fact.length')}
              value={`${r.metres.toFixed(1)} m`}
              note={t('path.limit', r.lengthLimitMetres.toFixed(1))}
              bad={!r.lengthInLimit}
            />
            <Fact
              name={t('path.fact.loop')}
              value={`${r.pairLoopOhms.toFixed(2)} ohm`}
              note={t('path.limit-ohm', r.loopLimitOhms)}
              bad={!r.loopInLimit}
            />
            {r.cordsAllowedMetres !== null && r.cordMetres > 0 && (
              <Fact
                name={t('path.fact.cords')}
                value={`${r.cordMetres.toFixed(1)} m`}
                note={t('path.limit', Math.max(0, r.cordsAllowedMetres).toFixed(1))}
                bad={!r.cordsInLimit}
              />
            )}
            {r.longestMetres !== null && (
              <Fact name={t('path.fact.longest')} value={`${r.longestMetres.toFixed(0)} m`} note={t(`path.by.${r.limitedBy}`)} />
            )}
            {answer.measuredPairLoopOhms !== null && (
              <Fact
                name={t('path.fact.measured')}
                value={`${answer.measuredPairLoopOhms.toFixed(2)} ohm`}
                note={answer.measuredMetres !== null ? `${answer.measuredMetres.toFixed(1)} m` : ''}
              />
            )}
          </dl>
        )}
        {answer.measuredPairLoopOhms !== null && (
          <label className="mt-1 flex min-h-11 items-center gap-2 text-label">
            <input type="checkbox" className="h-5 w-5 accent-ink" checked={asMeasured} onChange={(e) => setAsMeasured(e.target.checked)} />
            {t('path.as-measured')}
          </label>
        )}
        <div className="mt-3 flex flex-col gap-2">
          <button
            className="forward text-center disabled:opacity-40"
            disabled={!changed || answer.problems.length > 0}
            onClick={() => void keep()}
          >
            {t('path.keep')}
          </button>
          <button
            className="plain text-center disabled:opacity-40"
            disabled={!changed}
            onClick={() => {
              setPieces(run.pieces);
              setSettings(run.settings);
              setAsMeasured(false);
            }}
          >
            {t('path.reset')}
          </button>
          <p role="status" className="text-label text-ink-2">
            {kept ? t('path.kept') : changed ? t('path.trial') : ''}
          </p>
        </div>
      </aside>
    </div>
  );
}

function Fact({ name, value, note, bad }: { name: string; value: string; note: string; bad?: boolean }) {
  return (
    <div className="flex items-baseline justify-between gap-3 border-t border-dotted border-hairline py-1">
      <dt className="text-label text-ink-2">{name}</dt>
      <dd className={`text-right ${bad ? 'font-bold text-refused' : ''}`}>
        <span className="font-read font-bold">{value}</span> <span className="text-label">{note}</span>
      </dd>
    </div>
  );
}

function Unit({ unit, children }: { unit: string; children: React.ReactNode }) {
  return (
    <span className="flex items-baseline gap-1">
      {children}
      <span className="text-tick text-ink-2">{unit}</span>
    </span>
  );
}
