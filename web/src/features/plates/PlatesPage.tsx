import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { useDemo } from '../../api/queries';
import { mayDo, useAccess } from '../../session/access';
import { useHand } from '../../session/posture';
import { useJob } from '../../session/useJob';
import { say, t } from '../../texts';
import { dayAndClock } from '../../ui/format';
import { Trouble } from '../../ui/Trouble';
import { Waiting } from '../walk/WalkPage';
import { DemoDrive } from './DemoDrive';
import { DriveCounts, DriveResult } from './DriveCounts';
import { DriveSheet } from './DriveSheet';
import { DriveStrip } from './DriveStrip';
import { rowsToKeep, type Plates } from './driveWords';
import { GeometrySheet } from './GeometrySheet';
import { PassList } from './PassList';
import { Roadside } from './Roadside';
import { SeenList } from './SeenList';
import { usePlates } from './usePlates';
import { ZoneInView } from './ZoneInView';
import '../pageTexts';
import './plateTexts';

/** A test drive before a plate reader: planned, ticked off at the roadside, held against the list that came of it. */
export default function PlatesPage() {
  const { deviceId } = useParams({ from: '/plates/$deviceId' });
  const plates = usePlates(deviceId);
  const { query } = plates;
  if (!query.data) return <Waiting error={query.error} again={() => void query.refetch()} />;
  if (!query.data.isReader) return <p className="p-6">{t('problem.no-plate-reader')}</p>;
  return <Drive key={deviceId} deviceId={deviceId} answer={query.data} plates={plates} />;
}

function Drive({ deviceId, answer, plates }: { deviceId: string; answer: Plates; plates: ReturnType<typeof usePlates> }) {
  const hand = useHand();
  const access = useAccess().data;
  const mayWork = mayDo(access, 'work');
  const demo = useDemo().data?.demo;
  const [isAgreeing, setAgreeing] = useState(false);
  const { trial } = answer;
  const { design, plan } = trial;
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className={`mx-auto max-w-[1440px] pb-8 ${hand ? 'px-4' : 'px-6'}`}>
        <header className={`flex items-center gap-x-4 border-b border-ink ${hand ? 'min-h-11' : 'flex-wrap py-2'}`}>
          <h1 className={`font-read leading-tight font-bold whitespace-nowrap ${hand ? 'text-title' : 'text-[2rem]'}`}>{answer.label}</h1>
          {!hand && <span className="min-w-0 text-lead">{answer.name}</span>}
          <span className={hand ? 'text-label text-ink-2' : 'text-lead text-ink-2'}>{t('plates.page.title')}</span>
          <Link
            to="/card/$deviceId"
            params={{ deviceId }}
            className="ml-auto flex min-h-11 items-center text-label font-semibold underline"
          >
            {t('plates.page.back')}
          </Link>
        </header>
        <Trouble text={plates.trouble} className="my-2" />
        <div className="grid gap-x-10 gap-y-3 pt-3 min-[900px]:grid-cols-[20rem_minmax(0,1fr)] min-[900px]:grid-rows-[auto_1fr]">
          <div className="min-w-0">
            {design && plan ? (
              <>
                <Roadside answer={answer} plates={plates} mayWork={mayWork} />
                <p className="mt-1 border-t border-hairline pt-1 text-label text-ink-2">
                  {t(
                    design.allowedMisses ? 'plates.page.plan' : 'plates.page.plan-none',
                    plan.counted,
                    trial.requiredPercent,
                    Math.ceil(plan.minutes),
                    plan.byTable,
                    design.allowedMisses,
                  )}{' '}
                  {t('plates.page.set', design.intervalSeconds, t(design.rule ? `drive.rule.${design.rule}` : 'plates.page.rule-unknown'))}
                </p>
                <button className="plain mt-1" disabled={!mayWork} onClick={() => setAgreeing(true)}>
                  {t('plates.page.change')}
                </button>
                <p className="mt-1 text-label text-ink-2">{t('plates.page.changed')}</p>
              </>
            ) : (
              <>
                <p className="text-table">{t('plates.page.none')}</p>
                <button className="forward mt-2 w-full" disabled={!mayWork} onClick={() => setAgreeing(true)}>
                  {t('plates.page.begin')}
                </button>
              </>
            )}
            {demo && design && <DemoDrive answer={answer} plates={plates} />}
          </div>
          {design && (
            <div className="min-w-0 min-[900px]:col-start-2 min-[900px]:row-span-2 min-[900px]:row-start-1">
              <Lists answer={answer} plates={plates} mayWork={mayWork} />
              {trial.passes.length > 0 && (
                <>
                  {trial.lists.length > 0 && <DriveResult trial={trial} />}
                  <DriveStrip trial={trial} />
                  <ul className="mt-2" data-testid="drive-told">
                    {trial.told.map((m) => (
                      <li key={m.code + m.args.join()} className="border-b border-dotted border-hairline py-1 text-table">
                        {say(m)}
                      </li>
                    ))}
                  </ul>
                  <DriveCounts trial={trial} />
                  <KeepRows answer={answer} plates={plates} mayWork={mayWork} />
                  <PassList trial={trial} mayWork={mayWork} onTakeBack={(id) => void plates.takeBack(id)} />
                </>
              )}
            </div>
          )}
          <div className="min-w-0 min-[900px]:col-start-1">
            <Geometry answer={answer} deviceId={deviceId} plates={plates} mayWork={mayWork} />
            <p className="mt-3 text-label text-ink-2">{t('plates.page.caution-data')}</p>
          </div>
        </div>
      </div>
      {isAgreeing && <DriveSheet begin={answer.begin} onClose={() => setAgreeing(false)} onAgree={plates.agree} />}
    </main>
  );
}

