import { expect, type Page } from "@playwright/test";
import { nothingModerate, open, overflow, test } from "./site";

/** Everything that a browser keeps, as one text. */
const kept = (page: Page) =>
  page.evaluate(async () => {
    const all = [
      JSON.stringify({ ...localStorage }),
      JSON.stringify({ ...sessionStorage }),
      document.cookie,
    ];
    for (const { name } of await indexedDB.databases()) {
      const db = await new Promise<IDBDatabase>((done, failed) => {
        const asked = indexedDB.open(name!);
        asked.onsuccess = () => done(asked.result);
        asked.onerror = () => failed(asked.error!);
      });
      for (const store of db.objectStoreNames)
        all.push(
          await new Promise<string>((done) => {
            const asked = db.transaction(store).objectStore(store).getAll();
            asked.onsuccess = () => done(JSON.stringify(asked.result));
          }),
        );
      db.close();
    }
    for (const name of await caches.keys())
      for (const request of await (await caches.open(name)).keys())
        all.push(
          await (await (await caches.open(name)).match(request))!.text(),
        );
    return all.join("\n");
  });

test("cameras are found, one is given its address, logins are tried, and no secret stays", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  await page.getByRole("link", { name: "Addresses" }).click();
  const main = page.getByRole("main");
  const sheet = page.getByRole("dialog");
  await expect(main.getByText(/nobody looked yet/)).toBeVisible();
  await nothingModerate(page);
  await main.getByRole("button", { name: "Search", exact: true }).click();
  await sheet.getByRole("button", { name: /^Demo: fill in/ }).click();
  await expect(sheet.getByText(/logins read/)).toBeVisible();
  await nothingModerate(page);
  await sheet.getByRole("button", { name: "Search", exact: true }).click();
  const row = (label: string) =>
    main.getByRole("row").filter({ hasText: label }).first();
  await expect(row("VL-09")).toContainText("10.46.9.27");
  await expect(row("VL-06")).toContainText("too wide");
  await expect(row("GT-06")).toContainText("It calls itself GT-07");
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await nothingModerate(page);
  // The network's strip is worked by keys: each mark says whose it is.
  const strip = main.getByRole("slider");
  await strip.focus();
  await page.keyboard.press("ArrowRight");
  await expect(strip).toHaveAttribute("aria-valuetext", /\.\d+, /);
  // What one press can do is done, read back, and said.
  await row("VL-09").click();
  await main.getByRole("button", { name: "Set the address" }).click();
  await expect(
    main.getByText("VL-09: set, read back, and it holds."),
  ).toBeVisible();
  await expect(row("VL-09")).toBeHidden();
  // Nobody's range is asked before somebody says that he may.
  await main.getByRole("button", { name: "Search again", exact: true }).click();
  await sheet.getByRole("radio", { name: /^Ask each address/ }).check();
  const go = sheet.getByRole("button", { name: "Ask each address" });
  await expect(go).toBeDisabled();
  await sheet.getByRole("checkbox", { name: /254 addresses/ }).check();
  await expect(go).toBeEnabled();
  await page.keyboard.press("Escape");
  const leave = sheet.getByRole("button", { name: /^Leave/ });
  if (await leave.count()) await leave.click();
  // A server of addresses that nobody planned is named, until its plug is pulled in the real world.
  const askForLeases = async () => {
    await page.keyboard.press("l");
    await sheet.getByRole("radio", { name: "Who gives addresses" }).check();
    await sheet.getByRole("button", { name: "Who gives addresses" }).click();
  };
  const leases = main.getByRole("region", { name: "Who gives addresses" });
  await askForLeases();
  await expect(leases).toContainText("10.46.8.150 gives addresses, and nobody");
  await expect(main.getByText(/offered an address: 2/)).toBeVisible();
  await nothingModerate(page);
  await main.getByRole("button", { name: /^Demo: the real network/ }).click();
  const router = sheet.getByRole("listitem").filter({ hasText: "old-router" });
  await router.getByRole("button", { name: "Put it right" }).click();
  await expect(router).toHaveCount(0);
  await nothingModerate(page);
  await page.keyboard.press("Escape");
  await askForLeases();
  await expect(main.getByText(/offered an address: 1/)).toBeVisible();
  await expect(leases).toContainText("10.46.8.1 gives addresses, as planned");
  await expect(leases).not.toContainText("nobody planned");
  // The switches say who hangs where: the cords of two were exchanged.
  await main.getByRole("button", { name: "Ask the switches" }).click();
  const ports = main.getByRole("region", { name: "Who hangs on which port" });
  await expect(ports).toContainText(
    "CC-09 hangs on K2 16, the port of CC-14; its own is K2 11.",
  );
  await ports.getByRole("button", { name: "Show CC-09" }).click();
  await expect(
    page.getByRole("region", { name: "CC-09" }).getByRole("heading"),
  ).toBeVisible();
  await nothingModerate(page);
  // A plan comes from a file into its fields: what is wrong is said there, and nothing is kept.
  await main.getByRole("button", { name: "Plan the network" }).click();
  await sheet.getByLabel("Read from a file").setInputFiles({
    name: "network.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      "what,from\r\nsubnet,10.46.8.0/24\r\ngateway,10.47.9.1\r\n",
    ),
  });
  await expect(sheet.getByLabel("Gateway")).toHaveValue("10.47.9.1");
  await expect(sheet.getByText(/10\.47\.9\.1.*10\.46\.8\.0\/24/)).toBeVisible();
  await nothingModerate(page);
  await page.keyboard.press("Escape");
  const drop = sheet.getByRole("button", { name: /^Leave/ });
  if (await drop.count()) await drop.click();
  await main.getByRole("button", { name: "Try logins" }).click();
  await sheet.getByRole("button", { name: "Try them" }).click();
  await expect(
    main.getByText(/^The factory's login: refused by/),
  ).toBeVisible();
  await expect(row("CC-06")).toContainText(
    "The factory's login still opens it",
  );
  const all = await kept(page);
  expect(all.length).toBeGreaterThan(100);
  for (const secret of ["setup-0000", "Tern-TH4233-46", "nobody-knows"])
    expect(all.includes(secret), secret).toBe(false);
  // In the hand the same is one column, and nothing is wider than the window.
  const phone = await open(browser, { width: 390, height: 844 });
  await phone.goto("/addresses");
  await expect(
    phone.getByRole("main").getByText(/^\d+ ?to mend$/),
  ).toBeVisible();
  await expect.poll(() => overflow(phone)).toBeLessThanOrEqual(0);
  // What was pressed in the list is brought to the eye under it.
  await phone.getByRole("row").filter({ hasText: "CC-06" }).first().click();
  await expect(
    phone.getByRole("region", { name: "CC-06" }).getByRole("heading"),
  ).toBeInViewport();
  await nothingModerate(phone);
});
