import type { Page } from "@playwright/test";
import { expect, signIn, test } from "../kit/browser";

/** What stands beside a word of the strip of totals. */
const total = (page: Page, words: string) => page.locator(".total").filter({ hasText: words }).locator("b");
const queued = (page: Page) => page.getByRole("navigation", { name: "The deals of the round" }).getByRole("listitem");
const called = (page: Page) => page.locator(".queue-head b");

test("a round is held by keyboard alone: calls move the totals, promises are made, and its minutes stay", async ({ page }) => {
	await signIn(page, "ruth", "/rounds?whose=person:piotr");
	await page.getByRole("checkbox", { name: "include calm deals" }).check();
	await page.getByRole("button", { name: "Start the round" }).click();
	await page.waitForURL(/\/rounds\/round-/);
	const count = await queued(page).count();
	expect(count).toBeGreaterThan(2);
	await expect(called(page)).toHaveText(`0 of ${count}`);
	const word = await total(page, "By the reps").textContent();
	await expect(total(page, "By the calls")).toHaveText(word ?? "");
	const first = (await page.getByRole("article").getByRole("heading", { level: 2 }).textContent())?.trim() ?? "";
	await page.keyboard.press("t");
	await page.keyboard.type("Bring their figures");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("complementary", { name: "The call" })).toContainText("Bring their figures");
	await page.keyboard.press("n");
	await page.keyboard.type("They count on us");
	await page.keyboard.press("Escape");
	await page.keyboard.press("4");
	await expect(page.getByRole("combobox", { name: /^Reason/ })).toBeFocused();
	await page.getByRole("radio", { name: "only record the call" }).check();
	await page.keyboard.press("Enter");
	// The next one stands there by itself.
	await expect(page.getByRole("article").getByRole("heading", { level: 2 })).not.toHaveText(first);
	await expect(called(page)).toHaveText(`1 of ${count}`);
	await page.keyboard.press("1");
	await expect(called(page)).toHaveText(`2 of ${count}`);
	await page.keyboard.press("2");
	await expect(called(page)).toHaveText(`3 of ${count}`);
	await expect(total(page, "Called shaky")).toBeVisible();
	await page.keyboard.press("k");
	await page.keyboard.press("k");
	// Keys are heard at once, however slowly the server answers: six presses are six deals.
	const names = (await queued(page).locator(".queue-name").allTextContents()).slice(0, 7);
	let answer = () => undefined as unknown;
	const held = new Promise((resolve) => {
		answer = () => resolve(null);
	});
	await page.route("**/*", async (route) => {
		await held;
		await route.continue().catch(() => undefined);
	});
	await queued(page).first().getByRole("button").first().click();
	for (let i = 1; i < names.length; i++) await page.keyboard.press("j");
	await expect(page.getByRole("article").getByRole("heading", { level: 2 })).toHaveText(names.at(-1) ?? "");
	answer();
	await page.unroute("**/*");
	await page.getByRole("button", { name: "End the round" }).click();
	// It asks what is left.
	await expect(page.getByRole("dialog")).toContainText(`${count - 3} deal`);
	await page.getByRole("button", { name: "End anyway" }).click();
	await expect(page.getByText(`3 of ${count} deals called`)).toBeVisible();
	const row = page.getByRole("row").filter({ hasText: first });
	await expect(row).toContainText("Gone");
	await expect(row).toContainText("They count on us");
	await expect(page.getByText("Bring their figures")).toBeVisible();
	await page.getByRole("button", { name: "Export" }).click();
	const book = await page.request.get((await page.locator(".dropdown-item", { hasText: "XLSX" }).getAttribute("href")) ?? "");
	expect(book.headers()["content-disposition"]).toContain("minutes");
	await page.goto("/rounds");
	await expect(page.getByRole("row").filter({ hasText: "Round with Piotr" })).toContainText(`3 of ${count}`);
});

test("two browsers hold one round: each sees the other’s deal and calls, and a call that can’t be sent waits", async ({ page, browser }) => {
	await signIn(page, "ruth", "/rounds?whose=person:tobias");
	await page.getByRole("button", { name: "Start the round" }).click();
	await page.waitForURL(/\/rounds\/round-/);
	const other = await (await browser.newContext()).newPage();
	await signIn(other, "tobias", new URL(page.url()).pathname);
	const heading = (where: Page) => where.getByRole("article").getByRole("heading", { level: 2 });
	await expect(heading(other)).toHaveText((await heading(page).textContent()) ?? "");
	// A rep takes part and notes; the call is the manager's.
	await expect(other.getByRole("button", { name: /^Holds/ })).toBeDisabled();
	await page.keyboard.press("j");
	await expect(heading(page)).toHaveText((await queued(page).nth(1).locator(".queue-name").textContent()) ?? "");
	await expect(heading(other)).toHaveText((await heading(page).textContent()) ?? "", { timeout: 90_000 });
	await other.getByLabel("Note", { exact: true }).fill("They signed the plan");
	await page.keyboard.press("2");
	await expect(queued(other).nth(1)).toContainText("shaky", { timeout: 90_000 });
	// What was being written is still there, wherever the round has gone.
	await other.getByRole("navigation", { name: "The deals of the round" }).getByRole("button").nth(1).click();
	await page.route("**/*", (route) => route.abort("failed"));
	await page.keyboard.press("1");
	await expect(page.getByRole("status").filter({ hasText: "waits to be sent" })).toBeVisible();
	await page.unroute("**/*");
	await expect(page.getByText("waits to be sent")).toHaveCount(0, { timeout: 90_000 });
	await expect(queued(other).filter({ hasText: "holds" })).toHaveCount(1);
	await other.context().close();
});

