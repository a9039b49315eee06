import { expect } from "@playwright/test";
import { axe, open, openStop, row, test } from "./site";

const cabinet = { width: 1280, height: 800 };

test("an area is read at once and taken; a file with a strange label is reconciled", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await page.getByRole("link", { name: "Readings" }).click();
  await page.getByLabel("Area").selectOption("Boat workshop");
  await page
    .getByRole("button", { name: "Read from tester and switch" })
    .click();
  await expect(
    page.getByRole("heading", { name: /readings of 6 devices/ }),
  ).toBeVisible();
  await axe(page);
  await page.getByRole("button", { name: /^Take \d+ readings/ }).click();
  await expect(
    page.getByText("Taken. Every Card they reach is judged."),
  ).toBeVisible();

  const csv =
    "Cable ID,Length (m),PoE volts IR on\nBW-01,84,51.2\nShed north,84,51.0\n";
  await page.getByLabel("Choose a file").setInputFiles({
    name: "meter.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(csv),
  });
  await expect(
    page.getByRole("heading", { name: "1 label matches nothing" }),
  ).toBeVisible();
  await page.getByLabel("Shed north is of").selectOption("BW-02");
  await page.getByRole("button", { name: "Match these" }).click();
  await expect(
    page.getByRole("heading", { name: /match(es)? nothing/ }),
  ).toHaveCount(0);
  await page.getByRole("button", { name: "Take 4 readings" }).click();
  await openStop(page, "BW-02");
  await expect(row(page, "Volts at camera, infrared on")).toHaveAttribute(
    "aria-label",
    /51\.0/,
  );
});

test("no volts before the lead is identified, and a run is tried out before it is kept", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await openStop(page, "BW-05");
  await row(page, "Volts at input, infrared off").click();
  await expect(page.getByRole("alert")).toHaveText(
    "Hold: Auxiliary lead first.",
  );
  await page.getByTestId("entry").fill("23.8");
  await expect(
    page.getByRole("button", { name: "Save and next" }),
  ).toBeDisabled();
  await page.keyboard.press("Escape");
  await row(page, "Auxiliary lead").click();
  await page
    .getByRole("checkbox", { name: /The label on the lead says power/ })
    .check();
  await expect(page.getByText("out", { exact: true }).first()).toBeVisible();
  await page
    .getByRole("checkbox", { name: /It is the thicker of the two/ })
    .check();
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(page.getByRole("alert")).toHaveCount(0);

  await openStop(page, "CC-05");
  await page.getByRole("link", { name: "Run, piece by piece" }).click();
  const ladder = page.getByRole("img", { name: /Volts along the run/ });
  const before = await ladder.getAttribute("aria-label");
  await page.getByLabel("Length").fill("160");
  await expect(ladder).not.toHaveAttribute("aria-label", before!);
  await expect(page.getByText("A trial: nothing is kept.")).toBeVisible();
  await axe(page);
  await page.getByRole("button", { name: "Back to the record" }).click();
  await expect(ladder).toHaveAttribute("aria-label", before!);
  await page.getByRole("button", { name: "Coupler" }).click();
  await page.getByRole("button", { name: "Keep as built" }).click();
  await expect(page.getByText("as drawn on site")).toBeVisible();

  await page
    .getByRole("navigation")
    .getByRole("link", { name: "Power" })
    .click();
  await expect(
    page.getByRole("img", { name: /^K3: Not enough/ }),
  ).toBeVisible();
  await axe(page);
  await page
    .getByRole("region", { name: "K3" })
    .getByRole("button", { name: "Figures, and try out" })
    .click();
  await page.getByLabel("Budget W").fill("250");
  await expect(
    page.getByRole("dialog").getByRole("img", { name: /^K3: .* W left/ }),
  ).toBeVisible();
  await axe(page);
});

test("a limit of the company is lowered, with who and why, and the Card says what it was", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await openStop(page, "CC-01");
  await row(page, "Length").click();
  await page.getByTestId("entry").fill("70");
  await page.getByRole("button", { name: "Save and next" }).click();
  await expect(row(page, "Length")).toHaveAttribute("aria-label", /70\.0/);

  await page.getByRole("link", { name: "Practice" }).click();
  await page.getByRole("button", { name: "Limits and figures" }).click();
  await page.getByRole("button", { name: /^Length, permanent link/ }).click();
  await page.getByLabel("At most, m").fill("60");
  await page.getByLabel("Source", { exact: true }).fill("company rule");
  await page.getByRole("button", { name: "Done" }).click();
  await page
    .getByRole("button", { name: "See what it touches" })
    .last()
    .click();
  await expect(page.getByText(/^It touches \d+ of \d+ Cards/)).toBeVisible();
  await page.getByLabel("Why it is changed").last().fill("old trays");
  await page.getByRole("button", { name: "Put it in force" }).click();
  await expect(page.getByText(/own edition 1/)).toBeVisible();
  await expect(page.getByText(/old trays\. Ina Solberg/)).toBeVisible();
  await axe(page);

  await openStop(page, "CC-01");
  await expect(row(page, "Length").locator("..")).toContainText(
    "limit changed",
  );
  await expect(row(page, "Length, 70.0 m, out")).toBeVisible();
});
