import { expect, signIn, test } from "../kit/browser";

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

test("on a phone a rep finds what is due, drops a task with a reason, and opens it again", async ({ page }) => {
	await signIn(page, "maeve", "/desk");
	await expect(page.getByRole("heading", { name: "Today", exact: true })).toBeVisible();
	await page.getByRole("button", { name: "Done: Get a conversation with the operations director, New plant, phase one" }).tap();
	await page.getByRole("button", { name: "Drop", exact: true }).tap();
	await page.getByLabel("Reason for dropping it").fill("They called themselves");
	await page.getByRole("button", { name: "Drop task" }).tap();
	await expect(page.getByText("“They called themselves”")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).tap();
	await expect(page.getByRole("button", { name: /^Done: Get a conversation/ })).toBeVisible();
});

test("on a phone the list is read as cards, and a sheet fills the screen", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.getByRole("button", { name: "Rack ovens, three sites" }).tap();
	const sheet = page.getByRole("complementary", { name: "Sheet of the deal" });
	await expect(sheet).toContainText("Overdue 4 d");
	expect((await sheet.boundingBox())?.width).toBeGreaterThan(380);
	await page.getByRole("button", { name: "Close the sheet" }).tap();
	await expect(sheet).toHaveCount(0);
});

test("on a phone the bridge is a list of steps", async ({ page }) => {
	await signIn(page, "ruth", "/changes");
	await page.getByRole("button", { name: /^Pushed out/ }).tap();
	await expect(page.getByRole("heading", { name: /^Pushed out: 2 deals/ })).toBeVisible();
});
