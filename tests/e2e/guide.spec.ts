import { readFileSync } from "node:fs";
import { expect, signIn, test } from "../kit/browser";

// The tour of the README, on the demo as it comes: what it says is read out of it, and has to stand on the screens.
const README = readFileSync("README.md", "utf8").replace(/\s+/g, " ");
/** The parts that a sentence of the tour names. */
const said = (sentence: RegExp): string[] => {
	const found = sentence.exec(README);
	if (!found) throw new Error(`the README doesn't say ${sentence}`);
	return found.slice(1);
};

test("1: what is won, missing and has to be won is what the period says", async ({ page }) => {
	const [won, target, gap, share] = said(/opens: (€[\d.]+m) of (€[\d.]+m) is won, (€[\d.]+m) is missing, and (\d+%) of what is open has to be won/);
	await signIn(page, "ruth", "/");
	await page.waitForURL(/\/period/);
	const content = page.locator("#content");
	for (const figure of [won, target, gap, share]) await expect(content).toContainText(figure as string);
	for (const words of ["Try it out", "Boards"]) await expect(page.getByRole("link", { name: words })).toBeVisible();
});

test("3: the deal that is checked has the attention that the tour works out, since the days it names", async ({ page }) => {
	const [deal, attention, risk, stake, urgency] = said(
		/Open \*([^*]+)\*: overdue, pushed three times[\s\S]*?`(\d+) = 100 × risk ([\d.]+) × \(½ \+ ½ stake ([\d.]+)\) × \(½ \+ ½ urgency ([\d.]+)\)`/,
	);
	await signIn(page, "ruth", "/deals/story-rack");
	await expect(page.getByRole("heading", { name: deal as string }).first()).toBeVisible();
	const content = page.locator("#content");
	for (const part of [attention, `risk ${risk}`, `stake ${stake}`, `urgency ${urgency}`]) await expect(content).toContainText(part as string);
	await expect(content).toContainText("Overdue");
	await expect(content).toContainText("Slipped ×3");
	expect(Math.round(100 * Number(risk) * (0.5 + Number(stake) / 2) * (0.5 + Number(urgency) / 2))).toBe(Number(attention));
});

test("4: what was pushed out is what the bridge says", async ({ page }) => {
	const [count, amount] = said(/Press \*Pushed out\*: (\w+) deals, (€[\d ]+)\./);
	expect(count).toBe("two");
	await signIn(page, "ruth", "/changes");
	await page
		.getByRole("button", { name: /^Pushed out/ })
		.first()
		.click();
	const content = page.locator("#content");
	await expect(content).toContainText("2 deals");
	await expect.poll(async () => (await content.textContent())?.replace(/[\u00a0\u202f]/g, " ")).toContain(amount);
});

test("7 to 9: a rep's desk, what helped and the round that is due are where the tour says", async ({ page }) => {
	await signIn(page, "ines", "/desk");
	await expect(page.getByRole("heading", { level: 1 })).toContainText(/desk/i);
	await signIn(page, "ruth", "/tasks");
	await page.getByRole("link", { name: "Did it help?" }).click();
	await expect(page.locator("#content")).toContainText("won’t be done in time");
	await page.goto("/rounds");
	await expect(page.getByRole("button", { name: /^Start “.* with North”/ })).toBeVisible();
});

test("10: the stale answers foretold nothing", async ({ page }) => {
	said(/(the stale answers foretold nothing)/);
	await signIn(page, "ruth", "/patterns");
	await page.getByRole("link", { name: "What foretells" }).click();
	await expect(page.locator("#content")).toContainText(/tale answers/);
});
