import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { defineConfig } from "@playwright/test";

const root = resolve(import.meta.dirname, "../..");
const port = Number(process.env.WALKDOWN_TEST_PORT ?? 4790);
/** What the ports of the simulated network are shifted by. */
const field = 8000 + (port % 20000);
// One folder for the whole run, kept in the environment since workers read this file too.
const data = (process.env.WALKDOWN_TEST_DATA ??= mkdtempSync(
  join(tmpdir(), "walkdown-e2e-"),
));

/** What is tried: what was published for use, or what the test command has just built. */
const built = (name: string, published: string) =>
  process.env.WALKDOWN_BUILT
    ? `${root}/src/${name}/bin/${process.env.WALKDOWN_BUILT}/net10.0/${name}.dll`
    : `${root}/artifacts/${published}/${name}.dll`;

export default defineConfig({
  testDir: ".",
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 1,
  reporter: [["line"]],
  use: {
    screenshot: "only-on-failure",
    baseURL: `http://localhost:${port}`,
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
  webServer: [
    {
      command: `dotnet ${built("Walkdown.StandIns", "stand-ins")} --urls http://127.0.0.1:${port + 1} --demo ${root}/demo --field ${field}`,
      url: `http://127.0.0.1:${port + 1}/tester`,
    },
    {
      command: `dotnet ${built("Walkdown.Server", "server")} --port ${port} --data ${data} --demo ${root}/demo --stand-ins http://127.0.0.1:${port + 1}/ --field ${field} --web ${root}/web/dist`,
      url: `http://localhost:${port}/healthz`,
    },
  ],
});
