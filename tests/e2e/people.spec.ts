import { expect, signIn, test } from "../kit/browser";

test("people and teams are made, changed, moved and given a way in; two entries of one person become one", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=people");
	await page.getByRole("button", { name: "Add team" }).click();
	await page.getByRole("dialog").getByLabel("Name").fill("Islands");
	await page.getByRole("dialog").getByLabel("Part of").selectOption("North");
	await page.getByRole("dialog").getByRole("button", { name: "Add" }).click();
	await expect(page.getByRole("rowheader", { name: /Islands, part of North/ })).toBeVisible();

	await page.getByRole("button", { name: "Add person" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Name").fill("Wren Alder");
	await dialog.getByLabel("E-mail address").fill("INES@emberwick.example");
	await dialog.getByLabel("Role").selectOption("manager");
	await expect(dialog.getByText("Without a team a manager sees only their own deals")).toBeVisible();
	await dialog.getByRole("button", { name: "Add" }).click();
	await expect(dialog.getByRole("alert")).toContainText("is the address of Ines Valdoro already");
	await dialog.getByLabel("E-mail address").fill("wren@emberwick.example");
	await dialog.getByRole("button", { name: "Add" }).click();
	const row = page.getByRole("row", { name: /Wren Alder/ });
	await expect(row).toContainText("no password");

	await page.getByRole("button", { name: "Change Wren Alder" }).click();
	await dialog.getByRole("button", { name: "Create a link to set one" }).click();
	const link = await dialog.locator("code").innerText();
	await dialog.getByRole("button", { name: "Cancel" }).click();

	// Whoever has no team is told why there is nothing to see; a team is given, and taken back.
	const wren = (await page.context().browser()?.newPage()) as typeof page;
	await wren.goto(link);
	await wren.getByLabel("New password").fill("password12");
	await wren.getByRole("button", { name: "Set password" }).click();
	await expect(wren.locator("main").getByRole("alert")).toContainText("too common");
	await wren.getByLabel("New password").fill("seven geese walk");
	await wren.getByRole("button", { name: "Set password" }).click();
	await wren.getByRole("button", { name: "Sign in", exact: true }).click();
	await wren.getByLabel("E-mail address").fill("wren@emberwick.example");
	await wren.getByLabel("Password").fill("seven geese walk");
	await wren.getByRole("button", { name: "Sign in", exact: true }).click();
	await wren.waitForURL(/\/period/);
	await expect(wren.getByText("You are in no team yet")).toBeVisible();
	await wren.goto(link);
	await wren.getByLabel("New password").fill("eight geese walk");
	await wren.getByRole("button", { name: "Set password" }).click();
	await expect(wren.locator("main").getByRole("alert")).toContainText("This link was used already");
	await wren.close();

	await page.getByRole("button", { name: "Change Wren Alder" }).click();
	await dialog.getByLabel("Team").selectOption("Islands");
	await dialog.getByRole("button", { name: "Save" }).click();
	await expect(page.getByRole("rowheader", { name: /Islands, part of North 1/ })).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(page.getByRole("rowheader", { name: /Islands, part of North 0/ })).toBeVisible();

	await page.getByRole("button", { name: "Change Wren Alder" }).click();
	await dialog.getByLabel("Merge into").selectOption({ label: "Tobias Renn, tobias@emberwick.example, North" });
	await expect(dialog.getByText(/Nothing is Wren Alder’s; Wren Alder becomes another name of Tobias Renn/)).toBeVisible();
	await dialog.getByRole("button", { name: "Merge people" }).click();
	await expect(page.getByRole("row", { name: /Wren Alder/ })).toHaveCount(0);

	await page.getByRole("button", { name: "Change team Islands" }).click();
	await dialog.getByRole("button", { name: "Delete" }).click();
	await expect(page.getByRole("rowheader", { name: /Islands/ })).toHaveCount(0);
});

test("the company is changed and set back; a rep only reads it, and the demo says what it is", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=company");
	await expect(page.getByRole("link", { name: "Set up your own company" })).toBeVisible();
	await page.getByLabel("Company name").fill("Emberwick and Sons");
	await page.getByLabel("Holidays").fill("2026-02-30 Never");
	await page.getByRole("button", { name: "Save company" }).click();
	await expect(page.getByText(/2026-02-30 isn’t a valid day/)).toBeVisible();
	await page.getByRole("button", { name: "Discard" }).click();
	await page.getByLabel("Company name").fill("Emberwick and Sons");
	await page.getByRole("button", { name: "Save company" }).click();
	await expect(page.getByRole("heading", { name: "Emberwick and Sons" })).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(page.getByRole("heading", { name: "Emberwick Ovens" })).toBeVisible();
	// What another fiscal year would change is worked out before it can be saved.
	await page.getByLabel("The fiscal year begins in").selectOption({ label: "November" });
	await expect(page.getByText(/Today: period Oct–Dec 2026 → Nov 2026–Jan 2027, working days left \d+ → \d+/)).toBeVisible();
	await expect(page.getByText(/Rounds, tries and saved views keep their days/)).toBeVisible();
	await page.getByRole("button", { name: "Discard" }).click();
	await signIn(page, "ines", "/setup?place=company");
	await expect(page.getByLabel("Company name")).toBeDisabled();
	await expect(page.getByRole("link", { name: "Set up your own company" })).toHaveCount(0);
});
