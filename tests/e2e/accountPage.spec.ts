import { expect, signIn, test } from "../kit/browser";

test("an account’s story is opened from its deal, filtered, searched and written to, and undone", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	await page.getByRole("link", { name: "Saltmarsh Patisserie" }).first().click();
	await expect(page).toHaveURL(/\/accounts\/acc-001/);
	await expect(page.getByText(/They wait for us since 18 Nov/)).toBeVisible();
	const who = page.getByRole("region", { name: "Who knows whom" });
	await expect(who.getByRole("row", { name: /^Aiko Quiroga/ })).toContainText("Ines Valdoro");
	const log = page.getByRole("region", { name: "What was said and done" });
	await log.getByLabel("Kind").selectOption("meeting");
	await expect(log.getByText("Contract draft sent")).toBeHidden();
	await expect(log.getByText("Payback meeting with the site manager")).toBeVisible();
	await log.getByLabel("Kind").selectOption("");
	await log.getByLabel("Search the log").fill("site two");
	await expect(log.getByText("When can you start on site two?")).toBeVisible();
	await expect(log.getByText("Contract draft sent")).toBeHidden();
	await log.getByLabel("Search the log").fill("");
	await log.getByRole("button", { name: "Log something" }).click();
	await log.getByLabel("What was it about?").fill("Asked about the second site");
	await log.getByRole("button", { name: "Log", exact: true }).click();
	await expect(log.getByText("Asked about the second site")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(log.getByText("Asked about the second site")).toBeHidden();
	const top = page.getByRole("region", { name: "Kept on top" });
	await top.getByLabel("A note that stays on top").fill("The council meets on Tuesdays.");
	await top.getByRole("button", { name: "Add" }).click();
	await expect(top.getByText("The council meets on Tuesdays.")).toBeVisible();
	await top.getByRole("button", { name: /Remove the note/ }).click();
	await expect(top.getByText("The council meets on Tuesdays.")).toBeHidden();
});

test("whose turn it is is worked through by keyboard", async ({ page }) => {
	await signIn(page, "ines", "/accounts/turns");
	await expect(page.getByRole("heading", { name: /wait for us/ }).first()).toBeVisible();
	const here = page.locator(".turn-list > li.here");
	const first = await here.getAttribute("data-turn");
	await page.keyboard.press("j");
	await expect(here).not.toHaveAttribute("data-turn", first ?? "");
	const second = await here.getAttribute("data-turn");
	await page.keyboard.press("a");
	await page.getByLabel("What was it about?").fill("Ask about the offer");
	await page.keyboard.press("Escape");
	await page.keyboard.press("l");
	await page.getByLabel("What was it about?").fill("Answered by phone");
	await page.keyboard.press("Enter");
	await expect(page.locator(`[data-turn="${second}"]`)).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(page.locator(`[data-turn="${second}"]`)).toHaveCount(1);
});

test("activities are counted by person, opened for one of them, and shown for other spans", async ({ page }) => {
	await signIn(page, "ruth", "/accounts/activities");
	await expect(page.getByRole("heading", { name: /contacts from/ })).toBeVisible();
	await page.getByRole("link", { name: "Tobias Renn" }).click();
	await expect(page.getByText("Below: Tobias Renn alone.")).toBeVisible();
	await page.getByRole("link", { name: "This week" }).click();
	await expect(page).toHaveURL(/span=week.*who=|who=.*span=week/);
	await expect(page.getByRole("region", { name: "Done", exact: true })).toContainText("Tobias Renn");
});
