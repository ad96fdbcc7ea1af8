import { dealRow, expect, signIn, test } from "../kit/browser";

const shown = (text: string | null) => Number(/^(\d+)/.exec(text ?? "")?.[1]);

test.beforeEach(async ({ page }) => signIn(page, "ruth", "/deals"));

test("a flag’s count is the number of deals it shows, and the address keeps the choice", async ({ page }) => {
	const toggle = page.getByRole("button", { name: /overdue$/ });
	const count = shown(await toggle.textContent());
	await toggle.click();
	await expect(page.locator(".deals-foot b").first()).toHaveText(String(count));
	await expect(page).toHaveURL(/flags=overdue/);
	await page.reload();
	await expect(toggle).toHaveAttribute("aria-pressed", "true");
	for (const row of await page.locator(".deal-line").all()) await expect(row).toContainText("Overdue");
	await page.getByRole("button", { name: "Show all" }).click();
	await expect(page.locator(".deals-foot b").first()).not.toHaveText(String(count));
});

test("search narrows the list and its flags; nothing found says how to go on", async ({ page }) => {
	await page.getByRole("searchbox").fill("saltmarsh patisserie");
	await expect(dealRow(page, "Rack ovens, three sites")).toBeVisible();
	await expect(page.locator(".deals-foot b").first()).toHaveText("1");
	await page.getByRole("searchbox").fill("no such oven");
	await expect(page.getByRole("heading", { name: "No deals match" })).toBeVisible();
	await page.getByRole("button", { name: /^Show all/ }).click();
	await expect(dealRow(page, "Larkfield Bakehouse")).toBeVisible();
});

test("a column’s head sorts by it", async ({ page }) => {
	await page
		.getByRole("columnheader", { name: /Amount/ })
		.getByRole("button")
		.click();
	await expect(page.getByRole("columnheader", { name: /Amount/ })).toHaveAttribute("aria-sort", "descending");
	const amounts = (await page.locator(".deal-line .c-amount .cell-edit > span:first-child").allTextContents()).map((t) => Number(t.replace(/[^\d.]/g, "")));
	expect(amounts.length).toBeGreaterThan(8);
	expect(amounts).toEqual([...amounts].sort((a, b) => b - a));
	await expect(page).toHaveURL(/sort=amount/);
});

test("the keyboard alone walks, opens, selects, gives a task and takes it back", async ({ page }) => {
	await page.keyboard.press("j");
	await page.keyboard.press("j");
	await page.keyboard.press("k");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("complementary")).toContainText("Rack ovens, three sites");
	await page.keyboard.press("j");
	await expect(page.getByRole("complementary")).not.toContainText("Rack ovens, three sites");
	await page.keyboard.press("Escape");
	await expect(page.getByRole("complementary")).toHaveCount(0);
	await page.keyboard.press("x");
	await expect(page.getByText(/^1 selected/)).toBeVisible();
	await page.keyboard.press("t");
	await page.keyboard.type("Call them back");
	await page.keyboard.press("Tab");
	await page.getByRole("button", { name: "Give task" }).press("Enter");
	await page.getByRole("button", { name: "Undo" }).click();
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog")).toContainText("next and previous deal");
	await page.keyboard.press("Escape");
	await expect(page.getByRole("dialog")).toHaveCount(0);
	await page.keyboard.press("g");
	await page.keyboard.press("t");
	await expect(page).toHaveURL(/\/tasks/);
	await expect(page.getByText("Call them back")).toHaveCount(0);
	await expect(page.getByRole("link", { name: "Tasks" })).toHaveAttribute("aria-current", "page");
});

test("the sentence changes whose, when and against when; the past is read only and says so", async ({ page }) => {
	await page.getByRole("button", { name: /: Closing when$/ }).click();
	await page.getByRole("button", { name: "Any period" }).click();
	await expect(page).toHaveURL(/due=any/);
	await expect(page.getByRole("button", { name: "any period: Closing when" })).toBeVisible();
	await page.getByRole("button", { name: /: Whose deals$/ }).click();
	await page.getByRole("button", { name: /^Maeve Okonjo/ }).click();
	await expect(page.getByRole("button", { name: "Maeve Okonjo’s: Whose deals" })).toBeVisible();
	for (const cell of await page.locator(".deal-line .c-rep").all()) await expect(cell).toHaveText("Maeve");
	await page.getByRole("button", { name: /: Seen on which day$/ }).click();
	const menu = page.locator(".dropdown-menu.show");
	await menu.getByLabel("Another day").fill("2026-10-30");
	await menu.getByRole("button", { name: "Apply" }).click();
	await expect(page.getByRole("status").filter({ hasText: "as it was at the end of that day" })).toBeVisible();
	await expect(page.getByRole("checkbox")).toHaveCount(0);
	await page.getByRole("link", { name: "Changes" }).click();
	await expect(page.getByRole("heading", { level: 1 })).toContainText("Maeve Okonjo’s deals due in any period, seen Fri 30 Oct");
	await page.keyboard.press("Shift+N");
	await expect(page.getByRole("heading", { level: 1 })).toContainText("seen today");
});

test("what the period leaves out is said, and leads to those deals", async ({ page }) => {
	const later = page.getByRole("link", { name: /due later$/ });
	const count = shown(await later.textContent());
	await later.click();
	await expect(page.locator(".deals-foot b").first()).toHaveText(String(count));
});

test("an address that can’t be read, or isn’t allowed, is answered in words", async ({ page }) => {
	await page.goto("/deals?due=2026-Q9");
	await expect(page.getByRole("alert").filter({ hasText: "must be a quarter" })).toBeVisible();
	await page.goto("/deals?seen=2027-01-01");
	await expect(page.getByRole("alert").filter({ hasText: "in the future" })).toBeVisible();
	await page.goto("/deals?whose=team:South");
	await expect(page.getByRole("alert").filter({ hasText: "isn’t a team you can see" })).toBeVisible();
	await page.goto("/deals/deal-9999");
	await expect(page.getByRole("alert").filter({ hasText: "There is no deal deal-9999" })).toBeVisible();
	await page.goto("/nowhere");
	await expect(page.getByText("Nothing found at this address")).toBeVisible();
	await page.goto("/changes?due=none");
	await expect(page.getByText("Choose a period for the bridge")).toBeVisible();
});

test("a list of everyone’s deals draws only the rows in view", async ({ page }) => {
	await signIn(page, "helena", "/deals?due=any");
	const all = shown(await page.locator(".deals-foot").textContent());
	expect(all).toBeGreaterThan(150);
	expect(await page.locator(".deal-line").count()).toBeLessThan(60);
	await page.mouse.move(700, 400);
	await page.mouse.wheel(0, 60_000);
	await expect(page.locator(`.deal-line[aria-rowindex="${all + 1}"]`)).toBeVisible();
});
