// Kills the server with -9 while eight writers save readings, again and again; then every reading that was acknowledged must be there, once.
// node bench/kill.mjs TIMES PORT
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';

const times = Number(process.argv[2] ?? 100);
const port = Number(process.argv[3] ?? 4698);
const base = `http://localhost:${port}`;
const data = mkdtempSync(join(tmpdir(), 'walkdown-kill-'));
const acknowledged = new Map();
const inFlight = new Map();
let seed = 46;
const random = () => ((seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648);

const get = async (path) => (await fetch(base + path)).json();
async function start() {
  const server = spawn('dotnet', ['artifacts/server/Walkdown.Server.dll', '--port', port, '--data', data, '--demo', 'demo', '--web', 'web/dist'], { stdio: 'ignore' });
  const gone = new Promise((resolve) => server.once('exit', resolve));
  for (let n = 0; n < 300; n++) {
    try {
      if ((await fetch(`${base}/healthz`)).ok) return { server, gone };
    } catch {
      // Not yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('the server did not start');
}

let rows;
let person;
async function targets() {
  const [job] = await get('/api/jobs');
  person = (await get(`/api/jobs/${job.id}/kit`)).people[0].id;
  const stops = (await get(`/api/jobs/${job.id}/walk`)).areas.flatMap((a) => a.stops);
  const entry = new Map((await get('/api/catalogue/definitions')).checks.map((c) => [c.id, c.entry]));
  rows = [];
  for (const stop of stops)
    for (const row of (await get(`/api/cards/${stop.id}`)).card.rows) if (entry.get(row.key.check) === 'number' && row.heldBy.length === 0) rows.push({ device: stop.id, row: row.id });
}

async function send(entry) {
  inFlight.set(entry.body.id, entry);
  const response = await fetch(`${base}/api/cards/${entry.device}/readings`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(entry.body) });
  await response.arrayBuffer();
  if (!response.ok) throw new Error(`refused: ${response.status}`);
  inFlight.delete(entry.body.id);
  acknowledged.set(entry.body.id, entry.device);
}

let resent = 0;
for (let n = 0; n < times; n++) {
  const { server, gone } = await start();
  if (!rows) await targets();
  // What was cut off is sent again under its id, as the browser's outbox does.
  for (const entry of [...inFlight.values()]) {
    await send(entry);
    resent++;
  }
  let running = true;
  const writers = Array.from({ length: 8 }, async () => {
    while (running) {
      const target = rows[Math.floor(random() * rows.length)];
      const body = { id: randomUUID(), row: target.row, text: '41.5', source: 'typed', by: person, takenAt: new Date().toISOString(), clockOffsetMs: 0 };
      try {
        await send({ device: target.device, body });
      } catch {
        return;
      }
    }
  });
  await new Promise((resolve) => setTimeout(resolve, 80 + random() * 320));
  server.kill('SIGKILL');
  running = false;
  await Promise.all([gone, ...writers]);
}

const { server } = await start();
for (const entry of [...inFlight.values()]) {
  await send(entry);
  resent++;
}
const found = new Set();
const seen = new Map();
for (const device of new Set(rows.map((r) => r.device)))
  for (const row of (await get(`/api/cards/${device}`)).card.rows)
    // A reading of a run that two share stands on both Cards; twice on one of them it must not.
    for (const attempt of row.attempts) {
      const key = `${device} ${attempt.readingId}`;
      seen.set(key, (seen.get(key) ?? 0) + 1);
      found.add(attempt.readingId);
    }
const lost = [...acknowledged.keys()].filter((id) => !found.has(id));
const doubled = [...seen.values()].filter((count) => count > 1);
server.kill('SIGTERM');
rmSync(data, { recursive: true, force: true });
console.log(`${times} kills: ${acknowledged.size} readings acknowledged, ${resent} cut off and sent again, ${lost.length} lost, ${doubled.length} double, ${found.size - acknowledged.size} kept without an answer`);
process.exit(lost.length + doubled.length > 0 ? 1 : 0);
