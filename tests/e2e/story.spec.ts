import { execFileSync } from "node:child_process";
import { expect } from "@playwright/test";
import { axe, open, openStop, row, test } from "./site";

const cabinet = { width: 1280, height: 800 };

test("a device is tested, repaired, retested and reported", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await openStop(page, "CC-07");
  const verdict = page.getByTestId("verdict");
  await expect(verdict).toHaveText("Open");

  // Label: Enter opens; Enter alone says nothing, Y says yes; Enter goes on to the wire map.
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("radio", { name: "yes" })).not.toBeChecked();
  await page.keyboard.press("y");
  await expect(page.getByRole("radio", { name: "yes" })).toBeChecked();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Read tester" })).toBeVisible();
  await page.keyboard.press("t");
  await expect(page.getByText("5, 8 open").first()).toBeVisible();
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(verdict).toHaveText("Refused");

  // The rest is read from the tester, judged at once and saved by the keyboard.
  await expect(page.getByTestId("entry")).toBeVisible();
  await page.getByRole("button", { name: "Read tester" }).click();
  await expect(
    page.getByRole("status").filter({ hasText: /^in/i }),
  ).toBeVisible();
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Read tester" }).click();
  await page.getByRole("button", { name: "Save all 4" }).click();
  await expect(row(page, "Loop resistance, pair 7-8")).toHaveAttribute(
    "aria-label",
    /, in,/,
  );

  // A number typed with a comma and its unit.
  // The next row that is not settled has opened by itself.
  await expect(
    page.getByText("Volts at the camera's plug, camera running"),
  ).toBeVisible();
  await page.getByTestId("entry").fill("53,1 V");
  await expect(
    page.getByRole("status").filter({ hasText: /^in/i }),
  ).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(row(page, "Volts at camera, infrared off")).toHaveAttribute(
    "aria-label",
    /53\.1 V, in/,
  );

  // One action raises the Fault with what is known.
  await row(page, "Wire map").click();
  await page.getByRole("button", { name: "Raise the Fault" }).first().click();
  await expect(page.getByLabel("What is wrong")).toHaveValue(/5, 8 open/);
  await page
    .getByRole("dialog")
    .getByRole("button", { name: "Raise the Fault" })
    .click();
  await expect(page.getByTestId("fault")).toContainText("5, 8 open");
  // Esc leaves the open Check, wherever on the Card the keys are.
  await page.keyboard.press("Escape");
  await expect(row(page, "Wire map")).toBeVisible();

  // The real world is mended, the work recorded: what it makes void is asked for again.
  await page.getByRole("button", { name: "Demo: the real world" }).click();
  await page
    .getByRole("dialog")
    .getByRole("button", { name: "Jack punched down again, camera end" })
    .click();
  await expect(page.getByText("The run is healthy now.")).toBeVisible();
  await page.keyboard.press("Escape");
  await row(page, "Wire map").click();
  await page.getByRole("button", { name: "Record work" }).click();
  await page.getByRole("radio", { name: "Jack punched down again" }).click();
  await page.getByRole("button", { name: "camera end" }).click();
  await page.getByRole("button", { name: "Record the work" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(row(page, "Wire map")).toHaveAttribute("aria-label", /stale/);

  for (const name of [
    "Wire map",
    "Loop resistance, pair 1-2",
    "Volts at camera, infrared off",
    "Volts at camera, infrared on",
    "Speed",
  ]) {
    await row(page, name).click();
    await page.getByRole("button", { name: "Read tester" }).click();
    if (name.startsWith("Loop"))
      await page.getByRole("button", { name: "Save all 4" }).click();
    else {
      await expect(
        page.getByRole("status").filter({ hasText: /^in/i }),
      ).toBeVisible();
      await page.getByRole("button", { name: "Save and next" }).click();
    }
    await expect(row(page, name)).toHaveAttribute("aria-label", /, in/);
    await page.keyboard.press("Escape");
  }
  await expect(verdict).toHaveText("Accepted");
  await expect(page.getByTestId("fault")).toContainText(
    "Closed: the retest is in.",
  );

  await page.keyboard.press("v");
  const address = (await page
    .getByRole("link", { name: "Report, PDF" })
    .getAttribute("href"))!;
  const pdf = await page.request.get(address);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  const body = await pdf.body();
  expect(body.subarray(0, 5).toString()).toBe("%PDF-");
  const json = await (
    await page.request.get(address.replace(".pdf", ".json"))
  ).json();
  expect(json.card.verdict.verdict).toBe("accepted");
  expect(json.card.faults).toHaveLength(1);
  try {
    const text = execFileSync("pdftotext", ["-layout", "-", "-"], {
      input: body,
    }).toString();
    for (const words of [
      "CC-07",
      "Accepted",
      "5, 8 open",
      "Ina Solberg",
      "CT-1140",
    ])
      expect(text).toContain(words);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "ENOENT") throw error;
  }
});

test("two browsers on one Card see each other", async ({ browser }) => {
  const ina = await open(browser, cabinet);
  const marek = await open(browser, cabinet, "Marek Dune", "Cable meter 2");
  await openStop(ina, "CC-10");
  await openStop(marek, "CC-10");
  await row(ina, "Length").click();
  await ina.getByTestId("entry").fill("43");
  await ina.keyboard.press("Shift+Enter");
  await expect(row(marek, "Length")).toHaveAttribute("aria-label", /43\.0 m/, {
    timeout: 1000,
  });
});

test("nothing serious stands in the way on Walk and Card", async ({
  browser,
}) => {
  for (const size of [cabinet, { width: 390, height: 844 }]) {
    const page = await open(browser, size);
    await expect(page.getByText("have a Verdict")).toBeVisible();
    await axe(page);
    await openStop(page, "CC-11");
    await expect(page.getByText("Label").first()).toBeVisible();
    await axe(page);
    await page.evaluate(
      () => (document.documentElement.dataset.theme = "night"),
    );
    await axe(page);
    await page.context().close();
  }
});
