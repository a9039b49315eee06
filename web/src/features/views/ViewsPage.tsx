import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { answered, api, ProblemError } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { troubleOf } from '../../api/send';
import { keep } from '../../outbox/outbox';
import { mayDo, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { Labelled, Sheet } from '../../ui/Dialog';
import { dayAndClock } from '../../ui/format';
import { LeaveGuard } from '../../ui/LeaveGuard';
import { NumberField } from '../../ui/NumberField';
import { Trouble } from '../../ui/Trouble';
import { Waiting } from '../walk/WalkPage';
import { EditionField } from './EditionField';
import { FromAbove } from './FromAbove';
import { FromSide } from './FromSide';
import { GlareYear } from './GlareYear';
import { Targets } from './Targets';
import { TiltWindow } from './TiltWindow';
import type { Design, Figures } from './geometry';
import '../pageTexts';
import './viewTexts';

const PlateFigures = lazy(() => import('./PlateFigures'));

type Answer = components['schemas']['ViewsAnswer'];
type Head = Answer['heads'][number];

/** What a camera should see: planned, tried, agreed. */
export default function ViewsPage() {
  const { deviceId: device } = useParams({ from: '/views/$deviceId' });
  const [number, setNumber] = useState(1);
  const query = useQuery({
    queryKey: ['card', device, 'views'],
    queryFn: () => answered(api.GET('/api/cards/{deviceId}/views', { params: { path: { deviceId: device } } })),
  });
  if (!query.data) return <Waiting error={query.error} again={() => void query.refetch()} />;
  const shown = query.data.heads.find((h) => h.number === number) ?? query.data.heads[0];
  if (!shown) return <p className="p-6">{t('views.empty')}</p>;
  return <Designer key={`${device} ${shown.id}`} answer={query.data} head={shown} deviceId={device} onHead={setNumber} />;
}

/** How wide the drawings may be. */
function useWide() {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(700);
  useEffect(() => {
    if (!box.current) return;
    const seen = new ResizeObserver(([e]) => setWidth(Math.max(280, Math.floor(e.contentRect.width))));
    seen.observe(box.current);
    return () => seen.disconnect();
  }, []);
  return [box, width] as const;
}

function Designer({ answer, head, deviceId, onHead }: { answer: Answer; head: Head; deviceId: string; onHead: (n: number) => void }) {
  const { job } = useJob();
  const me = useIdentity();
  const access = useAccess().data;
  const mayWork = mayDo(access, 'work');
  const [design, setDesign] = useState<Design>(head.begin);
  const [edition, setEdition] = useState(answer.edition);
  const [asking, setAsking] = useState(false);
  // What is kept on this device is not lost, sent or not.
  const [keptHere, setKeptHere] = useState(JSON.stringify(head.begin));
  const [said, setSaid] = useState('');
  const [box, width] = useWide();
  const text = JSON.stringify(design);
  const begin = JSON.stringify(head.begin);
  // What somebody kept meanwhile is taken over, unless something was changed here that would be lost by it.
  const [base, setBase] = useState(begin);
  const [isOvertaken, setOvertaken] = useState(false);
  if (begin !== base) {
    setBase(begin);
    setOvertaken(text !== base && text !== keptHere && text !== begin);
    if (text === base || text === keptHere) setDesign(head.begin);
  }
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const soon = setTimeout(() => setSettled(text), 60);
    return () => clearTimeout(soon);
  }, [text]);
  const tried = useQuery({
    queryKey: ['views', deviceId, 'try', settled, edition],
    enabled: settled !== begin || edition !== answer.edition,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
    queryFn: ({ signal }) =>
      answered(
        api.POST('/api/cards/{deviceId}/views/try', {
          params: { path: { deviceId } },
          body: { design: JSON.parse(settled) as Design, edition },
          signal,
        }),
      ),
  });
  const plates = useQuery({
    queryKey: ['views', deviceId, 'plates', settled],
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
    queryFn: ({ signal }) =>
      answered(
        api.POST('/api/cards/{deviceId}/views/plates', {
          params: { path: { deviceId } },
          body: { design: JSON.parse(settled) as Design, edition },
          signal,
        }),
      ),
  });
  const [plate] = plates.data ?? [];
  const figures: Figures = (text === begin && edition === answer.edition ? undefined : tried.data) ?? head.figures;
  // Refused is refused; a record that cannot be reached only leaves the figures open.
  const refused = text !== begin && tried.error instanceof ProblemError;
  const behind = text !== begin && !!tried.error && !refused;
  const [last] = head.last;
  const [agreed] = head.agreed;
  const isChanged = text !== begin;
  const put = async (agreedBy: string | null) => {
    const id = await keep(deviceId, '/views', { headId: head.id, design, agreedBy });
    if (!id) return;
    setAsking(false);
    setKeptHere(text);
    setOvertaken(false);
    setSaid(t('views.kept'));
  };
  const state = agreed
    ? !isChanged && last?.agreedBy
      ? t('views.agreed', agreed.agreedBy ?? '', dayAndClock(agreed.at, job?.timeZone ?? 'UTC'))
      : t('views.changed', agreed.agreedBy ?? '')
    : last
      ? t('views.draft')
      : t('views.open');
  return (
    <main className="mx-auto grid max-w-[1440px] grid-cols-1 gap-x-8 px-4 pb-8 min-[1000px]:grid-cols-[minmax(0,1fr)_470px] min-[1100px]:px-6">
      <div className="min-w-0" ref={box}>
        <header className="flex flex-wrap items-baseline gap-x-4 pt-3">
          <h1 className="font-read text-[2rem] font-bold leading-tight">{answer.label}</h1>
          <p className="min-w-0 text-lead">{answer.name}</p>
          <Link to="/coverage" className="ml-auto flex min-h-11 items-center text-label font-semibold underline">
            {t('coverage.whole')}
          </Link>
          <Link to="/card/$deviceId" params={{ deviceId }} className="flex min-h-11 items-center text-label font-semibold underline">
            {t('views.back')}
          </Link>
        </header>
        {head.kept === 0 && <p className="text-label text-ink-2">{t('views.none')}</p>}
        <FromAbove code={answer.label} design={design} figures={figures} width={width} onChange={setDesign} zone={plate?.onGround} />
        <FromSide design={design} figures={figures} width={width} onChange={setDesign} />
        <TiltWindow tilt={design.tiltDeg} figures={figures} width={width} />
        <GlareYear deviceId={deviceId} design={JSON.parse(settled) as Design} width={width} />
      </div>
      <div className="min-w-0 pt-3">
        <div className="flex flex-wrap items-center gap-3 border-b border-ink pb-2">
          <span role="group" className="flex items-center gap-1">
            {answer.heads.length === 1 ? (
              <span className="text-label text-ink-2">{answer.model.name}</span>
            ) : (
              answer.heads.map((h) => (
                <button
                  key={h.id}
                  aria-pressed={h.id === head.id}
                  className={`plain ${h.id === head.id ? '!border-2 !border-ink' : ''}`}
                  onClick={() => onHead(h.number)}
                >
                  {t('views.head', h.number)}
                </button>
              ))
            )}
          </span>
          <b className="ml-auto" role="status">
            {state}
          </b>
        </div>
        {plate && (
          <Suspense>
            <PlateFigures view={plate} />
          </Suspense>
        )}
        <Notes figures={figures} trouble={behind ? t('views.no-figures') : refused ? troubleOf(tried.error) : ''} />
        <p className="mt-2 text-label">
          <b>{t('views.set')}</b> <span className="text-ink-3">{t('views.set-how')}</span>
        </p>
        <div className="grid grid-cols-2 gap-x-6 min-[1000px]:grid-cols-2">
          <Field name="heightMetres" unit="m" design={design} onChange={setDesign} />
          <Field name="azimuthDeg" unit="°" design={design} onChange={setDesign} optional />
          <Field
            name="tiltDeg"
            unit="°"
            design={design}
            onChange={setDesign}
            beside={range(answer.model.tiltLeast, answer.model.tiltMost, '°')}
          />
          <Field name="nearMetres" unit="m" design={design} onChange={setDesign} optional />
          <Field
            name="horizontalDeg"
            unit="°"
            design={design}
            onChange={setDesign}
            beside={range(answer.model.narrowestDeg, answer.model.widestDeg, '°')}
          />
          <Field name="pixelsWide" unit="px" design={design} onChange={setDesign} beside={t('views.by-down', design.pixelsHigh)} />
          {answer.model.hasInfrared && <Field name="infraredMetres" unit="m" design={design} onChange={setDesign} optional />}
          <label className="flex min-h-12 items-center justify-between gap-2 border-b border-dotted border-hairline text-label font-semibold">
            {t('view.field.use')}
            <select
              className="field !min-h-10 min-w-0 !w-32 !px-1 !py-1"
              value={design.use ?? ''}
              onChange={(e) => setDesign({ ...design, use: e.target.value || null })}
            >
              <option value="">{t('view.use.none')}</option>
              {answer.uses.map((u) => (
                <option key={u} value={u}>
                  {t(`view.use.${u}`)}
                </option>
              ))}
            </select>
          </label>
        </div>
        <Targets design={design} levels={figures.reaches.map((r) => r.level)} onChange={setDesign} />
        <Focus key={base} design={design} onChange={setDesign} />
        {!behind && <Expect figures={figures} edition={edition} onEdition={setEdition} />}
        {mayWork && (
          <div className="mt-3 flex gap-2">
            <button className="forward flex-1" disabled={!me.personId || refused || behind} onClick={() => setAsking(true)}>
              {t('views.agree')}
            </button>
            <button className="plain" disabled={!me.personId || text === keptHere || !isChanged || refused} onClick={() => void put(null)}>
              {t('views.keep')}
            </button>
          </div>
        )}
        <p role="status" className="min-h-5 text-label font-semibold">
          {isOvertaken ? t('views.overtaken') : said}
        </p>
        <p className="mt-2 text-label text-ink-2">{t('views.ladder')}</p>
        <p className="mt-1 text-label text-ink-2">{t('views.neighbours')}</p>
      </div>
      <LeaveGuard when={text !== keptHere && isChanged} />
      {asking && <Agree onClose={() => setAsking(false)} onAgree={(name) => void put(name)} />}
    </main>
  );
}

