import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { defineConfig } from "@playwright/test";

const root = resolve(import.meta.dirname, "../..");
const port = Number(process.env.WALKDOWN_TEST_PORT ?? 4790);
// One folder for the whole run, kept in the environment since workers read this file too.
const data = (process.env.WALKDOWN_TEST_DATA ??= mkdtempSync(
  join(tmpdir(), "walkdown-e2e-"),
));

export default defineConfig({
  testDir: ".",
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 1,
  reporter: [["line"]],
  use: {
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
      command: `dotnet ${root}/artifacts/stand-ins/Walkdown.StandIns.dll --urls http://127.0.0.1:${port + 1} --demo ${root}/demo`,
      url: `http://127.0.0.1:${port + 1}/tester`,
    },
    {
      command: `dotnet ${root}/artifacts/server/Walkdown.Server.dll --port ${port} --data ${data} --demo ${root}/demo --stand-ins http://127.0.0.1:${port + 1}/ --web ${root}/web/dist`,
      url: `http://localhost:${port}/healthz`,
    },
  ],
});
