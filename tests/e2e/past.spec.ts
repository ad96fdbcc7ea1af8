import { expect, signIn, test } from "../kit/browser";

const whole = (text: string | null) => Math.round(100 * Number((text ?? "").replaceAll("−", "-").replace(/[^\d.-]/g, "") || 0));

test("two moments are chosen in words, and a wrong pair says what to do", async ({ page }) => {
	await signIn(page, "ruth", "/changes");
	const against = page.getByRole("button", { name: /: Against which earlier day$/ });
	await against.click();
	await page.getByRole("button", { name: "Start of the period" }).click();
	await expect(page).toHaveURL(/against=start/);
	await expect(against).toHaveText("the start of the period");
	await expect(page.getByRole("button", { name: /^Wed 30 Sep \d+ deals/ })).toBeVisible();
	await against.click();
	await page.getByRole("button", { name: "One week before" }).click();
	await expect(against).toHaveText("a week before");
	await against.click();
	// Nights are compared with as days, and not offered as marks.
	await expect(page.getByRole("button", { name: /Night/ })).toHaveCount(0);
	await page.getByRole("button", { name: /^Last mark/ }).click();
	await expect(against).toContainText("Mon");

	await page.goto("/changes?show=trend&against=2026-12-01");
	await expect(page.getByRole("alert").filter({ hasText: "it must be before the day shown, 2026-11-24" })).toBeVisible();
	await page.getByRole("link", { name: "Open with the default days" }).click();
	await expect(page).toHaveURL(/\/changes\?show=trend$/);
	await expect(page.getByRole("heading", { name: /Open pipeline/ })).toBeVisible();

	await page.goto("/changes?against=2020-01-01");
	await expect(page.getByText(/No data before .* so everything counts as new here/)).toBeVisible();
	await page.getByRole("button", { name: "Compare with that day" }).click();
	await expect(page.getByText("No data before")).toHaveCount(0);
});

test("the bridge by a field adds up along every row, and a cell opens its deals", async ({ page }) => {
	await signIn(page, "ruth", "/changes?against=start");
	await page.getByLabel("Net change by").selectOption("product");
	const table = page.getByRole("table", { name: /The bridge by product/ });
	await expect(table).toBeVisible();
	const rows = await table.locator("tbody tr").all();
	expect(rows.length).toBeGreaterThan(3);
	for (const row of rows) {
		const cells = (await row.locator("td").allTextContents()).slice(1).map(whole);
		const [net, closing] = [cells.pop() ?? 0, cells.pop() ?? 0];
		// What is shown adds up to the cent.
		expect(cells.reduce((sum, cell) => sum + cell, 0)).toBe(closing);
		expect(closing - (cells[0] ?? 0)).toBe(net);
	}
	const cell = table.locator("tbody tr td:nth-of-type(3) button").first();
	const amount = whole(await cell.textContent());
	await cell.click();
	const deals = page.getByRole("region", { name: "Deals behind the steps" });
	await expect(deals.getByRole("heading")).toContainText("New:");
	const miss = async () => {
		const steps = await deals.locator("tbody tr td:nth-child(4)").allTextContents();
		return Math.abs(steps.map(whole).reduce((a, b) => a + b, 0) - amount) - steps.length;
	};
	await expect.poll(miss).toBeLessThanOrEqual(0);
});

test("each deal says why it moved, and deal by deal they come in the order that is asked", async ({ page }) => {
	await signIn(page, "ruth", "/changes?against=start&step=lost");
	await expect(
		page
			.getByRole("region", { name: "Deals behind the steps" })
			.getByText(/^“.+”$/)
			.first(),
	).toBeVisible();
	await signIn(page, "helena", "/changes?show=deals&against=start");
	const first = page.locator(".differences tbody tr").first();
	const largest = await first.textContent();
	await page.getByLabel("Order").selectOption("name");
	await expect(first).not.toHaveText(largest ?? "");
	const names = await page.locator(".differences tbody b").allTextContents();
	expect(names.length).toBeGreaterThan(20);
	await expect(page.getByRole("button", { name: /^Show all/ })).toBeVisible();
});

test("seen 1 October the whole program is as it was, read only, and one key comes back", async ({ page }) => {
	await signIn(page, "ruth", "/deals?seen=2026-10-01");
	for (const path of ["/deals", "/evidence", "/changes", "/changes?show=river", "/tasks", "/accounts", "/deals/story-rack"]) {
		await page.goto(`${path}${path.includes("?") ? "&" : "?"}seen=2026-10-01`);
		await expect(page.getByText("read only")).toBeVisible();
		await expect(page.getByRole("button", { name: /^Thu 1 Oct.*: Seen on which day$/ })).toBeVisible();
		await expect(page.getByRole("button", { name: /^(Give a task|Save)/ })).toHaveCount(0);
	}
	await page.keyboard.press("Shift+N");
	await expect(page.getByText("read only")).toHaveCount(0);
});