/** What a plate is in the picture, by the row of the Card. */
function Geometry({
  answer,
  deviceId,
  plates,
  mayWork,
}: {
  answer: Plates;
  deviceId: string;
  plates: ReturnType<typeof usePlates>;
  mayWork: boolean;
}) {
  const [seen] = answer.geometry;
  const [isOpen, setOpen] = useState(false);
  const row = answer.geometryRow;
  return (
    <section className="mt-4 border-t border-ink pt-1">
      <h2 className="text-label font-bold">{t('check.plates.geometry')}</h2>
      {seen ? <SeenList seen={seen} /> : <p className="text-label text-ink-2">{t('plates.page.no-geometry')}</p>}
      {answer.view && (
        <ZoneInView view={answer.view} picture={answer.picture ? `/api/cards/${deviceId}/pictures/${answer.picture}.jpg` : undefined} />
      )}
      {row && (
        <button className="plain mt-1" disabled={!mayWork} onClick={() => setOpen(true)}>
          {t(seen ? 'plates.page.geometry-again' : 'plates.page.geometry')}
        </button>
      )}
      {isOpen && row && (
        <GeometrySheet
          deviceId={deviceId}
          begin={answer.setting}
          onClose={() => setOpen(false)}
          onKeep={(lines) => plates.keepRow(row, lines)}
        />
      )}
    </section>
  );
}

function Lists({ answer, plates, mayWork }: { answer: Plates; plates: ReturnType<typeof usePlates>; mayWork: boolean }) {
  const { job } = useJob();
  const [from, setFrom] = useState<'file' | 'cameraPage'>('file');
  const [list] = answer.trial.lists;
  return (
    <section aria-label={t('plates.page.list')}>
      <div className="flex flex-wrap items-center gap-2">
        {answer.canAsk && answer.recorder && (
          <button className="forward" disabled={!mayWork || plates.isAsking} onClick={() => void plates.ask()}>
            {plates.isAsking ? t('plates.page.asking') : t('plates.page.ask', answer.recorder)}
          </button>
        )}
        <label className="plain inline-flex cursor-pointer items-center justify-center">
          {t('plates.page.file')}
          <input
            type="file"
            accept=".csv,.txt,.xlsx"
            className="sr-only"
            data-testid="plate-file"
            disabled={!mayWork || plates.isAsking}
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) void plates.file(file, from);
            }}
          />
        </label>
        <select
          className="field !w-auto"
          aria-label={t('plates.page.from')}
          value={from}
          onChange={(e) => setFrom(e.target.value as typeof from)}
        >
          <option value="file">{t('plates.from.file')}</option>
          <option value="cameraPage">{t('plates.from.cameraPage')}</option>
        </select>
      </div>
      {list && (
        <p className="mt-1 text-label text-ink-2" data-testid="list-says">
          {t('plates.page.list-says', list.name, dayAndClock(list.takenAt, job?.timeZone ?? 'UTC'), list.records, list.own, list.others)}
        </p>
      )}
    </section>
  );
}

/** Puts the count on the Card, by day and by night. */
function KeepRows({ answer, plates, mayWork }: { answer: Plates; plates: ReturnType<typeof usePlates>; mayWork: boolean }) {
  const rows = rowsToKeep(answer);
  const [isKept, setKept] = useState(false);
  if (answer.rows.length === 0) return null;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      <button
        className="forward disabled:opacity-40"
        disabled={!mayWork || rows.length === 0}
        onClick={() =>
          void (async () => {
            for (const row of rows) if (!(await plates.keepRow(row.row, row.lines))) return;
            setKept(true);
          })()
        }
      >
        {t('plates.page.keep')}
      </button>
      <span className="text-label" role="status">
        {rows.length === 0
          ? t('plates.page.kept')
          : isKept
            ? t('plates.page.keeping')
            : rows.map((r) => `${t(`check.${r.check}`)}: ${t(`state.${r.state}`)}`).join('; ')}
      </span>
    </div>
  );
}
