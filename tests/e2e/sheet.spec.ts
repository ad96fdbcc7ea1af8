import { expect, signIn, test } from "../kit/browser";

test("the whole sheet shows what its figures were made of", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	const trail = page.getByRole("img", { name: /^Close dates: 21 Sep 2026, set on/ });
	await expect(trail).toBeVisible();
	await expect(page.getByText("Open for 92 working days, since 17 Jul 2026, in 5 visits to stages.")).toBeVisible();
	await expect(page.getByRole("img", { name: "strength 45 of 100, coverage 71, expected 67 at this stage" })).toBeVisible();
	await expect(page.getByRole("listitem").filter({ hasText: "Who signs, and have we met them?" }).last()).toContainText("assumed");
	await expect(page.getByRole("listitem").filter({ hasText: "from 12 Oct" })).toContainText("31 d");
});

test("the timeline can be narrowed to one kind, and shows older entries on demand", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	await page.getByRole("button", { name: "Answers", exact: true }).click();
	await expect(page.getByText("“Kelloran is cheaper on the third site”").first()).toBeVisible();
	await expect(page.getByText("Contract draft sent")).toHaveCount(0);
	await page.getByRole("button", { name: "Contacts" }).click();
	await expect(page.getByText("Contract draft sent")).toBeVisible();
});

test("a past sheet shows that past: no later contact, no flag that wasn’t lit, nothing to give", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack?seen=2026-11-12");
	await expect(page.getByRole("status").filter({ hasText: "Thu 12 Nov" })).toBeVisible();
	await expect(page.getByText("When can you start on site two?")).toHaveCount(0);
	await expect(page.getByText("Overdue 4 d")).toHaveCount(0);
	await expect(page.getByText("We are waiting for them.")).toBeVisible();
	await expect(page.getByRole("button", { name: /^Give/ })).toHaveCount(0);
});

test("another team’s deal isn’t found by its address, on screen or in the API", async ({ page }) => {
	await signIn(page, "luca", "/deals/story-rack");
	await expect(page.getByRole("alert").filter({ hasText: "There is no deal story-rack" })).toBeVisible();
	expect((await page.request.get("/api/v1/deals/story-rack")).status()).toBe(404);
	expect((await page.request.get("/sheet/story-rack?seen=2026-11-24&against=2026-11-16")).status()).toBe(404);
});

test("a viewer reads everything of the team and changes nothing", async ({ page }) => {
	await signIn(page, "mirela", "/deals?deal=story-rack");
	await expect(page.getByRole("complementary")).toContainText("Overdue 4 d");
	await expect(page.getByRole("button", { name: /^Give/ })).toHaveCount(0);
	await expect(page.getByRole("checkbox")).toHaveCount(0);
	await page.goto("/tasks");
	await expect(page.getByRole("button", { name: /^Done:/ })).toHaveCount(0);
	await page.goto("/deals?whose=team:North");
	await expect(page.getByRole("row").nth(1)).toBeVisible();
});

test("when the server can’t answer, the sheet says so and tries again", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.route("**/sheet/**", (route) => route.abort());
	await page.getByRole("button", { name: "Rack ovens, three sites" }).click();
	await expect(page.getByRole("alert").filter({ hasText: "The server doesn’t respond" })).toBeVisible();
	await page.unroute("**/sheet/**");
	await page.getByRole("button", { name: "Try again" }).click();
	await expect(page.getByRole("complementary")).toContainText("Overdue 4 d");
});