test("a walk gives remedies and lets a known deal rest, which is then in no count and ends by hand", async ({ page }) => {
	await signIn(page, "tomas", "/rounds");
	await page.getByRole("button", { name: /^Start (walk|over)/ }).click();
	await page.waitForURL(/\/rounds\/round-/);
	const deal = (await page.getByRole("article").getByRole("heading", { level: 2 }).textContent())?.trim() ?? "";
	const act = async () =>
		Number.parseInt(
			(await page
				.getByRole("link", { name: /^Deals/ })
				.locator(".count")
				.textContent()) ?? "0",
			10,
		);
	const before = await act();
	await page.keyboard.press("3");
	await page.getByLabel("Rest until").fill("2026-12-11");
	await page.getByLabel("Reason", { exact: true }).fill("Board meets 10 Dec, known");
	await page.keyboard.press("Enter");
	await expect(page.getByText("At rest until 11 Dec")).toBeVisible();
	await expect(queued(page).first()).toContainText("left to rest");
	await expect.poll(act).toBeLessThanOrEqual(before);
	await page.keyboard.press("1");
	await expect(page.getByText(/is given it by/)).toBeVisible();
	await expect(called(page)).toHaveText(/^2 of/);
	await page.getByRole("button", { name: "End the walk" }).click();
	const asks = page.getByRole("button", { name: "End anyway" });
	if (await asks.isVisible().catch(() => false)) await asks.click();
	await expect(page.getByRole("heading", { name: "Decisions" })).toBeVisible();
	await page.goto("/rounds?show=rests");
	const row = page.getByRole("row").filter({ hasText: deal });
	await expect(row).toContainText("Board meets 10 Dec, known");
	await row.getByRole("button", { name: `End rest: ${deal}` }).click();
	await expect(page.getByText(`${deal} is lit again.`)).toBeVisible();
	await expect(row).toContainText("ended it");
});

test("a rep prepares deal by deal, asks for a rest, and reads the brief of a deal", async ({ page }) => {
	await signIn(page, "maeve", "/desk");
	const asked = page.getByRole("region", { name: "Before the next round" });
	await expect(asked.getByText(/It will ask about/)).toBeVisible();
	await page.keyboard.press("r");
	await expect(asked.getByRole("checkbox").first()).toBeChecked();
	await page.keyboard.press("r");
	await expect(asked.getByRole("checkbox").first()).not.toBeChecked();
	await page.goto("/deals/story-plant");
	const rest = page.getByRole("region", { name: "Rounds and rest" });
	await rest.getByRole("button", { name: "Ask for rest …" }).click();
	await page.getByLabel("Rest until").fill("2026-12-04");
	await page.getByLabel("Reason", { exact: true }).fill("Their director is away");
	await page.keyboard.press("Enter");
	await expect(rest).toContainText("Maeve Okonjo asks for a rest until 4 Dec");
	await rest.getByRole("link", { name: "Brief on one page" }).click();
	await expect(page.getByRole("heading", { level: 1 })).toContainText("Brief: New plant, phase one");
	for (const part of ["Overview", "People", "Open questions", "Next questions and steps"])
		await expect(page.getByRole("heading", { name: part })).toBeVisible();
	await signIn(page, "ruth", "/rounds?show=rests");
	await page.getByRole("button", { name: "Refuse: New plant, phase one" }).click();
	await expect(page.getByText("It stays lit; they’ll be notified.")).toBeVisible();
});

test("a weekly round is planned and taken away with a way back; deals chosen in the list make a round of their own", async ({ page }) => {
	await signIn(page, "helena", "/rounds");
	await page.getByRole("button", { name: "Plan a weekly round" }).click();
	await page.getByLabel("People").selectOption({ label: "South" });
	await page.getByLabel("Day of the week").selectOption({ label: "every Thursday" });
	await page.getByRole("button", { name: "Save plan" }).click();
	await expect(page.getByText("Thursdays with South")).toBeVisible();
	await page.getByRole("button", { name: "Delete: Thursdays with South" }).click();
	await expect(page.getByText("Thursdays with South")).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(page.getByText("Thursdays with South")).toBeVisible();
	await page.goto("/deals");
	for (const name of ["Deck oven line refit", "New plant, phase one"])
		await page.getByRole("row").filter({ hasText: name }).first().getByRole("checkbox").check();
	await page.getByRole("button", { name: "Start a round" }).click();
	await page.waitForURL(/\/rounds\/round-/);
	await expect(queued(page)).toHaveCount(2);
	await page.getByRole("button", { name: "Delete" }).click();
	await expect(page.getByText("Round deleted.")).toBeVisible();
});
