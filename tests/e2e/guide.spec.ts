import { readFileSync } from "node:fs";
import { expect, signIn, test } from "../kit/browser";

// The tour of the README, on the demo as it comes: what it says is read out of it, and has to stand on the screens.
const README = readFileSync("README.md", "utf8").replace(/\s+/g, " ");
/** The parts that a sentence of the tour names. */
const said = (sentence: RegExp): string[] => {
	const found = sentence.exec(README);
	if (!found) throw new Error(`the README doesn’t say ${sentence}`);
	return found.slice(1);
};

test("1: what is won, missing and has to be won is what the period says", async ({ page }) => {
	const [won, target, gap, share] = said(/opens: (€[\d.]+m) of (€[\d.]+m) is won, (€[\d.]+m) is missing, and (\d+%) of what is open has to be won/);
	await signIn(page, "ruth", "/");
	await page.waitForURL(/\/period/);
	const content = page.locator("#content");
	for (const figure of [won, target, gap, share]) await expect(content).toContainText(figure as string);
	// "each part opens its deals, and they add up to it"
	const part = page.locator(".beam-parts").getByRole("link", { name: /^Commit/ });
	const digits = (text: string | null) => (text ?? "").replace(/\D/g, "");
	const amount = digits(await part.locator("b").textContent());
	await part.click();
	await expect(page).toHaveURL(/\/deals/);
	const rows = page.locator(".deal-line .c-amount .cell-edit > span:first-child");
	await expect(rows.first()).toBeVisible();
	const sum = (await rows.allTextContents()).reduce((all, text) => all + Number(text.replace(/[^\d.]/g, "")) * 100, 0);
	expect(String(Math.round(sum))).toBe(amount.length > 6 ? amount : `${amount}00`);
	await page.goBack();
	// What stands around it.
	said(
		/The pace is compared with the quarter before and a year ago, day by day\. Below, each rep has a beam; on the right are the biggest deals, what is due, and what lit up/,
	);
	await expect(page.getByRole("region", { name: "Pace" })).toContainText("a year ago");
	await expect(page.getByRole("region", { name: "By person or group" }).getByRole("img")).toHaveCount(5);
	for (const heading of [/biggest/i, /due/i]) await expect(content.getByRole("heading", { name: heading }).first()).toBeVisible();
	await expect(content.getByText(/^lit up: \d+ deal/)).toBeVisible();
	await page.getByRole("button", { name: "Export" }).first().click();
	await expect(page.getByRole("button", { name: "XLSX" }).or(page.getByRole("link", { name: "XLSX" }))).toBeVisible();
	await page.keyboard.press("Escape");
	said(/\*Try it out\* moves deals on a copy/);
	await page.getByRole("link", { name: "Try it out" }).click();
	await expect(page.getByRole("region", { name: "Tries side by side" })).toBeVisible();
	said(/\*Boards\* are pages of your own/);
	await page.getByRole("link", { name: "Boards" }).click();
	await page.waitForURL(/\/period\/boards/);
	await expect(content).toContainText(/board/i);
});

test("2: Deals is sorted by attention, and a press opens the sheet beside the list", async ({ page }) => {
	said(/\*Deals\* is sorted by attention\. A lit lamp asks you to act/);
	await signIn(page, "ruth", "/deals");
	await expect(page.getByRole("columnheader", { name: /^Need/ })).toHaveAttribute("aria-sort", "descending");
	await expect(
		page
			.locator(".deal-line")
			.first()
			.getByRole("img", { name: /^Lamp: / }),
	).toBeVisible();
	await page.locator(".deal-line").first().getByText("Rack ovens, three sites").click();
	await expect(page.getByRole("complementary")).toBeVisible();
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
	// "The close date was 18 November; the 19th, 20th, 23rd and 24th are the four working days since."
	const [close] = said(/The close date was (\d+ \w{3})\w*; the 19th, 20th, 23rd and 24th are the four working days since/);
	await expect(content).toContainText(close as string);
	await expect(content).toContainText("4 working days");
	said(/Each flag shows since when it is lit, what clears it, and its settings/);
	said(/enter a later close date, and the program asks for a reason\. The change is in the trail with its author and reason, and \*Undo\* reverses it/);
	said(/Under \*Evidence\* you answer each question with one click or one key/);
	expect(Math.round(100 * Number(risk) * (0.5 + Number(stake) / 2) * (0.5 + Number(urgency) / 2))).toBe(Number(attention));
});

test("4: what was pushed out is what the bridge says; the same two days are seen in other ways", async ({ page }) => {
	const [count, amount] = said(/Choose \*Pushed out\*: (\w+) deals, (€[\d ]+)\./);
	expect(count).toBe("two");
	await signIn(page, "ruth", "/changes");
	await page
		.getByRole("button", { name: /^Pushed out/ })
		.first()
		.click();
	const content = page.locator("#content");
	await expect(content).toContainText("2 deals");
	await expect.poll(async () => (await content.textContent())?.replace(/[\u00a0\u202f]/g, " ")).toContain(amount);
	said(/compared \*deal by deal\*, as a \*trend\* by week against the target, and as a \*flow\* between stages/);
	for (const view of [/deal by deal/i, /trend/i, /flow/i, /river/i]) {
		await page.getByRole("navigation", { name: /views/i }).getByRole("link", { name: view }).click();
		await expect(page.locator("#content")).not.toContainText("could not be");
	}
});

