import { expect, signIn, test } from "../kit/browser";

test("the outlook says where the period ends, opens what a chance rests on, and keeps its own record beside it", async ({ page }) => {
	await signIn(page, "ruth", "/patterns");
	await expect(page.getByRole("heading", { level: 2 }).first()).toContainText(/North team ends Oct–Dec 2026 between €.* and €/);
	await expect(page.getByText(/The chance of the target of €4.06m is \d+%/)).toBeVisible();
	const first = page.getByRole("region", { name: "Deals that decide, scrollable" }).getByRole("row").nth(1);
	await first.getByText(/alike in/).click();
	await expect(first.getByText("and category")).toBeVisible();
	const [, inside = ""] = /in such a band (\d+) times/.exec((await page.getByText(/in such a band/).textContent()) ?? "") ?? [];
	const record = page.getByRole("region", { name: "Its own record, scrollable" });
	await expect(record.getByRole("cell", { name: "yes" })).toHaveCount(Number(inside));
	await page.goto("/patterns?due=2026-07-01..2026-08-15");
	await expect(page.getByText("An outlook is given for a quarter or a month.")).toBeVisible();
});

test("what foretells, whose commits hold and how long stages take are looked back at as one chooses", async ({ page }) => {
	await signIn(page, "helena", "/patterns?show=foretell");
	const rows = page.getByRole("region", { name: "Flags, scrollable" }).getByRole("row");
	await expect(rows.nth(1)).toContainText(/\d+ of \d+/);
	const before = await rows.nth(1).textContent();
	await page.getByLabel("How many quarters").selectOption("8");
	await expect(page).toHaveURL(/quarters=8/);
	await expect(rows.nth(1)).not.toHaveText(before ?? "");
	await page.getByRole("link", { name: "Commits", exact: true }).click();
	await expect(page.getByRole("heading", { level: 2, name: /was won in time/ })).toBeVisible();
	await page.getByLabel("Category").selectOption("best_case");
	await expect(page.getByRole("heading", { level: 2, name: /best case/ })).toBeVisible();
	await page.getByRole("link", { name: "Time in stage" }).click();
	await page.getByLabel("Grouped").selectOption("family");
	await expect(page.getByRole("columnheader", { name: "Product family" })).toBeVisible();
});