const range = (from: number | null, to: number | null, unit: string) =>
  from !== null && to !== null
    ? t('views.between', from, `${to}${unit}`)
    : from !== null
      ? t('views.at-least', `${from}${unit}`)
      : to !== null
        ? t('views.at-most', `${to}${unit}`)
        : '';

function Field({
  name,
  unit,
  design,
  onChange,
  beside,
  optional,
}: {
  name: 'heightMetres' | 'tiltDeg' | 'horizontalDeg' | 'azimuthDeg' | 'nearMetres' | 'infraredMetres' | 'pixelsWide';
  unit: string;
  design: Design;
  onChange: (design: Design) => void;
  beside?: string;
  optional?: boolean;
}) {
  return (
    <label className="flex min-h-12 items-center gap-1 border-b border-dotted border-hairline">
      <span className="min-w-0 flex-1 text-label leading-tight font-semibold">
        {t(`view.field.${name}`)}
        {beside && <span className="font-read block text-tick font-normal text-ink-3">{beside}</span>}
      </span>
      <NumberField
        optional={optional}
        className="field font-read !min-h-10 !w-[4.6rem] shrink-0 !px-1.5 !py-1 text-right font-bold"
        value={design[name]}
        onChange={(v: number | null) => onChange({ ...design, [name]: v })}
      />
      <span className="w-5 shrink-0 text-label text-ink-2">{unit}</span>
    </label>
  );
}

