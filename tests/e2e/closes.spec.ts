import { expect, signIn, test } from "../kit/browser";

// The last quarter closed by itself; ops opens it again, its manager closes it with a word of their own.
test("a period is closed, sealed and told with the same figures as its deals", async ({ page }) => {
	await signIn(page, "arno", "/period/closed?whose=team%3ANorth");
	// The program closes it by itself soon after its start.
	await expect(async () => {
		await page.reload();
		await expect(page.getByText(/Closed .*; no corrections since\. Sealed [0-9a-f]{8}\./)).toBeVisible({ timeout: 10_000 });
	}).toPass({ timeout: 90_000 });
	await page.getByRole("button", { name: "Reopen" }).click();
	await expect(page.getByText("Nobody has closed it yet")).toBeVisible();

	await signIn(page, "ruth", "/period/closed", { fresh: true });
	await expect(page.getByRole("heading", { level: 1 })).toContainText("Jul–Sep 2026");
	await page.getByRole("button", { name: "Close the period" }).click();
	await page.getByLabel("A paragraph of your own").fill("We committed what we hoped.");
	await page.getByRole("button", { name: "Close and seal" }).click();
	await expect(page.getByText(/Closed on .* by Ruth Calloway; no corrections since/)).toBeVisible();
	await expect(page.getByText("We committed what we hoped. Ruth Calloway")).toBeVisible();
	await expect(page.getByRole("button", { name: "Close the period" })).toHaveCount(0);

	// What was won is told by its step, and adds up in the list of its deals.
	const won = await page.locator(".close-step summary", { hasText: "Won" }).locator(".num").last().getAttribute("title");
	await page.locator(".close-step summary", { hasText: "Won" }).click();
	await expect(page.locator(".close-step[open] li").first()).toBeVisible();
	await page.getByLabel("Group the result by").selectOption("teams");
	await expect(page.getByRole("region", { name: "Result by group" }).getByRole("rowheader", { name: "North" })).toBeVisible();
	expect(won).toMatch(/^€/);

	const [download] = await Promise.all([
		page.waitForEvent("download"),
		(async () => {
			await page.getByRole("button", { name: "Export" }).click();
			await page.getByRole("button", { name: "Markdown", exact: true }).click();
		})(),
	]);
	expect(download.suggestedFilename()).toBe("close 2026-07-01..2026-09-30.md");
});

test("a rep reads how their own quarter ended, and closes nothing", async ({ page }) => {
	await signIn(page, "ines", "/period/closed");
	await expect(page.getByRole("heading", { level: 2 }).first()).toContainText(/€.* was won/);
	await expect(page.getByRole("button", { name: "Close the period" })).toHaveCount(0);
	await page.goto("/period/closed?due=none");
	await expect(page.getByRole("heading", { name: "Choose a period with a start and an end" })).toBeVisible();
});

test("overdue deals of other periods stand first in the list, whatever period is looked at", async ({ page }) => {
	await signIn(page, "ruth", "/deals?due=2027-Q1");
	const group = page.getByRole("button", { name: /^Carried over, undecided/ });
	await expect(group).toBeVisible();
	await expect(page.locator(".deals-foot")).toContainText(/and \d+ carried over/);
	await group.click();
	await expect(group).toHaveAttribute("aria-expanded", "false");
	await expect(page.getByRole("button", { name: /^Due in Jan–Mar 2027/ })).toBeVisible();
});

test("a fiscal year by weeks says when its years end, what it would change, and from when", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=company");
	await page.getByLabel("The fiscal year begins in").selectOption("weeks");
	await page.getByLabel("Month a year ends in").selectOption({ label: "of January" });
	await expect(page.getByText(/Years end on 31 Jan 2026, 30 Jan 2027, 29 Jan 2028/)).toBeVisible();
	await expect(page.getByText(/^Today: period .*1 Nov 2026 – 30 Jan 2027/)).toBeVisible();
	await page.getByLabel("The change holds").selectOption({ label: "from the year that begins on 31 Jan 2027" });
	await expect(page.getByText("Until 30 Jan 2027: years from January.")).toBeVisible();
	await page.getByRole("button", { name: "Discard" }).click();
	await expect(page.getByLabel("The fiscal year begins in")).toHaveValue("1");
});