test("5: each flag has its remedy; the tasks of some deals are seen before they are given", async ({ page }) => {
	said(/On a sheet, each flag has its remedy as a ready-worded task\. Or select several deals and press `T`/);
	await signIn(page, "ruth", "/deals/story-rack");
	await expect(page.getByRole("button", { name: /give/i }).first()).toBeVisible();
	await signIn(page, "ruth", "/deals");
	await expect(page.locator(".deal-line").first()).toBeVisible();
	await page.keyboard.press("j");
	await page.keyboard.press("x");
	await expect(page.getByText(/^1 selected/)).toBeVisible();
	await page.keyboard.press("t");
	await expect(page.getByRole("dialog").getByRole("button", { name: /^Give/ })).toBeVisible();
	await page.keyboard.press("Escape");
});

test("6: filters read as a sentence, and Accounts says who wasn’t spoken to and which lost deals come back", async ({ page }) => {
	said(/\*Accounts\* shows who had no contact, and which lost deals to follow up again/);
	await signIn(page, "ruth", "/accounts");
	await expect(page.locator("#content")).toContainText(/lost deals to follow up again/i);
	await page.goto("/deals?flags=overdue");
	await expect(page.locator("#content")).toContainText(/overdue/i);
});

test("7 to 9: a rep’s desk, what helped and the round that is due are where the tour says", async ({ page }) => {
	said(/Sign in as `ines@emberwick\.example`\. \*My desk\* shows what is late and due, what happened, and which deals are lit and why/);
	await signIn(page, "ines", "/desk");
	await expect(page.getByRole("heading", { level: 1 })).toContainText(/desk/i);
	await expect(page.locator("#content")).toContainText(/lit/);
	said(/Sign in as Ruth again\. \*Tasks\* are listed by day, rep, deal or flag, or shown as a week and a month/);
	await signIn(page, "ruth", "/tasks");
	for (const view of ["Week", "Month"]) {
		await page.getByRole("link", { name: view, exact: true }).click();
		await expect(page.locator("#content")).toContainText("Nov");
	}
	said(/\*Did it help\?\* first lists tasks that won’t be done in time/);
	await page.getByRole("link", { name: "Did it help?" }).click();
	await expect(page.locator("#content")).toContainText("won’t be done in time");
	await expect(page.getByRole("table", { name: "Outcomes by flag" })).toContainText("cleared");
	said(/\*Rounds\* says that Ruth’s weekly round is due, and starts it with one press/);
	await page.goto("/rounds");
	await expect(page.getByRole("button", { name: /^Start “.* with North”/ })).toBeVisible();
	said(/Before a visit, read the deal’s \*brief\*: one page, each line with its source/);
	await page.goto("/deals/story-plant/brief");
	await expect(page.locator("#content")).toContainText("Open questions");
});

test("10: the past says where the period ends, what that is made of, and which flags signal a miss", async ({ page }) => {
	said(/the parts of the expected total \(won, due, dated elsewhere, not there yet\)/);
	await signIn(page, "ruth", "/patterns");
	await expect(page.locator("#content")).toContainText(/The chance of the target/);
	const parts = page.getByRole("region", { name: "The expected total, scrollable" });
	for (const part of ["Won so far", "Due in the period", "Dated elsewhere", "Not there yet", "Expected total"]) await expect(parts).toContainText(part);
	said(/\*How these figures are made\* works them out with this period’s own/);
	await page.getByText("How these figures are made").click();
	await expect(page.getByText(/10 000 totals are drawn/)).toBeVisible();
	said(/which flags and answers signal that a deal isn’t won in time, more than chance would/);
	await page.getByRole("link", { name: "Signals of a miss" }).click();
	await expect(page.locator("#content")).toContainText(/by more than chance/);
});

test("the keys, a past day and the others who can sign in are as the tour ends", async ({ page }) => {
	said(/`\/` searches names and all texts \([^)]+\), `\?` lists keys and terms; \*Day or dusk\* in the rail/);
	await signIn(page, "ruth", "/deals");
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog")).toBeVisible();
	await page.keyboard.press("Escape");
	await expect(page.getByRole("button", { name: "Day or dusk" })).toBeVisible();
	said(/Choose a past day under \*seen\*, and the whole program shows that day, read only/);
	await page.goto("/deals?seen=2026-11-02");
	await expect(page.locator("body")).toContainText("read only");
	for (const who of ["helena", "arno", "mirela"]) {
		said(new RegExp(`\\W${who}@\\W`));
		await signIn(page, who, "/deals");
		await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
	}
});
