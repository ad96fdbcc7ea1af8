import { dealRow, expect, signIn, test } from "../kit/browser";

test("from the list of lit deals to a corrective task that a rep has done", async ({ page }) => {
	await test.step("the manager sees which deals need attention, and why", async () => {
		await signIn(page, "ruth", "/", { fresh: true });
		await expect(page).toHaveURL(/\/period/);
		await page.getByRole("link", { name: /^Deals/ }).click();
		await expect(page.getByRole("heading", { level: 1 })).toContainText("North team’s deals due in Oct–Dec 2026, seen today against Mon 16 Nov");
		const first = page.getByRole("row").nth(1);
		await expect(first).toContainText("Rack ovens, three sites");
		await expect(first).toContainText("Overdue 4 d");
	});
	await test.step("opens one, and can check its figures", async () => {
		await page.getByRole("button", { name: "Rack ovens, three sites" }).click();
		const sheet = page.getByRole("complementary", { name: "Sheet of the deal" });
		await expect(sheet).toContainText("close date was 18 Nov, 4 working days ago");
		await expect(sheet).toContainText("They are waiting for us.");
		await expect(sheet).toContainText(/Attention 8\d = 100 × risk/);
		await sheet.getByRole("link", { name: "Open the whole sheet" }).click();
		await expect(page.getByRole("heading", { name: /3 pushes, 58 calendar days in all, 1 quarter end crossed/ })).toBeVisible();
		await expect(page.getByText("pushed 16 calendar days")).toBeVisible();
		await page.goBack();
	});
	await test.step("finds what was pushed out since the last Monday", async () => {
		await page.getByRole("link", { name: "Changes" }).click();
		await expect(page.getByRole("heading", { level: 2, name: /^Open pipeline (fell|grew) by/ })).toBeVisible();
		await page.getByRole("button", { name: /^Pushed out/ }).click();
		const deals = page.getByRole("region", { name: "Deals, scrollable" });
		await expect(deals.getByRole("row").filter({ hasText: "Tunnel oven feasibility" }).first()).toContainText(/14 Dec → 25 Jan 2027/);
		await expect(page).toHaveURL(/step=pushed-out/);
	});
	await test.step("gives the remedy of a flag as a task", async () => {
		await page.getByRole("link", { name: /^Deals/ }).click();
		await page.getByRole("button", { name: "Rack ovens, three sites" }).click();
		await page.getByRole("button", { name: "Give task: Answer what they asked" }).click();
		const dialog = page.getByRole("dialog");
		await expect(dialog.getByLabel("Task text")).toHaveValue("Answer what they asked");
		await expect(dialog.getByLabel("Due")).toHaveValue("27 Nov 2026");
		await expect(dialog).toContainText("Goes to Ines Valdoro");
		await dialog.getByRole("button", { name: "Give task" }).click();
		await expect(page.getByText("Task given, due 27 Nov.")).toBeVisible();
		await expect(page.getByRole("complementary").getByText("Ines, 27 Nov")).toBeVisible();
		await page.keyboard.press("Escape");
	});
	await test.step("gives one task to the owners of two deals at once", async () => {
		await dealRow(page, "Rack ovens, three sites").getByRole("checkbox").check();
		await dealRow(page, "New plant, phase one").getByRole("checkbox").check();
		await page.getByRole("button", { name: "Give a task to each owner" }).click();
		const dialog = page.getByRole("dialog");
		// Several deals begin each with its own remedy.
		await expect(dialog.getByRole("radio", { name: "Each deal’s own remedy" })).toBeChecked();
		await dialog.getByRole("radio", { name: "Same text for all" }).check();
		await dialog.getByLabel("Task text").fill("Meet the person who signs");
		await expect(dialog.getByRole("row").filter({ hasText: "Rack ovens, three sites" })).toContainText("Ines Valdoro");
		await expect(dialog.getByRole("row").filter({ hasText: "New plant, phase one" })).toContainText("Maeve Okonjo");
		await dialog.getByRole("button", { name: "Give 2 tasks" }).click();
		await expect(page.getByText("2 tasks given, due 27 Nov.")).toBeVisible();
		await page.getByRole("button", { name: "Sign out" }).click();
		await page.waitForURL(/sign-in/);
	});
	await test.step("the rep sees it on the desk and does it with a note", async () => {
		await signIn(page, "ines", "/", { fresh: true });
		await expect(page).toHaveURL(/\/desk/);
		await expect(page.getByRole("row").filter({ hasText: "Send the bank the payback figures" })).toContainText("overdue");
		await page.getByRole("button", { name: "Done: Meet the person who signs, Rack ovens, three sites" }).click();
		await page.getByLabel("How did it go? A sentence is enough.").fill("Lea signs up to half a million");
		await page.getByRole("button", { name: "Mark done" }).click();
		await expect(page.getByText("Task done.", { exact: true })).toBeVisible();
		await expect(page.getByText("“Lea signs up to half a million”")).toBeVisible();
		await page.getByRole("button", { name: "Sign out" }).click();
		await page.waitForURL(/sign-in/);
	});
	await test.step("the manager sees it done", async () => {
		await signIn(page, "ruth", "/tasks?state=done");
		const row = page.getByRole("row").filter({ hasText: "Lea signs up to half a million" });
		await expect(row).toContainText("Ines Valdoro");
		await expect(row).toContainText("done 24 Nov");
		await expect(row).toContainText("on time");
	});
});
