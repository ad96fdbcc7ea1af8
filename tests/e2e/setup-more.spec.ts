import { readFileSync } from "node:fs";
import { expect, signIn, test } from "../kit/browser";

test("Setup says what a bundle holds, which imports there were, and that the day is held", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=import");
	await expect(page.getByRole("row").filter({ hasText: "deal_versions.csv" })).toContainText("close_date");
	await page.getByRole("button", { name: "Emberwick Ovens (demo)" }).click();
	await expect(page.getByText("Imported completely.")).toBeVisible();
	await page.getByRole("searchbox", { name: "Search setup" }).fill("fixed at a day");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("heading", { name: "Today is 24 Nov 2026" })).toBeVisible();
	await expect(page.getByText("Set by PORCH_LAMP_TODAY")).toBeVisible();
	await expect(page).toHaveURL(/place=clock/);
	await page.goBack();
	await expect(page.getByRole("heading", { name: "Import a bundle" })).toBeVisible();
});

test("tables for other programs are listed with their columns, and saved as files of the deals one reaches", async ({ page }) => {
	await signIn(page, "ines", "/setup?place=tables");
	const flags = page.getByRole("article", { name: "flags" });
	await flags.getByText("7 columns").click();
	await expect(flags.getByText("severity")).toBeVisible();
	await expect(page.getByText("porch_lamp_reader")).toHaveCount(0);
	const saving = page.waitForEvent("download");
	await page.getByRole("link", { name: "CSV of deals" }).click();
	const file = await saving;
	expect(file.suggestedFilename()).toBe("deals 2026-11-24.csv");
	const lines = readFileSync(await file.path(), "utf8")
		.trim()
		.split("\n");
	expect(lines[0]).toContain("deal_id,deal,account_id");
	expect(lines.length).toBeGreaterThan(10);
	for (const line of lines.slice(1)) expect(line).toContain(",Ines Valdoro,");
	const parquet = await page.request.get("/api/v1/tables/deals?as=parquet");
	expect((await parquet.body()).subarray(0, 4).toString()).toBe("PAR1");
	await signIn(page, "arno", "/setup?place=tables");
	await expect(page.getByText("porch_lamp_reader")).toBeVisible();
	await expect(page.getByText(/they were last written/)).toBeVisible();
});

test("the tree of teams shows who belongs where", async ({ page }) => {
	await signIn(page, "ruth", "/setup?place=people");
	await expect(page.getByRole("rowheader", { name: /^North, part of Emberwick/ })).toBeVisible();
	await expect(page.getByRole("row").filter({ hasText: "Ruth Calloway" })).toContainText("ruth@emberwick.example");
});

test("a task is given back, dropped with a reason and opened again from the manager’s list", async ({ page }) => {
	await signIn(page, "ruth", "/tasks");
	const row = page.getByRole("row").filter({ hasText: "Ask who signs, and meet them" }).filter({ hasText: "Nine Loaves Co-op" });
	await row.getByRole("button", { name: /^Done/ }).click();
	await page.getByRole("button", { name: "Drop", exact: true }).click();
	await page.getByLabel("Reason for dropping it").fill("They told us by themselves");
	await page.getByRole("button", { name: "Drop task" }).click();
	await expect(page.getByText("Task dropped.")).toBeVisible();
	await page.getByRole("button", { name: /dropped$/ }).click();
	const dropped = page.getByRole("row").filter({ hasText: "“They told us by themselves”" });
	await dropped.getByRole("button", { name: "Reopen" }).click();
	await expect(page.getByText("Task reopened.")).toBeVisible();
	await expect(dropped).toHaveCount(0);
});

test("signing out ends the session for good", async ({ page, context }) => {
	await signIn(page, "ruth", "/deals", { fresh: true });
	const cookies = await context.cookies();
	await page.getByRole("button", { name: "Sign out" }).click();
	await expect(page.getByRole("button", { name: "Sign in", exact: true })).toBeVisible();
	await context.addCookies(cookies);
	await page.goto("/deals");
	await expect(page).toHaveURL(/\/sign-in/);
});

test("a page prints without the rail and its controls", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	await page.emulateMedia({ media: "print" });
	await expect(page.getByRole("navigation", { name: "Screens" })).toBeHidden();
	await expect(page.getByRole("button", { name: /^Give/ })).toHaveCount(0);
	await expect(page.getByText("close date was 18 Nov, 4 working days ago (6 calendar days)", { exact: true })).toBeVisible();
});
