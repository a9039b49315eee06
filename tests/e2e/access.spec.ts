import { createHash, X509Certificate } from "node:crypto";
import { createServer } from "node:net";
import { hostname } from "node:os";
import { connect } from "node:tls";
import { chromium, expect, type Browser, type Page } from "@playwright/test";
import { axe, open, test } from "./site";

const passphrase = "quiet ferry lantern seven";
const name = `${hostname()
  .split(".")[0]
  .replace(/[^a-zA-Z0-9-]/g, "")
  .toLowerCase()}.local`;

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

/** What a phone is told to trust: the key of the certificate that this server shows. */
const keyOf = (port: number) =>
  new Promise<string>((done, failed) => {
    const socket = connect(
      { host: "127.0.0.1", port, servername: name, rejectUnauthorized: false },
      () => {
        const { raw } = socket.getPeerCertificate();
        socket.end();
        const key = new X509Certificate(raw).publicKey.export({
          type: "spki",
          format: "der",
        });
        done(createHash("sha256").update(key).digest("base64"));
      },
    ).on("error", failed);
  });

/** Nothing wider than the screen, nothing that stands in anybody's way. */
async function looks(page: Page) {
  await axe(page);
  expect(
    await page.evaluate(
      () => document.documentElement.scrollWidth - window.innerWidth,
    ),
  ).toBeLessThanOrEqual(0);
}

/** What the page itself is answered: by its name, its trust and its cookies. */
const asks = (page: Page, path: string) =>
  page.evaluate(async (address) => {
    const response = await fetch(address);
    return {
      status: response.status,
      body: (await response.json()) as Record<string, string>,
    };
  }, path);

/** A code for one person, made on the page of who may come in. */
async function invite(desk: Page, person: string, role: string) {
  await desk.getByRole("button", { name: "Invite somebody" }).click();
  const sheet = desk.getByRole("dialog");
  await sheet
    .getByLabel("Who that is in this job")
    .selectOption({ label: person });
  await sheet.getByRole("checkbox", { name: /^technician/ }).uncheck();
  await sheet.getByRole("checkbox", { name: new RegExp(`^${role}`) }).check();
  await sheet.getByRole("button", { name: "Make the code" }).click();
  await expect(sheet.getByRole("img")).toBeVisible();
  const code = await sheet.getByText(/^[0-9A-Z]{5}-[0-9A-Z]{5}$/).textContent();
  await sheet.getByRole("button", { name: "Done" }).click();
  return code!;
}

