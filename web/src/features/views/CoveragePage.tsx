import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useId, useState } from 'react';
import { answered, api } from '../../api/client';
import { useWalk } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { CoverageAnswer, SiteGround } from '../../api/types';
import { mayDo, useAccess } from '../../session/access';
import { useJob } from '../../session/useJob';
import { t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { Trouble } from '../../ui/Trouble';
import { PlanView } from '../walk/PlanView';
import { Waiting } from '../walk/WalkPage';
import { CoverageLayer } from './CoverageLayer';
import { isWhole, lacking, levels, readCorners, withDrawn, written, type Drawn } from './coverage';
import '../pageTexts';
import './viewTexts';

const round = (metres: number) => Math.round(metres * 10) / 10;

/** What all views of the site see of its ground: who sees what, what nobody sees, and which targets are under their task. */
export default function CoveragePage() {
  const { job, jobs } = useJob();
  const walk = useWalk(job?.id);
  const client = useQueryClient();
  const access = useAccess().data;
  const mayPlan = mayDo(access, 'plan');
  const key = ['coverage', job?.id];
  const cover = useQuery({
    queryKey: key,
    enabled: !!job,
    queryFn: ({ signal }) => answered(api.GET('/api/jobs/{jobId}/coverage', { params: { path: { jobId: job!.id } }, signal })),
  });
  const [drawn, setDrawn] = useState<Drawn>();
  const [typed, setTyped] = useState<string>();
  const [chosen, setChosen] = useState<string>();
  const [before, setBefore] = useState<SiteGround>();
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  if (!cover.data || !walk.data || !job)
    return (
      <Waiting
        error={jobs.error ?? walk.error ?? cover.error}
        again={() => void (jobs.error ? jobs.refetch() : walk.error ? walk.refetch() : cover.refetch())}
      />
    );
  const { ground, version, coverage, leftOut } = cover.data;
  const put = async (next: SiteGround) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      const told = await answered(
        api.PUT('/api/jobs/{jobId}/coverage/ground', { params: { path: { jobId: job.id } }, body: { ground: next, was: version } }),
      );
      setBefore(ground);
      setDrawn(undefined);
      setTyped(undefined);
      client.setQueryData(key, told);
    } catch (error) {
      setTrouble(troubleOf(error));
      // What somebody else drew meanwhile is shown; what was being drawn stays, and can be kept over it.
      setBefore(undefined);
      void cover.refetch();
    } finally {
      setBusy(false);
    }
  };
  const begin = (what: Drawn['what']) => {
    setDrawn({ what, corners: [], name: '', level: 'detect', height: '' });
    setTyped(undefined);
  };
  const corner = (x: number, y: number) => {
    if (!drawn) return;
    setDrawn({ ...drawn, corners: [...drawn.corners, { x: round(x), y: round(y) }] });
    setTyped(undefined);
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col px-6 pb-3 pt-3 max-sm:overflow-y-auto max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-ink pb-2">
        <h1 className="text-title font-bold">{t('coverage.title')}</h1>
        <p className="text-label text-ink-2">{t('coverage.how')}</p>
      </div>
      <div className="flex min-h-0 flex-1 gap-6 pt-3 max-lg:flex-col max-sm:flex-none">
        <div className="flex min-h-0 min-w-0 flex-1 flex-col max-lg:min-h-[45vh] max-sm:h-[52vh] max-sm:flex-none">
          <PlanView
            walk={walk.data}
            onStop={() => {}}
            layer={{
              drawn: (toPixels, scale) => (
                <CoverageLayer answer={cover.data} walk={walk.data} chosen={chosen} drawn={drawn} toPixels={toPixels} scale={scale} />
              ),
              onPress: drawn ? corner : undefined,
            }}
          />
          <Legend coverage={coverage} />
        </div>
        <aside className="w-[21rem] shrink-0 overflow-y-auto max-lg:w-full max-sm:overflow-visible">
          <Trouble text={trouble} />
          {drawn ? (
            <Drawing
              drawn={drawn}
              typed={typed}
              isBusy={isBusy}
              onChange={setDrawn}
              onType={(text) => {
                setTyped(text);
                const read = readCorners(text);
                if (read) setDrawn({ ...drawn, corners: read });
              }}
              onTake={() => void put(withDrawn(ground, drawn))}
              onLeave={() => (setDrawn(undefined), setTyped(undefined))}
            />
          ) : (
            <>
              <Grounds
                answer={cover.data}
                onOut={mayPlan ? (at) => void put({ ...ground, grounds: ground.grounds.filter((_, i) => i !== at) }) : undefined}
              />
              {mayPlan && (
                <div className="mt-2 flex flex-wrap gap-2">
                  <button className="plain !px-3" disabled={isBusy} onClick={() => begin('ground')}>
                    {t('coverage.draw-ground')}
                  </button>
                  <button className="plain !px-3" disabled={isBusy} onClick={() => begin('wall')}>
                    {t('coverage.draw-wall')}
                  </button>
                  {before && (
                    <button
                      className="min-h-11 font-semibold underline"
                      disabled={isBusy}
                      onClick={() => void put(before).then(() => setBefore(undefined))}
                    >
                      {t('coverage.undo')}
                    </button>
                  )}
                </div>
              )}
              <Targets coverage={coverage} />
              <LeftOut leftOut={leftOut} />
              <Views coverage={coverage} chosen={chosen} onChoose={setChosen} />
              <Walls ground={ground} onOut={mayPlan ? (walls) => void put({ ...ground, walls }) : undefined} />
              {mayPlan && <North key={ground.northDeg} ground={ground} onKeep={(northDeg) => void put({ ...ground, northDeg })} />}
            </>
          )}
        </aside>
      </div>
    </main>
  );
}

