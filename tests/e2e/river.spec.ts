import { expect, signIn, test } from "../kit/browser";

// The river is what moves.
test.use({ contextOptions: { reducedMotion: "no-preference" } });

const minor = (text: string | null) => Number((text ?? "0").replaceAll("−", "-").replace(/[^\d-]/g, ""));

test("the river: a date moves through the weeks, and each week’s deals add up to its lines", async ({ page }) => {
	await signIn(page, "ruth", "/changes?show=river");
	await expect(page.getByRole("heading", { name: /Open pipeline grew by .* in 22 weeks/ })).toBeVisible();
	const side = page.getByRole("region", { name: "The week of the date" });
	await expect(side.getByRole("heading", { name: "Week of 23 Nov" })).toBeVisible();

	await page.getByRole("button", { name: "Week back" }).click();
	await expect(side.getByRole("heading", { name: "Week of 16 Nov" })).toBeVisible();
	const pushed = side.locator(".week-lines > li").filter({ hasText: "2 pushed out" });
	await expect(pushed.locator("b")).toHaveText("−950 000");
	const parts = await pushed.locator(".week-deals .num").allTextContents();
	expect(parts.map(minor).reduce((a, b) => a + b, 0)).toBe(950_000);
	await expect(page).toHaveURL(/at=2026-11-22/);

	// The same by keys: back a week, on a week.
	await page.keyboard.press("ArrowLeft");
	await expect(side.getByRole("heading", { name: "Week of 9 Nov" })).toBeVisible();
	await page.keyboard.press("ArrowRight");
	await page.keyboard.press("Shift+ArrowLeft");
	await expect(side.getByText("Where deals stood at the end of Sat 21 Nov")).toBeVisible();

	// A week of the table sets the date, and says the same as the side.
	await page.getByRole("button", { name: "9 Nov", exact: true }).click();
	await expect(side.getByRole("heading", { name: "Week of 9 Nov" })).toBeVisible();
	const row = page.getByRole("row", { name: /^9 Nov/ });
	await expect(row).toHaveAttribute("aria-current", "date");
	for (const line of await side.locator(".week-lines").first().locator("> li > button > span").allTextContents()) await expect(row).toContainText(line);
});

test("a deal draws its thread and opens its sheet as it was on that day", async ({ page }) => {
	await signIn(page, "ruth", "/changes?show=river&at=2026-11-13");
	const side = page.getByRole("region", { name: "The week of the date" });
	await side
		.getByRole("button", { name: /in Terms/ })
		.first()
		.click();
	await side.getByRole("link", { name: "Rack ovens, three sites" }).first().hover();
	await expect(page.locator(".river-thread path").first()).toBeVisible();
	await expect(side.locator(".river-told")).toContainText("Saltmarsh Patisserie");
	await side.getByRole("link", { name: "Rack ovens, three sites" }).first().click();
	await page.waitForURL(/deals\/story-rack\?seen=2026-11-13/);
	await expect(page.getByText("as it was at the end of that day")).toBeVisible();
});

test("a band under the pointer names its deal, and a click keeps the thread in the address", async ({ page }) => {
	await signIn(page, "ruth", "/changes?show=river&span=quarter");
	const picture = page.locator(".river-picture");
	const box = await picture.boundingBox();
	const band = await page.locator(".river-picture .tone-3 > path").boundingBox();
	if (!box || !band) throw new Error("nothing is drawn");
	await page.mouse.move(band.x + 40, band.y + 10);
	await page.mouse.move(band.x + 2, band.y + band.height * 0.3, { steps: 4 });
	await expect(page.getByRole("link", { name: "Open the sheet" })).toBeVisible();
	await page.mouse.down();
	await page.mouse.up();
	await expect(page).toHaveURL(/thread=/);
	await page.mouse.move(5, 5);
	await expect(page.locator(".river-thread path").first()).toBeVisible();
});

test("runs both ways and stops at the ends; with less motion it goes week by week", async ({ page }) => {
	await signIn(page, "ruth", "/changes?show=river&span=quarter&at=2026-10-20");
	const date = page.getByLabel("The date", { exact: true });
	const value = async () => Number(await date.inputValue());
	await expect(page.getByRole("heading", { name: "Week of 19 Oct" })).toBeVisible();
	const before = await value();
	await page.getByLabel("Pace").selectOption("fast");
	await page.getByRole("button", { name: "Run back" }).click();
	await expect.poll(value).toBe(before - 19);
	await expect(page.getByRole("button", { name: "Run back" })).toBeVisible();
	await page.keyboard.press("Space");
	await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
	await expect(page.getByRole("heading", { name: "Week of 23 Nov" })).toBeVisible();

	await page.emulateMedia({ reducedMotion: "reduce" });
	await page.getByRole("button", { name: "1 Oct", exact: true }).click();
	const from = await value();
	await page.getByRole("button", { name: "Run", exact: true }).click();
	// It runs on while it is looked at: whichever week that is, no day between two is shown.
	const shown: number[] = [];
	await expect.poll(async () => shown[shown.push((await value()) - from) - 1]).toBeGreaterThan(0);
	expect(shown.map((days) => days % 7).filter(Boolean)).toEqual([]);
	await page.getByRole("button", { name: "Stop" }).click();
});

test("is cut to a rep by the table of parts, whose pushes at month end it counts", async ({ page }) => {
	await signIn(page, "helena", "/changes?show=river&due=any");
	const parts = page.getByRole("table", { name: /The span by rep/ });
	await expect(parts.getByRole("row").nth(1)).toBeVisible();
	const late = (await parts.locator("tbody tr td:nth-child(3)").allTextContents()).map(minor).reduce((a, b) => a + b, 0);
	await expect(page.getByText(new RegExp(`${late} of them at a month’s end`))).toBeVisible();
	const whole = await page
		.getByRole("table", { name: /The weeks of the river/ })
		.locator("tbody tr:first-child .third")
		.textContent();
	await parts.getByRole("button", { name: "Maeve Okonjo" }).click();
	await expect(page).toHaveURL(/only=Maeve/);
	await expect
		.poll(async () =>
			minor(
				await page
					.getByRole("table", { name: /The weeks of the river/ })
					.locator("tbody tr:first-child .third")
					.textContent(),
			),
		)
		.toBeLessThan(minor(whole));
	await page.getByLabel("Slice by").selectOption("attention");
	await expect(page.getByRole("table", { name: /The span by attention/ }).getByRole("button", { name: "Act", exact: true })).toBeVisible();
});
