import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { answered, api, ProblemError } from '../../api/client';
import { entry, troubleOf } from '../../api/send';
import { useKept } from '../../session/kept';
import type { RegisterAnswer, RegisterLine } from '../../api/types';
import { useMay } from '../../session/access';
import { t } from '../../texts';
import { useKeys } from '../../ui/keys';
import { usual, widthOf } from './columns';
import { type Handlers, Row } from './RegisterRow';
import { Findings } from './RegisterFindings';
import { CancelDevice } from './CancelDevice';
import { AddDevice } from './AddDevice';
import { type CellTrouble } from './cellTrouble';

const none: [string, string][] = [];

/** The register as a table: arrows move, Enter edits, paste fills from a spreadsheet. What is changed is kept together, with why. */
export function Table({ jobId, register }: { jobId: string; register: RegisterAnswer }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const search = useSearch({ from: '/register' });
  const [all, setAll] = useState(false);
  const [at, setAt] = useState({ row: 0, column: 0 });
  const [typing, showTyping] = useState<string>();
  // Keys come faster than pages are drawn: what is being typed is known at once.
  const typed = useRef<string>(undefined);
  const setTyping = (text?: string) => {
    typed.current = text;
    showTyping(text);
  };
  // Cells outlive the page: who goes to look at a Card finds them again.
  const [cells, keepCells] = useKept<[string, string][]>('register', none);
  const edits = useMemo(() => new Map(cells), [cells]);
  const setEdits = (next: Map<string, string>) => keepCells(next.size > 0 ? [...next] : undefined);
  const [why, setWhy] = useKept<string>('register.why', '');
  const [troubles, setTroubles] = useState(new Map<string, CellTrouble>());
  const [trouble, setTrouble] = useState<string>();
  const [adding, setAdding] = useState(false);
  const may = useMay('register');
  const mayPlan = useMay('plan');
  const [busy, setBusy] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const columns = useMemo(
    () =>
      register.columns
        .map((c, i) => ({ id: c.id, index: i }))
        .filter((c) => all || usual.includes(c.id) || register.rows.some((r) => c.id in r.planned)),
    [register, all],
  );
  const late = useDeferredValue((search.find ?? '').trim().toLowerCase());
  const rows = useMemo(() => {
    const about = search.finding === undefined ? undefined : new Set(register.findings[search.finding]?.devices);
    return register.rows.filter(
      (r) =>
        (!late || r.cells.some((c) => c?.toLowerCase().includes(late))) &&
        (!search.different || Object.keys(r.planned).length > 0 || r.added || r.cancelled) &&
        (!about || about.has(r.id)),
    );
  }, [register, late, search.different, search.finding]);
  const lines = useVirtualizer({ count: rows.length, getScrollElement: () => box.current, estimateSize: () => 34, overscan: 5 });
  const template = useMemo(() => columns.map((c) => `${widthOf(c.id)}px`).join(' '), [columns]);
  // While the table flies past, only labels and names are drawn; the rest comes when it slows down.
  const [offset, setOffset] = useState({ at: 0, fast: false });
  const now = lines.scrollOffset ?? 0;
  if (offset.at !== now) setOffset({ at: now, fast: lines.isScrolling && Math.abs(now - offset.at) > 340 });
  const flying = offset.fast && lines.isScrolling;
  const shownColumns = useMemo(() => (flying ? columns.slice(0, 2) : columns), [columns, flying]);
  const total = columns.reduce((n, c) => n + widthOf(c.id), 0);
  const keyOf = (row: RegisterLine, field: string) => `${row.id} ${field}`;
  const textOf = (row: RegisterLine, c: { id: string; index: number }) => edits.get(keyOf(row, c.id)) ?? row.cells[c.index] ?? '';
  const set = (changes: [RegisterLine, { id: string; index: number }, string][]) => {
    if (!may) {
      setTrouble(t('access.reads-here'));
      return;
    }
    const next = new Map(edits);
    for (const [row, c, text] of changes) {
      next.delete(keyOf(row, c.id));
      if (text.trim() !== (row.cells[c.index] ?? '')) next.set(keyOf(row, c.id), text.trim());
    }
    setEdits(next);
    setTroubles(new Map());
    setTrouble(undefined);
  };
  /** Puts back the cell that was changed last. */
  const undo = () => {
    setEdits(new Map([...edits].slice(0, -1)));
    setTroubles(new Map());
    setTrouble(undefined);
  };
  const go = (row: number, column: number) => {
    const r = Math.max(0, Math.min(rows.length - 1, row));
    const c = Math.max(0, Math.min(columns.length - 1, column));
    setAt({ row: r, column: c });
    lines.scrollToIndex(r, { align: 'auto' });
    const left = columns.slice(0, c).reduce((n, x) => n + widthOf(x.id), 0);
    const element = box.current;
    if (element && c > 0) {
      const first = widthOf(columns[0].id);
      if (left - first < element.scrollLeft) element.scrollLeft = left - first;
      if (left + widthOf(columns[c].id) > element.scrollLeft + element.clientWidth)
        element.scrollLeft = left + widthOf(columns[c].id) - element.clientWidth;
    }
  };
  const finish = (move: [number, number] | null) => {
    const row = rows[at.row];
    const column = columns[at.column];
    if (typed.current !== undefined && row && column && move) set([[row, column, typed.current]]);
    setTyping(undefined);
    if (move) go(at.row + move[0], at.column + move[1]);
    requestAnimationFrame(() => box.current?.focus());
  };
  const press = (event: React.KeyboardEvent) => {
    if (typed.current !== undefined) {
      if (event.key === 'Enter') finish([1, 0]);
      else if (event.key === 'Tab') finish([0, event.shiftKey ? -1 : 1]);
      else if (event.key === 'Escape') finish(null);
      else if (event.target === box.current && event.key.length === 1) setTyping(typed.current + event.key);
      else return;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const page = Math.floor((box.current?.clientHeight ?? 400) / 34) - 1;
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
      Home: [0, -99],
      End: [0, 99],
    };
    const row = rows[at.row];
    const column = columns[at.column];
    if (!row || !column) return;
    if (moves[event.key]) go(at.row + moves[event.key][0], at.column + moves[event.key][1]);
    else if (event.key === 'Enter' || event.key === 'F2') setTyping(textOf(row, column));
    else if (event.key === 'Delete' || event.key === 'Backspace') set([[row, column, '']]);
    else if ((event.ctrlKey || event.metaKey) && event.key === 'z') undo();
    else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) setTyping(event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const paste = (event: React.ClipboardEvent) => {
    if (typed.current !== undefined) return;
    const text = event.clipboardData.getData('text/plain').replace(/\r\n?/g, '\n').replace(/\n$/, '');
    if (!text) return;
    event.preventDefault();
    const grid = text.split('\n').map((l) => l.split('\t'));
    set(
      grid.flatMap((cells, r) =>
        cells.flatMap((cell, c) => {
          const row = rows[at.row + r];
          const column = columns[at.column + c];
          return row && column ? [[row, column, cell] as [RegisterLine, { id: string; index: number }, string]] : [];
        }),
      ),
    );
  };
  const keep = async (more: { deviceId: string; field: string; text: string }[] = []) => {
    setBusy(true);
    setTrouble(undefined);
    try {
      const own = [...edits].map(([key, text]) => ({ deviceId: key.split(' ')[0], field: key.split(' ')[1], text }));
      await answered(
        api.POST('/api/jobs/{jobId}/register/edits', {
          params: { path: { jobId } },
          body: { ...entry(v7()), edits: more.length ? more : own, why: why.trim() || null },
        }),
      );
      if (!more.length) setEdits(new Map());
      setWhy(undefined);
      await client.invalidateQueries({ queryKey: ['register'] });
      await client.invalidateQueries({ queryKey: ['walk'] });
    } catch (error) {
      const cells = error instanceof ProblemError ? ((error.problem as { cells?: CellTrouble[] }).cells ?? []) : [];
      setTroubles(new Map(cells.map((c) => [`${c.deviceId} ${c.field}`, c])));
      setTrouble(cells[0] ? `${cells[0].what} ${cells[0].mend}` : troubleOf(error));
    } finally {
      setBusy(false);
    }
  };
  const narrow = (change: Partial<typeof search>) => void navigate({ to: '/register', search: { ...search, ...change }, replace: true });
  useKeys({
    '/': (e) => (e.preventDefault(), document.getElementById('register-find')?.focus()),
    w: () => void navigate({ to: '/' }),
  });
  const row = rows[at.row];
  const column = columns[at.column];
  const cellTrouble = row && column ? troubles.get(keyOf(row, column.id)) : undefined;
  const handlers = useRef<Handlers>({ press: () => {}, type: setTyping, key: press, leave: () => {} });
  useLayoutEffect(() => {
    handlers.current = {
      press: (r, c, text) => {
        if (at.row === r && at.column === c) setTyping(text);
        else {
          if (typed.current !== undefined) finish([0, 0]);
          setAt({ row: r, column: c });
        }
      },
      type: setTyping,
      key: press,
      leave: () => finish([0, 0]),
    };
  });
  const editsOf = useMemo(() => byRow([...edits]), [edits]);
  const troublesOf = useMemo(() => byRow([...troubles.keys()].map((k) => [k, 'x'])), [troubles]);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2 px-6 pb-2 pt-3 text-label max-sm:px-4">
        <h1 className="text-lead font-bold">{t('register.title')}</h1>
        <label className="flex items-center gap-2">
          <span className="sr-only">{t('register.filter')}</span>
          <input
            id="register-find"
            type="search"
            placeholder=""
            className="field !min-h-9 !w-56 !py-1"
            value={search.find ?? ''}
            onChange={(e) => narrow({ find: e.target.value || undefined })}
          />
          <span>{t('register.show', rows.length, register.rows.length)}</span>
        </label>
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="h-5 w-5 accent-ink"
            checked={!!search.different}
            onChange={(e) => narrow({ different: e.target.checked || undefined })}
          />
          {t('register.only-different')}
        </label>
        <button className="min-h-9 font-semibold underline" onClick={() => setAll(!all)}>
          {t(all ? 'register.few-columns' : 'register.all-columns')}
        </button>
        <span className="ml-auto flex flex-wrap items-center gap-4">
          {may && (
            <button className="min-h-9 font-semibold underline" onClick={() => setAdding(true)}>
              {t('register.add')}
            </button>
          )}
          <a className="flex min-h-9 items-center font-semibold underline" href={`/api/jobs/${jobId}/schedule.csv`}>
            {t('register.csv')}
          </a>
          <a className="flex min-h-9 items-center font-semibold underline" href={`/api/jobs/${jobId}/schedule.xlsx`}>
            {t('register.xlsx')}
          </a>
          {mayPlan && (
            <Link to="/import" className="plain inline-flex items-center">
              {t('register.take')}
            </Link>
          )}
        </span>
      </div>
      <Findings register={register} chosen={search.finding} choose={(finding) => narrow({ finding })} />
      <div
        ref={box}
        role="grid"
        aria-label={t('register.title')}
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length}
        aria-activedescendant="register-here"
        tabIndex={0}
        className="min-h-0 flex-1 overflow-auto register-grid border-t border-ink bg-paper will-change-scroll"
        onKeyDown={press}
        onPaste={paste}
      >
        <div style={{ width: total, minWidth: '100%' }}>
          <div role="row" className="sticky top-0 z-30 flex bg-paper">
            {columns.map((c, i) => (
              <div
                key={c.id}
                role="columnheader"
                style={{ width: widthOf(c.id) }}
                className={`shrink-0 border-b border-ink px-2 py-1.5 text-tick font-bold text-ink-2 ${i === 0 ? 'sticky left-0 bg-paper' : ''}`}
              >
                {t(`field.${c.id}`)}
              </div>
            ))}
          </div>
          <div style={{ height: lines.getTotalSize(), position: 'relative' }} role="presentation">
            {lines.getVirtualItems().map((line) => {
              const r = rows[line.index];
              return (
                // Rows that leave are used again for those that come: changing a text is far quicker than a new cell.
                <Row
                  key={line.index % 96}
                  row={r}
                  index={line.index}
                  top={line.start}
                  columns={shownColumns}
                  register={register}
                  here={at.row === line.index ? at.column : -1}
                  typing={at.row === line.index ? typing : undefined}
                  edits={editsOf.get(r.id)}
                  troubles={troublesOf.get(r.id)}
                  handlers={handlers}
                  template={template}
                  width={total}
                />
              );
            })}
          </div>
        </div>
      </div>
      <footer className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-t border-hairline px-6 py-1 text-label">
        {edits.size > 0 ? (
          <>
            <span role="status" className="font-bold">
              {t('register.changed', edits.size)}
            </span>
            <label className="flex items-center gap-2">
              {t('register.why-label')}
              <input
                className="field !min-h-9 !w-64 !py-1"
                value={why}
                maxLength={400}
                onChange={(e) => setWhy(e.target.value || undefined)}
              />
            </label>
            <button className="forward !min-h-9 disabled:opacity-50" disabled={busy} onClick={() => void keep()}>
              {t('register.keep', edits.size)}
            </button>
            <button className="min-h-9 font-semibold underline" onClick={undo}>
              {t('register.undo')}
            </button>
            <button
              className="min-h-9 font-semibold underline"
              onClick={() => (setEdits(new Map()), setTroubles(new Map()), setTrouble(undefined))}
            >
              {t('register.drop')}
            </button>
          </>
        ) : (
          row &&
          column && (
            <>
              <span className="font-read font-bold">{row.cells[0]}</span>
              <span>
                {t(`field.${column.id}`)}
                {column.id in row.planned && `: ${t('register.planned', row.planned[column.id] || t('register.nothing'))}`}
              </span>
              {row.added && <span className="text-ink-2">{t('register.added')}</span>}
              {row.cancelled && <span className="text-ink-2">{t('register.cancelled')}</span>}
              <Link to="/card/$deviceId" params={{ deviceId: row.id }} className="flex min-h-9 items-center font-semibold underline">
                {t('register.open-card')}
              </Link>
              {may && (
                <CancelDevice
                  row={row}
                  busy={busy}
                  why={why}
                  setWhy={setWhy}
                  onSave={(text) => keep([{ deviceId: row.id, field: 'standing', text }])}
                />
              )}
            </>
          )
        )}
        {(cellTrouble || trouble) && (
          <span role="alert" className="font-semibold text-refused">
            {cellTrouble ? `${cellTrouble.what} ${cellTrouble.mend}` : trouble}
          </span>
        )}
      </footer>
      {adding && <AddDevice jobId={jobId} register={register} onClose={() => setAdding(false)} />}
    </main>
  );
}

/** Edits or troubles by row, then by column; a row without any keeps nothing, so that it is not drawn again. */
function byRow(list: [string, string][]) {
  const rows = new Map<string, Record<string, string>>();
  for (const [key, text] of list) {
    const [row, field] = key.split(' ') as [string, string];
    rows.set(row, { ...rows.get(row), [field]: text });
  }
  return rows;
}
