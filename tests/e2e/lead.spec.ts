import { expect, signIn, test } from "../kit/browser";

test("a manager goes through what waits for them by keyboard, and opens it", async ({ page }) => {
	await signIn(page, "ruth", "/desk");
	const waits = page.getByRole("region", { name: "What waits for me" });
	await expect(waits.getByRole("heading", { name: /Due within a week/ })).toBeVisible();
	const here = waits.locator("li.here");
	const first = await here.getAttribute("data-lead");
	await page.keyboard.press("j");
	await expect(here).not.toHaveAttribute("data-lead", first ?? "");
	await page.keyboard.press("k");
	await expect(here).toHaveAttribute("data-lead", first ?? "");
	// What is set aside is gone, and back when that is undone.
	await page.keyboard.press("e");
	await expect(waits.locator(`[data-lead="${first}"]`)).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(waits.locator(`[data-lead="${first}"]`)).toBeVisible();
	const path = await here.getByRole("link").first().getAttribute("href");
	await page.keyboard.press("o");
	await expect(page).toHaveURL(new RegExp(`${path?.split("?")[0]}`));
});

test("a talk is prepared from one page, whose points the person doesn’t read", async ({ page }) => {
	await signIn(page, "ruth", "/people/tobias");
	await expect(page.getByRole("heading", { name: /open deals? lit/ })).toBeVisible();
	const past = page.getByRole("region", { name: "What the past says" });
	await expect(past.getByRole("listitem").filter({ hasText: "In commit, won in time" })).toContainText("theirs is worse");
	await past.getByText(/other figures?: no clear difference/).click();
	await expect(past.getByRole("listitem").filter({ hasText: "Pushes for 100 open deal-weeks" })).toBeVisible();
	await expect(page.getByRole("region", { name: "Promised" }).getByRole("listitem").first()).toBeVisible();
	const points = page.getByRole("region", { name: "For the next talk" });
	await points.getByLabel("A point for the next talk").fill("Ask about the two ovens");
	await points.getByRole("button", { name: "Add" }).click();
	await expect(points.getByText("Ask about the two ovens")).toBeVisible();
	await signIn(page, "tobias", "/people/tobias", { fresh: true });
	await expect(page.getByRole("heading", { name: /open deals? lit/ })).toBeVisible();
	await expect(page.getByText("Ask about the two ovens")).toHaveCount(0);
	await signIn(page, "ruth", "/people/tobias", { fresh: true });
	await points.getByRole("button", { name: /Strike off/ }).click();
	await expect(points.getByText("Ask about the two ovens")).toBeHidden();
});