test("a phone is let in, works without a network, and is shut out without losing an entry", async ({
  browser,
}) => {
  // At the machine itself: the first account, the network, an invitation.
  const desk = await open(browser, { width: 1280, height: 800 });
  await desk.goto("/kit");
  await desk.getByRole("link", { name: "Who may come in" }).click();
  await expect(desk.getByText(/nobody needs to sign in/)).toBeVisible();
  await desk.getByLabel(/^Sign-in name/).fill("ina");
  await desk.getByLabel("New passphrase").fill("passwordpassword");
  await desk.getByRole("button", { name: "Make the first account" }).click();
  await expect(desk.getByRole("alert")).toContainText("would be guessed");
  await desk.getByLabel("New passphrase").fill(passphrase);
  await desk.getByRole("button", { name: "Make the first account" }).click();
  await expect(
    desk.getByRole("button", { name: /Ina Solberg ina/ }),
  ).toBeVisible();
  const port = await freePort();
  const opened = await desk.request.put("/api/network", {
    data: { address: "127.0.0.1", port },
  });
  expect(opened.ok()).toBe(true);
  await desk.reload();
  await expect(
    desk.getByText(`https://127.0.0.1:${port}`, { exact: true }),
  ).toBeVisible();
  await looks(desk);
  const code = await invite(desk, "Marek Dune", "technician");

  const outside: Browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      `--ignore-certificate-errors-spki-list=${await keyOf(port)}`,
      `--host-resolver-rules=MAP ${name} 127.0.0.1`,
    ],
  });
  const address = `https://${name}:${port}`;
  const context = await outside.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    baseURL: address,
  });
  const phone = await context.newPage();
  try {
    // Nobody yet: the door, and no word of a job.
    await phone.goto("/");
    await expect(phone.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await expect(phone.getByText(/Ternhaven/)).toHaveCount(0);
    expect((await asks(phone, "/api/jobs")).status).toBe(401);
    await looks(phone);
    // What the code on the screen names, and what another would name.
    const { fingerprint } = (await asks(phone, "/api/trust")).body;
    await phone.goto(`/trust#${fingerprint}`);
    await expect(
      phone.getByRole("link", { name: "Fetch the certificate" }),
    ).toBeVisible();
    await looks(phone);
    await phone.goto("about:blank");
    await phone.goto(`/trust#${"0".repeat(64)}`);
    await expect(phone.getByRole("alert")).toContainText("Do not sign in");
    await expect(phone.getByRole("link", { name: /certificate/ })).toHaveCount(
      0,
    );
    // In by the invitation.
    await phone.goto("about:blank");
    await phone.goto(`/join#${code}`);
    await expect(phone.getByText("You are Marek Dune,")).toBeVisible();
    await looks(phone);
    await phone.getByLabel(/^Sign-in name/).fill("marek");
    await phone.getByLabel("New passphrase").fill("seven grey gulls over pier");
    await phone.getByRole("button", { name: "Come in" }).click();
    // What he measures with is asked next; who he is, is known.
    await expect(phone.getByText("Signed in as Marek Dune")).toBeVisible();
    await phone.getByRole("radio", { name: /Camera tester 1/ }).click();
    await phone.getByRole("button", { name: "Done" }).click();
    await phone.getByRole("button", { name: /^Take the job along/ }).click();
    await expect(phone.getByText(/Cards are on this device/)).toBeVisible();
    await phone.evaluate(() => navigator.serviceWorker.ready.then(() => true));
    // The day without a network; meanwhile the desk ends his session.
    await context.setOffline(true);
    await phone.reload();
    await phone.getByRole("searchbox", { name: "Find a Stop" }).fill("FB-03");
    await phone.getByRole("link", { name: /^FB-03,/ }).click();
    await phone.getByRole("radio", { name: /^yes/ }).click();
    await phone.getByRole("button", { name: "Save and next" }).click();
    await expect(phone.getByText(/1 not sent/)).toBeVisible();
    await desk.reload();
    const line = desk
      .getByRole("listitem")
      .filter({ hasText: "Marek Dune, Chrome" })
      .filter({ has: desk.getByRole("button", { name: "End it" }) });
    await line.getByRole("button", { name: "End it" }).click();
    await expect(line).toHaveCount(0);
    await context.setOffline(false);
    await expect(phone.getByText(/One entry waits/)).toBeVisible();
    await phone.getByLabel("Sign-in name").fill("marek");
    await phone
      .getByLabel("Passphrase", { exact: true })
      .fill("seven grey gulls over pier");
    await phone.getByRole("button", { name: "Sign in", exact: true }).click();
    await expect(phone.getByRole("heading", { name: "Sign in" })).toHaveCount(
      0,
    );
    await expect(phone.getByText(/not sent/)).toHaveCount(0, {
      timeout: 90_000,
    });
    await desk.goto("/");
    await desk.getByRole("searchbox", { name: "Find a Stop" }).fill("FB-03");
    await expect(desk.getByRole("link", { name: /^FB-03,/ })).toBeVisible();
    await expect
      .poll(async () =>
        (
          await desk.request.get(
            `/api/cards/${(await desk.getByRole("link", { name: /^FB-03,/ }).getAttribute("href"))!.split("/card/")[1].split("?")[0]}`,
          )
        ).text(),
      )
      .toContain('"yes":true');

    // A passkey at a name; then signing out forgets what was read, and the passkey brings him back.
    const devtools = await context.newCDPSession(phone);
    await devtools.send("WebAuthn.enable");
    await devtools.send("WebAuthn.addVirtualAuthenticator", {
      options: {
        protocol: "ctap2",
        transport: "internal",
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    });
    await phone.goto("/me");
    await looks(phone);
    await phone
      .getByRole("button", { name: "Make one on this device" })
      .click();
    await expect(phone.getByText("The passkey is kept.")).toBeVisible();
    await phone.getByRole("button", { name: "Sign out" }).click();
    await expect(phone.getByRole("heading", { name: "Sign in" })).toBeVisible();
    const held = await phone.evaluate(async () => {
      const kept = await indexedDB.databases();
      const counts: Record<string, number> = {};
      for (const { name } of kept) {
        const db = await new Promise<IDBDatabase>((done) => {
          const request = indexedDB.open(name!);
          request.onsuccess = () => done(request.result);
        });
        for (const table of Array.from(db.objectStoreNames))
          counts[table] = await new Promise((done) => {
            const request = db.transaction(table).objectStore(table).count();
            request.onsuccess = () => done(request.result);
          });
        db.close();
      }
      return counts;
    });
    expect(held.along).toBe(0);
    await phone.getByRole("button", { name: "Sign in with a passkey" }).click();
    await expect(
      phone.getByRole("button", { name: /Marek Dune/ }).first(),
    ).toBeVisible();
    expect((await asks(phone, "/api/access/accounts")).status).toBe(403);
    // As somebody who only reads he sees the Card, and nothing that he could not do.
    await desk.goto("/access");
    const sheet = desk.getByRole("dialog");
    await desk.getByRole("button", { name: /Marek Dune marek/ }).click();
    await sheet.getByRole("checkbox", { name: /^technician/ }).uncheck();
    await sheet.getByRole("checkbox", { name: /^client/ }).check();
    await sheet.getByRole("button", { name: "Save" }).click();
    await expect(
      desk.getByRole("button", { name: /Marek Dune marek client/ }),
    ).toBeVisible();
    await phone.goto("/");
    await phone.getByRole("searchbox", { name: "Find a Stop" }).fill("FB-03");
    await phone.getByRole("link", { name: /^FB-03,/ }).click();
    await expect(phone.getByText("You may read this Card.")).toBeVisible();
    await expect(
      phone.getByRole("button", { name: /Note|As built|Save/ }),
    ).toHaveCount(0);
    await looks(phone);
    // On the other pages, too, nothing is offered that the record would refuse.
    for (const [section, offered] of [
      ["kit", /Add a person|Add an instrument|Edit|Reference check/],
      ["register", /Add a device|Take off the job/],
    ] as const) {
      await phone.goto(`/${section}`);
      await expect(phone.getByRole("heading", { level: 1 })).toBeVisible();
      await expect(
        phone
          .getByRole("main")
          .getByText(/^(Camera tester 1|BW-01)$/)
          .first(),
      ).toBeVisible();
      await expect(phone.getByRole("button", { name: offered })).toHaveCount(0);
    }
    await phone.goto("/practice");
    await expect(phone.getByText("You may read this.")).toBeVisible();
    await expect(
      phone.getByRole("main").getByRole("radio").first(),
    ).toBeDisabled();
    // Shut out: at once, wherever he is.
    await desk.getByRole("button", { name: /Marek Dune marek/ }).click();
    await desk.getByRole("button", { name: "Shut out" }).click();
    await desk
      .getByRole("alertdialog")
      .getByRole("button", { name: "Shut out" })
      .click();
    await expect(
      desk.getByRole("button", { name: /Marek Dune marek.*shut out/ }),
    ).toBeVisible();
    await phone.reload();
    await expect(phone.getByRole("heading", { name: "Sign in" })).toBeVisible();
  } finally {
    await outside.close();
    await desk.request.put("/api/network", { data: { address: "" } });
  }
});
