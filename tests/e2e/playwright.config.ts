import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { defineConfig } from "@playwright/test";
import { portOf } from "./lines";

const root = resolve(import.meta.dirname, "../..");
// One folder for the whole run, kept in the environment since workers read this file too.
const data = (process.env.WALKDOWN_TEST_DATA ??= mkdtempSync(
  join(tmpdir(), "walkdown-e2e-"),
));
/** Lines of journeys that go abreast, each on a server and a made-up world of its own; one where nobody asks for more. */
const lines = Array.from(
  { length: Number(process.env.WALKDOWN_LINES ?? 1) },
  (_, line) => line,
);

/** What is tried: what was published for use, or what the test command has just built. */
const built = (name: string, published: string) =>
  process.env.WALKDOWN_BUILT
    ? `${root}/src/${name}/bin/${process.env.WALKDOWN_BUILT}/net10.0/${name}.dll`
    : `${root}/artifacts/${published}/${name}.dll`;

export default defineConfig({
  testDir: ".",
  // A machine that is shared may be five times as slow as ours: what hangs is still found, at the press that hung.
  timeout: 420_000,
  expect: { timeout: 60_000 },
  workers: lines.length,
  reporter: [["line"]],
  use: {
    screenshot: "only-on-failure",
    actionTimeout: 90_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: lines.flatMap((line) => {
    const port = portOf(line);
    const world = `http://127.0.0.1:${port + 1}/`;
    // What the ports of the simulated network are shifted by.
    const field = 8000 + (port % 20000);
    return [
      {
        command: `dotnet ${built("Walkdown.StandIns", "stand-ins")} --urls ${world} --demo ${root}/demo --field ${field}`,
        url: `${world}tester`,
      },
      {
        command: `dotnet ${built("Walkdown.Server", "server")} --port ${port} --data ${data}/${line} --demo ${root}/demo --stand-ins ${world} --field ${field} --web ${root}/web/dist`,
        url: `http://localhost:${port}/healthz`,
      },
    ];
  }),
});
