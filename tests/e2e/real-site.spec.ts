import { expect } from "@playwright/test";
import { axe, open, test } from "./site";

const cabinet = { width: 1280, height: 800 };

/** A schedule with a person's habits: title, semicolons, decimal comma, feet, its own words. */
const schedule = [
  "Ternhaven, north quay, issue B;;;;;;;",
  "",
  "Cam No;Description;Type;Fed from;Switch port;Length (ft);IP address;Installer",
  "NORTH QUAY;;;;;;;",
  "NQ-01;Crane foot;Turret;N1;3;203,5;10.46.9.11;Marek",
  "NQ-02;Crane head;Lookout;N1;4;220;10.46.9.12;Marek",
].join("\r\n");

test("a schedule as it comes is mapped, looked at and taken, then a device is built otherwise", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await page.getByRole("link", { name: "Register" }).click();
  await page.getByRole("link", { name: "Take a schedule" }).click();
  await page.getByLabel("Choose a file").setInputFiles({
    name: "north.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(schedule),
  });
  await expect(page.getByLabel("Cam No")).toHaveValue("label");
  await expect(page.getByLabel("Installer")).toHaveValue("");
  await axe(page);

  // Nothing is taken before every cell can be.
  await page.getByRole("button", { name: "See what it does" }).click();
  await expect(page.getByText("'Lookout' is no device kind.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take it" })).toHaveCount(0);
  await page.getByLabel("Lookout").selectOption("bullet");
  await page.getByRole("button", { name: "See what it does" }).click();
  await expect(
    page.getByText("These are only named, and get a row of their own: N1."),
  ).toBeVisible();
  await page.getByRole("button", { name: "Take it" }).click();
  await expect(page.getByText("Taken: 2 new, 0 changed.")).toBeVisible();

  // On the StopLine, and in the register with feet as metres.
  await page.getByRole("link", { name: "To the Walk" }).click();
  await page.getByRole("searchbox", { name: "Find a Stop" }).fill("10.46.9.12");
  await expect(page.getByRole("link", { name: /^NQ-02,/ })).toBeVisible();
  await page.getByRole("link", { name: /^NQ-02,/ }).click();
  await page.getByRole("button", { name: "As built", exact: true }).click();
  await expect(page.getByLabel("length", { exact: true })).toHaveValue(
    "67.056",
  );
  await page.getByLabel("length", { exact: true }).fill("71,5 m");
  await page.getByLabel("Why it is otherwise").fill("round the ladder");
  await axe(page);
  await page.getByRole("button", { name: "Record as built" }).click();
  await expect(page.getByText("length 71.5, planned 67.056")).toBeVisible();

  // The table: typing begins an edit, Enter keeps it and goes down; all of it is kept together.
  await page.goto("/register?find=NQ-");
  await expect(
    page.getByRole("gridcell", { name: "NQ-01" }).first(),
  ).toBeVisible();
  await page.getByRole("gridcell", { name: "Crane foot" }).click();
  await page.keyboard.type("Crane, at the foot");
  await page.keyboard.press("Enter");
  await axe(page);
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(
    page.getByRole("gridcell", { name: "Crane, at the foot" }),
  ).toBeVisible();
  await page.reload();
  await expect(
    page.getByRole("gridcell", { name: "Crane, at the foot" }),
  ).toBeVisible();

  // A block of a spreadsheet is pasted where one stands, over rows and columns.
  await page.getByRole("gridcell", { name: "Crane, at the foot" }).click();
  await page.getByRole("grid").evaluate((grid) => {
    const data = new DataTransfer();
    data.setData("text/plain", "Foot\tQuay wall\nHead\tQuay wall\n");
    grid.dispatchEvent(
      new ClipboardEvent("paste", {
        clipboardData: data,
        bubbles: true,
        cancelable: true,
      }),
    );
  });
  await page.getByRole("button", { name: "Keep 4 cells" }).click();
  await expect(page.getByRole("button", { name: /^Keep/ })).toHaveCount(0);
  await expect(page.getByRole("gridcell", { name: "Quay wall" })).toHaveCount(
    2,
  );
  await page.reload();
  await expect(page.getByRole("gridcell", { name: /, Head$/ })).toBeVisible();
});

test("what holds several Stops up is said once, and a practice says what it touches", async ({
  browser,
}) => {
  const page = await open(browser, cabinet);
  await page.getByRole("searchbox", { name: "Find a Stop" }).fill("FB-0");
  await page.getByRole("button", { name: /^Mark these \d+$/ }).click();
  await page.getByLabel("Held up by whom").fill("Harbour office");
  await page.getByLabel("Reason").fill("fuel delivery");
  await axe(page);
  await page.getByRole("button", { name: /^Record on \d+ Cards$/ }).click();
  await expect(
    page.getByRole("link", { name: /^FB-01, .*held up/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: /held up/ }).click();
  await expect(page).toHaveURL(/held=true/);

  await page.getByRole("button", { name: "Arrange" }).click();
  await expect(
    page.getByRole("button", { name: "Set its scale by two points" }),
  ).toBeVisible();
  await axe(page);

  await page.getByRole("link", { name: "Practice" }).click();
  await page.locator("summary", { hasText: "First try of a device" }).click();
  await page
    .getByRole("radio", { name: "On the bench, before it is fixed" })
    .click();
  await page.getByRole("button", { name: "See what it touches" }).click();
  await expect(page.getByText(/^It touches \d+ of \d+ Cards/)).toBeVisible();
  await axe(page);
  await page.getByRole("button", { name: "Put them back" }).click();

  await page.getByRole("link", { name: "Kit" }).click();
  await page.getByRole("button", { name: "Reference check" }).first().click();
  await page.getByLabel("The reference is").fill("50");
  await page.getByLabel("It reads").fill("50,3");
  await page.getByRole("button", { name: "Record the check" }).click();
  await expect(page.getByText(/50\.3 m \/ 50, in/)).toBeVisible();
  await axe(page);
});