const head = 'mt-4 border-t border-ink pt-2 text-body font-bold';

function Grounds({ answer, onOut }: { answer: CoverageAnswer; onOut?: (at: number) => void }) {
  const { grounds } = answer.coverage;
  return (
    <section aria-label={t('coverage.grounds')}>
      <h2 className="border-t border-ink pt-2 text-body font-bold">{t('coverage.grounds')}</h2>
      {grounds.length === 0 && <p className="text-label text-ink-2">{t('coverage.no-ground')}</p>}
      <ul>
        {grounds.map((g, i) => (
          <li key={i} className="border-b border-dotted border-hairline py-2">
            <p className="flex items-baseline justify-between gap-3">
              <span className="font-semibold">{g.name}</span>
              <span className="font-read text-label">{t('coverage.square', g.squareMetres.toFixed(0))}</span>
            </p>
            <Bar seen={g.seenPercent} asked={g.askedPercent} />
            <div className="flex items-baseline justify-between gap-3 text-label">
              <p>
                {t('coverage.seen', percent(g.seenPercent))}
                {', '}
                <span className={g.askedPercent < 99.95 ? 'font-semibold text-refused' : ''}>
                  {t('coverage.as-asked', percent(g.askedPercent), t(`level.${g.level}`))}
                </span>
              </p>
              {onOut && (
                <button
                  className="min-h-6 text-tick text-ink-2 underline max-sm:min-h-11"
                  aria-label={t('coverage.out', g.name)}
                  onClick={() => onOut(i)}
                >
                  {t('coverage.take-out')}
                </button>
              )}
            </div>
            {g.holes.length > 0 && (
              <p className="text-label text-ink-2">
                {t(g.holes.length === 1 ? 'coverage.hole' : 'coverage.holes', g.holes.length)}{' '}
                {g.holes
                  .slice(0, 4)
                  .map((h) => t('coverage.hole-at', h.squareMetres.toFixed(0), h.at.x.toFixed(0), h.at.y.toFixed(0)))
                  .join('; ')}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

const percent = (n: number) => (n > 99.95 ? '100' : n > 99 ? n.toFixed(1) : n < 1 && n > 0 ? n.toFixed(1) : n.toFixed(0));

/** How much is seen as asked, how much otherwise, and how much by nobody. */
const Bar = ({ seen, asked }: { seen: number; asked: number }) => (
  <svg viewBox="0 0 100 6" preserveAspectRatio="none" className="my-1 h-2.5 w-full border border-ink" aria-hidden>
    <rect width={asked} height={6} fill="var(--color-ink)" />
    <rect x={asked} width={Math.max(0, seen - asked)} height={6} fill="var(--color-rule)" />
  </svg>
);

function Targets({ coverage }: { coverage: CoverageAnswer['coverage'] }) {
  const wrong = coverage.targets.filter((x) => x.sight !== 'holds');
  if (coverage.targets.length === 0) return null;
  return (
    <section aria-label={t('coverage.targets')}>
      <h2 className={head}>{t('coverage.targets')}</h2>
      <p className="text-label text-ink-2">{t('coverage.targets-hold', coverage.targets.length - wrong.length, coverage.targets.length)}</p>
      <ul>
        {wrong.map((x, i) => (
          <li key={i} className="border-b border-dotted border-hairline py-1 text-label">
            <Link
              to="/views/$deviceId"
              params={{ deviceId: x.deviceId }}
              className="font-read inline-flex min-h-6 items-center font-semibold underline max-sm:min-h-11"
            >
              {x.label}
            </Link>{' '}
            {x.name}: <span className="font-semibold text-refused">{t(`coverage.sight.${x.sight}`)}</span>
            {x.sight === 'tooCoarse' &&
              x.perMetre !== null &&
              ` (${t('coverage.per-metre', x.perMetre.toFixed(0), t(`level.${x.level}`))})`}
            {x.by.length > 0 && <span className="block text-ink-2">{t('coverage.by', x.by.slice(0, 3).join(', '))}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

function LeftOut({ leftOut }: { leftOut: CoverageAnswer['leftOut'] }) {
  if (leftOut.length === 0) return null;
  return (
    <section aria-label={t('coverage.left-out')}>
      <h2 className={head}>{t('coverage.left-out')}</h2>
      {['place', 'view', 'bearing'].map((what) => {
        const those = lacking(leftOut, what);
        return (
          those.length > 0 && (
            <details key={what} className="text-label">
              <summary className="min-h-9 cursor-pointer py-1.5 max-sm:min-h-11">
                {t(those.length === 1 ? `coverage.lacks-one.${what}` : `coverage.lacks.${what}`, those.length)}
              </summary>
              <p className="flex flex-wrap gap-x-3 pb-1">
                {those.slice(0, 200).map(([label, deviceId]) =>
                  what === 'place' ? (
                    <span key={label} className="font-read">
                      {label}
                    </span>
                  ) : (
                    <Link
                      key={label}
                      to="/views/$deviceId"
                      params={{ deviceId }}
                      className="font-read inline-flex min-h-6 items-center underline max-sm:min-h-11"
                    >
                      {label}
                    </Link>
                  ),
                )}
                {those.length > 200 && <span>{t('coverage.more', those.length - 200)}</span>}
              </p>
            </details>
          )
        );
      })}
    </section>
  );
}

/** One view is shown at a time; each leads to where it is designed. */
function Views({ coverage, chosen, onChoose }: { coverage: CoverageAnswer['coverage']; chosen?: string; onChoose: (id?: string) => void }) {
  const id = useId();
  const devices = [...new Map(coverage.outlines.map((o) => [o.deviceId, o.label]))];
  if (devices.length === 0) return null;
  return (
    <section aria-label={t('coverage.views')}>
      <h2 className={head}>{t('coverage.views')}</h2>
      <label htmlFor={id} className="text-label text-ink-2">
        {t('coverage.one')}
      </label>
      <select id={id} className="field" value={chosen ?? ''} onChange={(e) => onChoose(e.target.value || undefined)}>
        <option value="">{t('coverage.all', devices.length)}</option>
        {devices.map(([deviceId, label]) => (
          <option key={deviceId} value={deviceId}>
            {label}
          </option>
        ))}
      </select>
      {chosen && (
        <Link
          to="/views/$deviceId"
          params={{ deviceId: chosen }}
          className="inline-flex min-h-9 items-center text-label font-semibold underline max-sm:min-h-11"
        >
          {t('coverage.design')}
        </Link>
      )}
    </section>
  );
}

function Walls({ ground, onOut }: { ground: SiteGround; onOut?: (walls: SiteGround['walls']) => void }) {
  if (ground.walls.length === 0) return null;
  return (
    <details className="mt-4 border-t border-ink text-label">
      <summary className="min-h-9 cursor-pointer py-1.5 text-body font-bold max-sm:min-h-11">
        {t('coverage.walls', ground.walls.length)}
      </summary>
      <ul>
        {ground.walls.map((w, i) => (
          <li key={i} className="flex items-baseline justify-between gap-2 border-b border-dotted border-hairline py-1">
            <span>
              {t('coverage.wall-at', w.corners[0].x, w.corners[0].y)},{' '}
              {w.heightMetres === null ? t('coverage.wall-full') : t('coverage.wall-high', w.heightMetres)}
            </span>
            {onOut && (
              <button
                className="min-h-9 font-semibold underline max-sm:min-h-11"
                aria-label={t('coverage.out', t('coverage.wall-at', w.corners[0].x, w.corners[0].y))}
                onClick={() => onOut(ground.walls.filter((_, j) => j !== i))}
              >
                {t('coverage.take-out')}
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}

function North({ ground, onKeep }: { ground: SiteGround; onKeep: (deg: number) => void }) {
  const [text, setText] = useState(String(ground.northDeg));
  const read = /^\d{1,3}([.,]\d)?$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : undefined;
  return (
    <form
      className="mt-4 border-t border-ink pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (read !== undefined) onKeep(read);
      }}
    >
      <Labelled label={t('coverage.north')}>
        <input className="field font-read !w-28" inputMode="decimal" value={text} onChange={(e) => setText(e.target.value)} />
      </Labelled>
      {read !== undefined && read !== ground.northDeg && <button className="plain mt-1">{t('coverage.keep-north')}</button>}
    </form>
  );
}

function Drawing({
  drawn,
  typed,
  isBusy,
  onChange,
  onType,
  onTake,
  onLeave,
}: {
  drawn: Drawn;
  typed?: string;
  isBusy: boolean;
  onChange: (drawn: Drawn) => void;
  onType: (text: string) => void;
  onTake: () => void;
  onLeave: () => void;
}) {
  const isOdd = typed !== undefined && readCorners(typed) === null;
  return (
    <form
      aria-label={t(`coverage.draw-${drawn.what}`)}
      onSubmit={(e) => {
        e.preventDefault();
        if (isWhole(drawn) && !isOdd) onTake();
      }}
    >
      <h2 className="border-t border-ink pt-2 text-body font-bold">{t(`coverage.draw-${drawn.what}`)}</h2>
      <p className="mb-2 text-label text-ink-2">{t(`coverage.press-${drawn.what}`)}</p>
      {drawn.what === 'ground' ? (
        <>
          <Labelled label={t('coverage.name')}>
            <input
              autoFocus
              className="field"
              maxLength={60}
              value={drawn.name}
              onChange={(e) => onChange({ ...drawn, name: e.target.value })}
            />
          </Labelled>
          <Labelled label={t('coverage.level')}>
            <select className="field" value={drawn.level} onChange={(e) => onChange({ ...drawn, level: e.target.value as Drawn['level'] })}>
              {levels.map((level) => (
                <option key={level} value={level}>
                  {t(`level.${level}`)}
                </option>
              ))}
            </select>
          </Labelled>
        </>
      ) : (
        <Labelled label={t('coverage.height')}>
          <input
            autoFocus
            className="field font-read !w-28"
            inputMode="decimal"
            value={drawn.height}
            onChange={(e) => onChange({ ...drawn, height: e.target.value })}
          />
        </Labelled>
      )}
      <Labelled label={t('coverage.corners')}>
        <textarea
          className={`field font-read ${isOdd ? '!border-refused' : ''}`}
          aria-invalid={isOdd}
          rows={6}
          value={typed ?? written(drawn.corners)}
          onChange={(e) => onType(e.target.value)}
        />
      </Labelled>
      {isOdd && <p className="text-label text-refused">{t('coverage.corners-odd')}</p>}
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <button className="forward !min-h-11 disabled:opacity-40" disabled={isBusy || isOdd || !isWhole(drawn)}>
          {t('coverage.take')}
        </button>
        <button
          type="button"
          className="plain"
          disabled={drawn.corners.length === 0}
          onClick={() => onChange({ ...drawn, corners: drawn.corners.slice(0, -1) })}
        >
          {t('coverage.corner-back')}
        </button>
        <button type="button" className="min-h-11 font-semibold underline" onClick={onLeave}>
          {t('coverage.leave')}
        </button>
      </div>
    </form>
  );
}

/** What the marks on the plan are. */
function Legend({ coverage }: { coverage: CoverageAnswer['coverage'] }) {
  if (coverage.grounds.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-4 pt-1 text-tick text-ink-2">
      <span>{t('coverage.legend-lines')}</span>
      <span>{t('coverage.legend-none')}</span>
      <span>{t('coverage.legend-cells', coverage.cellMetres)}</span>
    </p>
  );
}
