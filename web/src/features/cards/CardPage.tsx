import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import { drawn } from '../../api/ahead';
import { useCard, useCatalogue, useDemo, useKit } from '../../api/queries';
import type { CardAnswer, CardRow, CatalogueAnswer, KitAnswer, KitInstrument, WalkAnswer, WalkStop } from '../../api/types';
import { useReadOutbox } from '../../outbox/outbox';
import type { OutboxItem } from '../../outbox/items';
import { mayDo, personIn, useAccess } from '../../session/access';
import { useIdentity } from '../../session/identity';
import { useHand } from '../../session/posture';
import { currentJob, setCurrentJob } from '../../session/job';
import { useJob } from '../../session/useJob';
import { Waiting } from '../walk/WalkPage';
import { CabinetCard } from './CabinetCard';
import { HandCard } from './HandCard';
import { due, firstRow, nextAsking, staysAt } from './due';
import type { SheetName } from './sheetProps';

const CardSheet = lazy(() => import('./CardSheet').then((m) => ({ default: m.CardSheet })));

/** What both postures of a Card work with. */
export interface CardView {
  answer: CardAnswer;
  walk?: WalkAnswer;
  kit?: KitAnswer;
  catalogue?: CatalogueAnswer;
  instrument?: KitInstrument;
  demo: boolean;
  /** Why nothing can be recorded on this Card by whoever is here, as a text's code; empty where it can. */
  readOnly: string;
  outbox: OutboxItem[];
  /** The row at hand. */
  active?: CardRow;
  activate: (rowId: string) => void;
  sheet: (name: SheetName, row?: CardRow, faultId?: string) => void;
  goStop: (by: number) => void;
  /** The Stop after this one on the round. */
  nextStop?: WalkStop;
  zone: string;
  nameOfPerson: (id: string) => string;
}

export function CardPage() {
  const { deviceId } = useParams({ from: '/card/$deviceId' });
  return <CardOf key={deviceId} deviceId={deviceId} />;
}

function CardOf({ deviceId }: { deviceId: string }) {
  const search = useSearch({ from: '/card/$deviceId' });
  const navigate = useNavigate();
  const hand = useHand();
  const card = useCard(deviceId);
  const { job, walk } = useJob();
  const isThere = !!card.data || card.isError;
  useEffect(() => {
    if (isThere) drawn();
  }, [isThere]);
  const jobId = card.data?.place.jobId;
  // A Card that was found by its own address says which job it is of.
  useEffect(() => setCurrentJob(jobId ?? currentJob()), [jobId]);
  const kit = useKit(jobId);
  const catalogue = useCatalogue();
  const demo = useDemo();
  const read = useReadOutbox();
  const outbox = useMemo(() => (read ?? []).filter((item) => item.deviceId === deviceId), [read, deviceId]);
  const me = useIdentity();
  const access = useAccess().data;
  const [activeId, setActive] = useState<string | undefined>(search.row);
  const [sheet, setSheet] = useState<{ name: SheetName; row?: CardRow; faultId?: string }>();
  const stops = useMemo(() => walk.data?.areas.flatMap((a) => a.stops) ?? [], [walk.data]);
  // What waits to be sent is read a moment after the Card, or with it: nobody is asked again for what he has just kept.
  const isRead = read !== undefined;
  const touched = useRef(!!search.row);
  const chosen = useRef(false);
  useEffect(() => {
    if (!card.data) return;
    if (staysAt(card.data.card.rows, activeId, touched.current || chosen.current || !isRead)) return;
    chosen.current = isRead;
    setActive(firstRow(card.data.card, outbox)?.id);
  }, [card.data, activeId, outbox, isRead]);
  const activate = (rowId: string) => {
    touched.current = true;
    setActive(rowId);
  };
  if (!card.data) return <Waiting error={card.error} again={() => void card.refetch()} />;
  const answer = card.data;
  const at = stops.findIndex((s) => s.id === deviceId);
  const view: CardView = {
    answer,
    walk: walk.data,
    kit: kit.data,
    catalogue: catalogue.data,
    instrument: kit.data?.instruments.find((i) => i.id === me.instrumentId),
    demo: demo.data?.demo ?? false,
    readOnly: access?.me
      ? mayDo(access, 'work') && personIn(access, jobId)
        ? ''
        : 'access.read-only'
      : me.personId
        ? ''
        : 'access.nobody-chosen',
    outbox,
    active: answer.card.rows.find((row) => row.id === activeId),
    activate,
    sheet: (name, row, faultId) => (!view.readOnly || name === 'verdict' || name === 'demo') && setSheet({ name, row, faultId }),
    nextStop: stops[at + 1],
    goStop: (by) => {
      const to = stops[at + by];
      if (to) void navigate({ to: '/card/$deviceId', params: { deviceId: to.id } });
    },
    zone: job?.timeZone ?? walk.data?.timeZone ?? 'UTC',
    nameOfPerson: (id) => kit.data?.people.find((p) => p.id === id)?.name ?? '',
  };
  return (
    <>
      {hand ? <HandCard view={view} /> : <CabinetCard view={view} />}
      {sheet && (
        <Suspense>
          <CardSheet
            name={sheet.name}
            faultId={sheet.faultId}
            row={sheet.row ? (answer.card.rows.find((r) => r.id === sheet.row!.id) ?? sheet.row) : undefined}
            answer={answer}
            catalogue={catalogue.data}
            zone={view.zone}
            nameOfPerson={view.nameOfPerson}
            onClose={() => setSheet(undefined)}
            onKept={() => {
              setSheet(undefined);
              // What was skipped is not asked for again just now.
              const next = sheet.name === 'skip' && sheet.row && nextAsking(due(answer.card.rows), outbox, sheet.row.id);
              if (next) activate(next.id);
            }}
          />
        </Suspense>
      )}
    </>
  );
}
