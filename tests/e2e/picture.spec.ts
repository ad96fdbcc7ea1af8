import { expect, signIn, test } from "../kit/browser";

test("open deals are drawn by close date and chance, marked by a rectangle, opened by a click", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.getByRole("button", { name: "Picture" }).click();
	const picture = page.getByRole("img", { name: /open deals by close date and chance/ });
	await expect(picture).toBeVisible();
	await expect(page.getByText(/Of the largest deals, \d+ closes? within 4 weeks/)).toBeVisible();
	await expect(page).toHaveURL(/drawn=true/);
	const box = await picture.boundingBox();
	if (!box) throw new Error("the picture isn’t drawn");
	// Whatever isn't overdue, from one corner to the other.
	await page.mouse.move(box.x + 120, box.y + 4);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width - 4, box.y + box.height - 4, { steps: 6 });
	await page.mouse.up();
	await expect(page.getByRole("button", { name: "Give a task" })).toBeVisible();
	const marked = await page.getByRole("checkbox", { name: /^Select /, checked: true }).count();
	expect(marked).toBeGreaterThan(3);
	await page.keyboard.press("t");
	await expect(page.getByRole("dialog")).toBeVisible();
	await page.keyboard.press("Escape");
	await expect(page.getByRole("dialog")).toBeHidden();
	const disc = picture.locator(".picture-act circle").first();
	// What a dialog leaves behind may lie over the picture for a moment more, and a pointer that rests says nothing more.
	await expect(async () => {
		await page.mouse.move(0, 0);
		await disc.hover({ force: true });
		await expect(page.getByText(/chance \d+% by comparable deals/)).toBeVisible({ timeout: 2000 });
	}).toPass({ timeout: 40_000 });
	await disc.click({ force: true });
	await expect(page.getByRole("complementary", { name: "Sheet of the deal" })).toBeVisible();
	await page.keyboard.press("Escape");
	await page.keyboard.press("j");
	await expect(page.getByText(/chance \d+% by/)).toBeVisible();
});
