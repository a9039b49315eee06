import { randomUUID } from "node:crypto";
import { expect } from "@playwright/test";
import { axe, open, test } from "./site";

// Runs last: a browser that knows no job opens the newest, which is this one from here on.
test("two jobs are told apart by their address, and who somebody is by the job", async ({
  browser,
}) => {
  const page = await open(browser, { width: 1280, height: 800 });
  const first = page.url();
  expect(first).toMatch(/\/job\/[0-9a-f-]{36}$/);
  const made = await page.request.post("/api/jobs", {
    data: {
      id: randomUUID(),
      name: "Ternhaven Breakwater",
      timeZone: "Europe/London",
      rule: "guarded",
      scheme: "t568B",
    },
  });
  expect(made.ok()).toBe(true);
  await page.reload();
  // The one that was open stays open.
  await expect(
    page.getByRole("button", { name: "Ternhaven Ferry Terminal" }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Ternhaven Ferry Terminal" }).click();
  await axe(page);
  await page.getByRole("button", { name: /Breakwater/ }).click();
  await expect(page).not.toHaveURL(first);
  await expect(page.getByRole("dialog", { name: "Who is it?" })).toBeVisible();
  await expect(page.getByText("Ina Solberg")).toHaveCount(0);
  // An address of the other job is the other job's, with the person that was chosen there.
  await page.goto(`${first}/kit`);
  await expect(
    page.getByRole("button", { name: "Ternhaven Ferry Terminal" }),
  ).toBeVisible();
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(page).toHaveURL(`${first}/kit`);
  await page.goto(`/job/${randomUUID()}/kit`);
  await expect(page.getByText("is not on record here")).toBeVisible();
});
