import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useId, useState } from 'react';
import { answered, api } from '../../api/client';
import { useWalk } from '../../api/queries';
import { troubleOf } from '../../api/send';
import type { CoverageAnswer, DetailLevel, SiteGround } from '../../api/types';
import { mayDo, useAccess } from '../../session/access';
import { useJob } from '../../session/useJob';
import { useKept } from '../../session/kept';
import { say, t } from '../../texts';
import { Labelled } from '../../ui/Dialog';
import { NumberField } from '../../ui/NumberField';
import { Trouble } from '../../ui/Trouble';
import { PlanView } from '../walk/PlanView';
import { Waiting } from '../walk/WalkPage';
import { CoverageLayer } from './CoverageLayer';
import { isWhole, lacking, readCorners, withDrawn, written, type Drawn } from './coverage';
import { EditionField, type Edition } from './EditionField';
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
  const [edition, setEdition] = useState<Edition>('edition2014');
  const key = ['coverage', job?.id, edition];
  const cover = useQuery({
    queryKey: key,
    enabled: !!job,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answered(api.GET('/api/jobs/{jobId}/coverage', { params: { path: { jobId: job!.id }, query: { edition } }, signal })),
  });
  // What is being drawn outlives the page: nobody presses his corners twice.
  const [drawn, setDrawn] = useKept<Drawn | undefined>('ground', undefined);
  const [chosen, setChosen] = useState<string>();
  // What stood before one's own last change, while nobody has changed it since: what another drew is not undone with it.
  const [before, setBefore] = useState<{ ground: SiteGround; version: string }>();
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
        api.PUT('/api/jobs/{jobId}/coverage/ground', {
          params: { path: { jobId: job.id }, query: { edition } },
          body: { ground: next, was: version },
        }),
      );
      setBefore({ ground, version: told.version });
      setDrawn(undefined);
      client.setQueryData(key, told);
    } catch (error) {
      setTrouble(troubleOf(error));
      // What somebody else drew meanwhile is shown first; what was being drawn stays, and can then be kept beside it.
      setBefore(undefined);
      await cover.refetch();
    } finally {
      setBusy(false);
    }
  };
  const begin = (what: Drawn['what']) => setDrawn({ what, corners: [], name: '', level: coverage.levels[1], height: null });
  const corner = (x: number, y: number) =>
    drawn && setDrawn({ ...drawn, corners: [...drawn.corners, { x: round(x), y: round(y) }], typed: undefined });
  return (
    <main className="flex min-h-0 flex-1 flex-col px-6 pb-3 pt-3 max-sm:overflow-y-auto max-sm:px-4">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-ink pb-2">
        <h1 className="text-title font-bold">{t('coverage.title')}</h1>
        <p className="text-label text-ink-2">{t('coverage.how')}</p>
        <EditionField edition={edition} onEdition={setEdition} className="ml-auto" />
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
              levels={coverage.levels}
              isBusy={isBusy}
              onChange={setDrawn}
              onTake={() => void put(withDrawn(ground, { ...drawn, typed: undefined }))}
              onLeave={() => setDrawn(undefined)}
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
                  {before?.version === version && (
                    <button
                      className="min-h-11 font-semibold underline"
                      disabled={isBusy}
                      onClick={() => void put(before.ground).then(() => setBefore(undefined))}
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
            {g.seenPercent !== null && <Bar seen={g.seenPercent} asked={g.askedPercent ?? 0} />}
            <div className="flex items-baseline justify-between gap-3 text-label">
              <p>
                {g.seenPercent === null || g.askedPercent === null ? (
                  <span className="font-semibold">{t('coverage.too-narrow', g.cellMetres)}</span>
                ) : (
                  <>
                    {t('coverage.seen', percent(g.seenPercent))}
                    {', '}
                    <span className={g.askedPercent < 99.95 ? 'font-semibold text-refused' : ''}>
                      {t('coverage.as-asked', percent(g.askedPercent), t(`level.${g.level}`))}
                    </span>
                  </>
                )}
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
                {say({ code: 'coverage.holes', args: [String(g.holes.length)] })}{' '}
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
      {(['place', 'view', 'bearing'] as const).map((what) => {
        const those = lacking(leftOut, what);
        return (
          those.length > 0 && (
            <details key={what} className="text-label">
              <summary className="min-h-9 cursor-pointer py-1.5 max-sm:min-h-11">
                {say({ code: `coverage.lacks.${what}`, args: [String(those.length)] })}
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
  const [north, setNorth] = useState(ground.northDeg);
  return (
    <form
      className="mt-4 border-t border-ink pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        onKeep(north);
      }}
    >
      <Labelled label={t('coverage.north')}>
        <NumberField className="field font-read !w-28" value={north} onChange={setNorth} />
      </Labelled>
      {north !== ground.northDeg && <button className="plain mt-1">{t('coverage.keep-north')}</button>}
    </form>
  );
}

function Drawing({
  drawn,
  levels,
  isBusy,
  onChange,
  onTake,
  onLeave,
}: {
  drawn: Drawn;
  /** Of the edition at hand. */
  levels: DetailLevel[];
  isBusy: boolean;
  onChange: (drawn: Drawn) => void;
  onTake: () => void;
  onLeave: () => void;
}) {
  const isOdd = drawn.typed !== undefined && readCorners(drawn.typed) === null;
  return (
    <form
      aria-label={t(`coverage.draw-${drawn.what}`)}
      onSubmit={(e) => {
        e.preventDefault();
        if (isWhole(drawn)) onTake();
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
              {[...new Set([...levels, drawn.level])].map((level) => (
                <option key={level} value={level}>
                  {t(`level.${level}`)}
                </option>
              ))}
            </select>
          </Labelled>
        </>
      ) : (
        <Labelled label={t('coverage.height')}>
          <NumberField
            className="field font-read !w-28"
            value={drawn.height}
            onChange={(height) => onChange({ ...drawn, height })}
            optional
          />
        </Labelled>
      )}
      <Labelled label={t('coverage.corners')}>
        <textarea
          className={`field font-read ${isOdd ? '!border-refused' : ''}`}
          aria-invalid={isOdd}
          rows={6}
          value={drawn.typed ?? written(drawn.corners)}
          onChange={(e) => onChange({ ...drawn, typed: e.target.value, corners: readCorners(e.target.value) ?? drawn.corners })}
        />
      </Labelled>
      {isOdd && <p className="text-label text-refused">{t('coverage.corners-odd')}</p>}
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <button className="forward !min-h-11 disabled:opacity-40" disabled={isBusy || !isWhole(drawn)}>
          {t('coverage.take')}
        </button>
        <button
          type="button"
          className="plain"
          disabled={drawn.corners.length === 0}
          onClick={() => onChange({ ...drawn, corners: drawn.corners.slice(0, -1), typed: undefined })}
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
      <span>{t('coverage.legend-cells', Math.max(...coverage.grounds.map((g) => g.cellMetres)))}</span>
    </p>
  );
}
