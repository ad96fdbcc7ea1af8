import { expect, signIn, test } from "../kit/browser";

test("five silent customers are given their kit at once, and it is undone", async ({ page }) => {
	await signIn(page, "ruth", "/accounts/care");
	await page.getByRole("button", { name: /silent$/ }).click();
	// The server has answered: the rows are those of the filter.
	await expect(page.getByRole("button", { name: /silent$/ })).toHaveAttribute("aria-pressed", "true");
	const boxes = page.getByRole("checkbox", { name: /^Select / });
	await expect(boxes.nth(4)).toBeVisible();
	for (let i = 0; i < 5; i++) await boxes.nth(i).check();
	const given = page.getByText(/^Look up what .* bought and who knew them/);
	const before = await given.count();
	await page.getByRole("button", { name: "Give a kit or task" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Kit", { exact: true }).selectOption({ label: "Bring a lost customer back" });
	await expect(dialog.getByText(/^Ring \{account\}/)).toBeVisible();
	await dialog.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByText("15 tasks given.")).toBeVisible();
	await expect(given.first()).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(given).toHaveCount(before);
});

test("a view of who needs care is saved, opened again and deleted", async ({ page }) => {
	// Another address at each try: one that is kept already is shown by its name.
	const name = `Risky ${Date.now()}`;
	await signIn(page, "ruth", `/accounts/care?why=risk&of=${Date.now()}`);
	await page.locator(".views-toggle").click();
	await page.getByRole("button", { name: "Save view …" }).click();
	await page.getByLabel("Name").fill(name);
	await page.getByRole("dialog").getByRole("button", { name: "Save", exact: true }).click();
	await expect(page.getByRole("dialog")).toBeHidden();
	await page.goto("/accounts/care");
	await page.locator(".views-toggle").click();
	await page.getByRole("button", { name: new RegExp(name) }).click();
	await expect(page).toHaveURL(/why=risk/);
	await page.locator(".views-toggle").click();
	await page.getByRole("button", { name: /Order, share and delete/ }).click();
	const line = page.getByRole("dialog").getByRole("listitem").filter({ hasText: name });
	await line.getByRole("button", { name: "Delete" }).click();
	await expect(line).toHaveCount(0);
});

test("a deal is renamed and given to another account, and both are put back", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-mixers");
	const title = page.getByRole("heading", { level: 2 });
	const before = (await title.textContent()) ?? "";
	await page.getByRole("button", { name: "Rename or move" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Name of the deal").fill("Mixers, renamed");
	await dialog.getByLabel("Account", { exact: true }).fill("Saltmarsh");
	await expect(dialog.getByRole("button", { name: "Save" })).toBeDisabled();
	await dialog.getByRole("radio", { name: /Saltmarsh Patisserie/ }).check();
	await dialog.getByRole("button", { name: "Save" }).click();
	await expect(title).toContainText("Mixers, renamed");
	await expect(page.getByRole("link", { name: "Saltmarsh Patisserie" }).first()).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(title).toHaveText(before);
});

test("the week of activities goes to the month and earlier, and is narrowed to one kind", async ({ page }) => {
	await signIn(page, "ruth", "/accounts/activities?span=week");
	const week = page.getByRole("region", { name: "The week" });
	await expect(week.getByText(/^Tue 24 Nov/)).toBeVisible();
	await week.getByRole("link", { name: "Earlier" }).click();
	await expect(week.getByText(/^Tue 17 Nov/)).toBeVisible();
	await page.getByLabel("Kind").selectOption("visit");
	await expect(page).toHaveURL(/kind=visit/);
	await expect(week.getByText(/^email/)).toHaveCount(0);
	await page.getByRole("link", { name: "Month", exact: true }).click();
	await expect(page.getByRole("region", { name: "The month" })).toBeVisible();
});