/** What is wrong with it, or is to be known. */
function Notes({ figures, trouble }: { figures: Figures; trouble: string }) {
  if (trouble) return <Trouble text={trouble} className="mt-2" />;
  return (
    <ul className="mt-1">
      {figures.notes.map((n, i) => (
        <li key={i} className="text-label text-noted">
          {say(n)}
        </li>
      ))}
    </ul>
  );
}

/** What follows from the numbers above. */
function Expect({
  figures,
  edition,
  onEdition,
}: {
  figures: Figures;
  edition: Answer['edition'];
  onEdition: (e: Answer['edition']) => void;
}) {
  const { ground } = figures;
  const row = (label: string, value: string, beside = '', wrong = false) => (
    <div
      key={label}
      className="grid min-h-9 grid-cols-[minmax(0,1fr)_auto_8.5rem] items-baseline gap-3 border-b border-dotted border-hairline py-1"
    >
      <span className="text-label font-semibold">{label}</span>
      <span className={`font-read text-lead font-bold ${wrong ? 'text-refused' : ''}`}>{value}</span>
      <span className={`font-read text-right text-label ${wrong ? 'font-semibold text-refused' : 'text-ink-2'}`}>{beside}</span>
    </div>
  );
  return (
    <section aria-label={t('views.expect')} className="mt-3 border-t border-ink pt-1">
      <p className="flex flex-wrap items-center gap-x-2 text-label">
        <b>{t('views.expect')}</b> <span className="text-ink-3">{t('views.expect-how')}</span>
        <EditionField edition={edition} onEdition={onEdition} className="ml-auto" />
      </p>
      {figures.targets.map((x, i) =>
        row(
          `${x.target.name || i + 1}, ${x.target.groundMetres} m`,
          x.pixelsPerMetre === null ? '\u2013' : `${x.pixelsPerMetre.toFixed(0)} px/m`,
          x.sparePerMetre === null
            ? t('views.need', x.needPerMetre)
            : x.sparePerMetre >= 0
              ? t('views.spare', x.sparePerMetre.toFixed(0))
              : t('views.missing', (-x.sparePerMetre).toFixed(0)),
          !x.holds,
        ),
      )}
      {row(t('views.near'), ground.nearMetres === null ? '\u2013' : `${Math.max(0, ground.nearMetres).toFixed(1)} m`)}
      {row(
        t('views.far'),
        ground.farMetres === null ? (ground.horizonInView ? t('views.horizon') : '\u2013') : `${ground.farMetres.toFixed(1)} m`,
      )}
      {figures.sharp.map((x) =>
        row(
          t('views.sharp'),
          x.farMetres === null
            ? t('views.from-on', x.nearMetres.toFixed(1))
            : t('views.between', x.nearMetres.toFixed(1), `${x.farMetres.toFixed(1)} m`),
        ),
      )}
      {figures.infraredMetres !== null && row(t('view.field.infraredMetres'), `${figures.infraredMetres.toFixed(1)} m`)}
    </section>
  );
}

