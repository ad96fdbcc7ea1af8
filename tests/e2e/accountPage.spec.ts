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
	await expect(page.getByRole("link", { name: "Open their page" })).toHaveAttribute("href", /\/people\/tobias/);
	await page.getByRole("link", { name: "Week", exact: true }).click();
	await expect(page).toHaveURL(/span=week.*who=|who=.*span=week/);
	await expect(page.getByRole("region", { name: "The week" })).toContainText("Tobias Renn");
});

test("accounts and people of theirs are made, edited, merged after a preview, and all of it is undone", async ({ page }) => {
	await signIn(page, "ruth", "/accounts");
	await page.getByRole("button", { name: "Create account" }).click();
	// Another one at each try, since what is made here stays.
	const twice = `twice ${Date.now()}`;
	await page.getByLabel("Name").fill(`Larkfield Bakehouse ${twice}`);
	await page.getByRole("button", { name: "Create", exact: true }).click();
	await expect(page).toHaveURL(/\/accounts\/account-/);
	await page.getByRole("button", { name: "Edit", exact: true }).click();
	await page.getByLabel("Territory").fill("Coast");
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(/prospect · Coast · Ruth Calloway/)).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(page.getByText(/prospect · Ruth Calloway/)).toBeVisible();
	await page.getByRole("button", { name: "Add somebody" }).click();
	await page.getByLabel("Name").fill("Nils Aaker");
	await page.getByLabel("Part in buying").selectOption({ label: "signs" });
	await page.getByRole("button", { name: "Save" }).click();
	const who = page.getByRole("region", { name: "Who knows whom" });
	await expect(who.getByRole("row", { name: /Nils Aaker/ })).toContainText("nobody");
	await page.goto("/accounts/acc-004");
	await page.getByRole("button", { name: "Merge" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("The account that is the same customer").fill(`bakehouse ${twice}`);
	await dialog.getByLabel(new RegExp(twice)).check();
	await expect(dialog.getByText(/What moves to Larkfield Bakehouse: 1 contact\./)).toBeVisible();
	await dialog.getByRole("button", { name: "Merge" }).click();
	await expect(who.getByRole("row", { name: /Nils Aaker/ })).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(who.getByRole("row", { name: /Nils Aaker/ })).toHaveCount(0);
});

test("a deal is made at an account, opened, and taken back", async ({ page }) => {
	await signIn(page, "ines", "/accounts/acc-001");
	await page.getByRole("button", { name: "Create deal" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Name").fill("A second proofer");
	await dialog.getByLabel(/Amount/).fill("twelve");
	await expect(dialog.getByText("Write the amount as a number")).toBeVisible();
	await expect(dialog.getByRole("button", { name: "Create" })).toBeDisabled();
	await dialog.getByLabel(/Amount/).fill("12500");
	await dialog.getByRole("button", { name: "Create" }).click();
	await expect(page).toHaveURL(/\/deals\/deal-/);
	await expect(page.getByText(/Missing:.*signatory|A second proofer/).first()).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await page.goto("/accounts/acc-001");
	await expect(page.getByText("A second proofer")).toHaveCount(0);
});

test("accounts of a territory are given to another after it is said which, and given back", async ({ page }) => {
	await signIn(page, "ruth", "/accounts/territories");
	const row = page.getByRole("row", { name: /^Coast/ });
	const before = await row.textContent();
	await row.getByRole("button", { name: /Give accounts of Coast/ }).click();
	const dialog = page.getByRole("dialog");
	await expect(dialog.getByRole("button", { name: "Give", exact: true })).toBeDisabled();
	await dialog.getByRole("checkbox", { name: "Sunniva Brack", exact: true }).check();
	await expect(dialog.getByText(/accounts? moves?: Sunniva Brack \d+\./)).toBeVisible();
	// Shared between two, each gets some of them.
	await dialog.getByRole("checkbox", { name: "Piotr Halvard", exact: true }).check();
	await expect(dialog.getByText(/accounts? moves?: Sunniva Brack \d+, Piotr Halvard \d+\./)).toBeVisible();
	await dialog.getByRole("button", { name: "Give", exact: true }).click();
	await expect(row).not.toHaveText(before ?? "");
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(row).toHaveText(before ?? "");
});
