import { expect } from "@playwright/test";
import { axe, open, openStop, row, test } from "./site";

const cabinet = { width: 1280, height: 800 };

test("an expired meter is told before the press, and a reading that is in and still wrong is explained", async ({
  browser,
}) => {
  const page = await open(browser, cabinet, "Ina Solberg", "Old meter");
  await expect(page.getByRole("banner")).toContainText(
    "Old meter, calibration expired",
  );
  await openStop(page, "CC-13");
  await row(page, "Length").click();
  await expect(page.getByRole("alert")).toContainText(
    "The calibration of Old meter ran out",
  );
  await page.getByRole("textbox", { name: "Length" }).fill("41");
  await expect(page.getByRole("alert")).toContainText("does not count");
  await axe(page);
  await page.keyboard.press("Escape");

  const sound = await open(browser, cabinet);
  await openStop(sound, "CC-13");
  await row(sound, "Volts at camera").click();
  await sound.getByRole("textbox", { name: "Volts at camera" }).fill("44.5");
  await expect(sound.getByText(/would be right for this run/)).toBeVisible();
  await sound.keyboard.press("Shift+Enter");
  await expect(sound.getByTestId("unexpected")).toContainText("Unexpected:");
  await expect(row(sound, "Volts at camera")).toHaveAccessibleName(
    /unexpected/,
  );
  await sound.getByRole("button", { name: "Explain", exact: true }).click();
  await sound
    .getByLabel("Why it reads so")
    .fill("A 20 m extension for the test");
  await axe(sound);
  await sound.getByRole("button", { name: "Record it", exact: true }).click();
  await expect(sound.getByTestId("ruling")).toContainText(
    "Explained by Ina Solberg: A 20 m extension for the test",
  );
});

test("rows of a schedule that nobody can vouch for are left out or taken by choice", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await page.goto("/import");
  await page.getByLabel("Choose a file").setInputFiles({
    name: "ost.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      'Kameranummer;Standort;Gerätetyp;Schrank;Port;Status\nZO-1;Tor;Turret;K3;Gi9/0/7;\nZO-2;Kai;Bullet;";Gi9/0/8;entfällt\nZO-3;Dach;Bullet;";2026-07-09;\nSeite 1 von 1\n',
    ),
  });
  await page.getByRole("button", { name: "See what it does" }).click();
  await expect(page.getByText("2026-07-09 of this port")).toBeVisible();
  await expect(page.getByText("a page line")).toBeVisible();
  await axe(page);
  await page.getByRole("button", { name: "Take the row" }).click();
  await page.getByRole("button", { name: "Leave row 4 out" }).click();
  await page.getByRole("button", { name: "Take it", exact: true }).click();
  await expect(page.getByText("Taken: 2 new, 0 changed.")).toBeVisible();
});

test("without a mouse: the arrows choose, letters can be switched off, and a name signs", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await openStop(page, "CC-12");
  // A group of choices stops the Tab key once, and its arrows choose.
  await row(page, "Label").click();
  const yes = page.getByRole("radio", { name: "yes" });
  await yes.focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("radio", { name: "no" })).toBeChecked();
  await expect(page.getByRole("radio", { name: "no" })).toBeFocused();
  await expect(yes).toHaveAttribute("tabindex", "-1");
  await page.keyboard.press("ArrowLeft");
  await expect(yes).toBeChecked();
  await page.keyboard.press("Escape");

  // D is night; switched off, it is nothing, and is not promised at the foot of the page.
  const theme = page.locator("html");
  await page.keyboard.press("d");
  await expect(theme).toHaveAttribute("data-theme", "night");
  await page.keyboard.press("d");
  await page.keyboard.press("?");
  await page.getByRole("checkbox", { name: "Single letters" }).check();
  await axe(page);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("d");
  await expect(theme).toHaveAttribute("data-theme", "day");
  await expect(page.getByText("all keys")).toHaveCount(0);

  // A name alone signs, and the revision carries it.
  await page.getByRole("link", { name: "Handover" }).click();
  const client = page.getByRole("group", { name: "For the client" });
  await client.getByRole("checkbox", { name: "Sign by the name" }).check();
  await client.getByLabel("Name", { exact: true }).fill("Odile Farrow");
  await axe(page);
  await page.getByRole("button", { name: "Seal with one signature" }).click();
  await page
    .getByRole("button", { name: "Seal all the same, with one signature" })
    .click();
  await expect(
    page.getByText("For the client: Odile Farrow").first(),
  ).toBeVisible();
});