const lens = ['focalMm', 'fNumber', 'focusMetres', 'pixelMicrons'] as const;

/** What must be sharp, where somebody says how the lens is set. Nothing is taken for granted: it is worked out once all four are said. */
function Focus({ design, onChange }: { design: Design; onChange: (design: Design) => void }) {
  const [said, setSaid] = useState<Partial<Record<(typeof lens)[number], number | null>> | undefined>(design.focus ?? undefined);
  if (!said)
    return (
      <button className="min-h-11 text-label font-semibold underline" onClick={() => setSaid({})}>
        {t('views.add-focus')}
      </button>
    );
  const set = (next: typeof said) => {
    setSaid(next);
    const [focalMm, fNumber, focusMetres, pixelMicrons] = lens.map((name) => next[name] ?? null);
    onChange({
      ...design,
      focus:
        focalMm === null || fNumber === null || focusMetres === null || pixelMicrons === null
          ? null
          : { focalMm, fNumber, focusMetres, pixelMicrons },
    });
  };
  return (
    <fieldset className="mt-2 border-t border-ink pt-1">
      <legend className="float-left flex w-full items-center justify-between text-label">
        <b>{t('views.sharp')}</b>
        <button
          className="min-h-11 font-semibold underline"
          onClick={() => {
            setSaid(undefined);
            onChange({ ...design, focus: null });
          }}
        >
          {t('views.remove-focus')}
        </button>
      </legend>
      <div className="clear-both grid grid-cols-4 gap-x-2">
        {lens.map((name) => (
          <label key={name} className="text-tick text-ink-3">
            {t(`view.field.${name}`)}
            <NumberField
              optional
              className="field font-read !min-h-11 !px-2"
              value={said[name]}
              onChange={(v: number | null) => set({ ...said, [name]: v })}
            />
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function Agree({ onClose, onAgree }: { onClose: () => void; onAgree: (name: string) => void }) {
  const [name, setName] = useState('');
  return (
    <Sheet title={t('views.agree')} hint={t('views.agree-what')} onClose={onClose}>
      <Labelled label={t('views.agree-who')}>
        <input className="field" autoComplete="off" maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <button className="forward" disabled={!name.trim()} onClick={() => onAgree(name.trim())}>
        {t('views.agree-now')}
      </button>
    </Sheet>
  );
}
