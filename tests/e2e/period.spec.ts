import { expect, signIn, test } from "../kit/browser";

// A new manager's first minutes with the period, every figure opened and added up.

const cents = (text: string | null) => Math.round(Number((text ?? "").replace(/[^\d.]/g, "")) * 100);

test("a manager opens on the period; the deals behind its figures add up to them", async ({ page }) => {
	await signIn(page, "ruth", "/");
	await expect(page).toHaveURL(/\/period/);
	await expect(page.getByRole("heading", { level: 2 }).first()).toContainText(/of €.* is won\. €.* is missing, and €.* is open: \d+% of it has to be won/);
	for (const part of ["Won", "Commit", "Best case", "Pipeline"]) {
		await page.goto("/period");
		const link = page.getByRole("link", { name: new RegExp(`^${part} `) }).first();
		const amount = cents(await link.locator("b").textContent());
		await link.click();
		await expect(page).toHaveURL(/\/deals/);
		await expect(page.getByRole("table", { name: /deals$/ })).toBeVisible();
		const foot = page.locator(".deals-foot [title^='€']").first();
		expect(cents(await foot.getAttribute("title")), part).toBe(amount);
	}
});

test("the pace opens what was won on a day, a rep narrows the sentence, and the period is shown by other things", async ({ page }) => {
	await signIn(page, "ruth", "/period");
	await page.getByText("Won day by day").click();
	await page
		.getByRole("region", { name: "Pace" })
		.getByRole("link", { name: /working day/ })
		.first()
		.click();
	await expect(page).toHaveURL(/status=won/);
	await expect(page.locator(".deals-foot")).toContainText("won");
	await page.goto("/period");
	await page.getByRole("link", { name: "Maeve Okonjo" }).first().click();
	await expect(page.getByRole("heading", { level: 1 })).toContainText("Maeve Okonjo’s");
	await page.goto("/period?whose=all");
	await page.getByLabel("Group the period by").selectOption("territory");
	await expect(page.getByRole("link", { name: "Fjords" })).toBeVisible();
	await page.getByRole("button", { name: "At act" }).click();
	await expect(page).toHaveURL(/sort=-act/);
	await page.getByRole("link", { name: "Jan–Mar 2027" }).click();
	await expect(page.getByRole("heading", { level: 2 }).first()).toContainText("is open for Jan–Mar 2027");
});

test("deals without a date are re-dated then and there", async ({ page }) => {
	await signIn(page, "ruth", "/period");
	await page.getByText(/^without a date: \d+ deal/).click();
	await page.getByRole("button", { name: /^Re-date \d+ deal/ }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Close date").fill("2026-12-18");
	await dialog.getByRole("button", { name: "Preview changes" }).click();
	await expect(dialog.getByRole("listitem").first()).toContainText("18 Dec 2026");
	await page.keyboard.press("Escape");
	await expect(dialog).toHaveCount(0);
});

test("what if the two largest slip: tried, kept, held against what came of it, and taken away", async ({ page }) => {
	await signIn(page, "ruth", "/period/tries");
	const line = page.getByRole("region", { name: "Tries side by side" });
	await expect(line).toContainText("As is");
	const pushes = page.getByRole("region", { name: "Deals to move" }).getByRole("button", { name: /^push / });
	await pushes.nth(0).click();
	await pushes.nth(1).click();
	await expect(line).toContainText("This try");
	// A push leaves what is missing as it is: what it changes is said.
	await expect(page.getByRole("heading", { name: /^Open €.* \(was €.*\), cover .* \(was .*\), share to win/ })).toBeVisible();
	await expect(page.getByRole("region", { name: "Moves" }).getByRole("listitem")).toHaveCount(2);
	await page.getByLabel("Name of the try").fill("The two largest slip");
	await page.getByRole("button", { name: "Save try" }).click();
	await expect(line).toContainText("The two largest slip");
	await expect(line).toContainText("made 24 Nov 2026");
	await line.getByRole("button", { name: "Results" }).click();
	const later = page.getByRole("region", { name: "Results of The two largest slip" });
	await expect(later).toContainText("too early to tell");
	await expect(later.getByRole("row")).toHaveCount(3);
	await line.getByRole("button", { name: "Delete try" }).click();
	await expect(line).not.toContainText("The two largest slip");
});

test("targets are pasted from a spreadsheet, refused in words, saved and undone", async ({ page }) => {
	await signIn(page, "ruth", "/setup?place=targets");
	const cell = page.getByLabel("Ines Valdoro, Apr–Jun 2027");
	await cell.focus();
	await page.evaluate(() => {
		const data = new DataTransfer();
		data.setData("text", "100 000\t110,000\n1.200.000\tmany");
		document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
	});
	await expect(page.getByLabel("Maeve Okonjo, Apr–Jun 2027")).toHaveValue("1.200.000");
	await expect(page.getByRole("status").filter({ hasText: "Maeve Okonjo: “many” isn’t an amount" })).toBeVisible();
	await expect(page.getByRole("button", { name: "Save targets" })).toBeDisabled();
	await page.getByLabel("Maeve Okonjo, Jul–Sep 2027").fill("90000 GBP");
	await page.getByRole("button", { name: "Save targets" }).click();
	await expect(page.getByText("4 targets changed.")).toBeVisible();
	await expect(page.getByLabel("Maeve Okonjo, Apr–Jun 2027")).toHaveValue("1 200 000");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(cell).toHaveValue("");
});

test("a figure past its mark is said on the page, and not once the mark is gone", async ({ page }) => {
	await signIn(page, "ruth", "/setup?place=marks");
	await page.getByLabel("cover, times").fill("2.5");
	await page.getByRole("button", { name: "Save marks" }).click();
	await expect(page.getByText("Marks saved.")).toBeVisible();
	await page.goto("/period");
	await expect(page.getByText("Past its mark:")).toContainText("at least 2.5 is acceptable");
	await page.goto("/setup?place=marks");
	await page.getByLabel("cover, times").fill("");
	await page.getByRole("button", { name: "Save marks" }).click();
	await expect(page.getByText("Marks saved.")).toBeVisible();
	await page.goto("/period");
	await expect(page.getByText("Past its mark:")).toHaveCount(0);
});

test("a board is made, filled and arranged by keyboard alone, and opens the program", async ({ page }) => {
	await signIn(page, "tomas", "/period/boards");
	await page.getByLabel("Name of the new board").focus();
	await page.keyboard.type("South on Mondays");
	await page.keyboard.press("Enter");
	await expect(page.getByRole("heading", { name: "South on Mondays" })).toBeVisible();
	await expect(page.getByRole("region", { name: "Won", exact: true })).toContainText("€");
	const press = async (name: string, role: "button" | "link" = "button") => {
		await page.getByRole(role, { name, exact: true }).focus();
		await page.keyboard.press("Enter");
	};
	await press("Add a tile");
	await press("Text");
	await page.getByRole("textbox", { name: "Text" }).focus();
	await page.keyboard.type("Bring the quotes");
	await press("Save");
	// the text stands in the dialog's box too, and the dialog keeps the focus until it is gone
	await expect(page.getByRole("dialog")).toHaveCount(0);
	await expect(page.getByText("Bring the quotes")).toBeVisible();
	await press("Arrange");
	const cover = page.getByRole("group", { name: /^Cover, / });
	await cover.focus();
	await page.keyboard.press("Shift+ArrowDown");
	await expect(cover).toHaveAccessibleName(/4 tall/);
	await page.keyboard.press("ArrowRight");
	const text = page.getByRole("group", { name: /^Text, / });
	await text.focus();
	await page.keyboard.press("Delete");
	await expect(text).toHaveCount(0);
	await press("Done");
	await expect(page.getByText("Board saved.").first()).toBeVisible();
	await expect(page.getByText("Bring the quotes")).toHaveCount(0);
	await press("More");
	await press("Open the program with it");
	await expect(page.getByText("The program now opens with this board.")).toBeVisible();
	await page.goto("/");
	await expect(page.getByRole("heading", { name: "South on Mondays" })).toBeVisible();
	await press("More");
	await press("Delete");
	await expect(page).toHaveURL(/\/period\/boards(\?|$)/);
	await page.goto("/");
	await expect(page).toHaveURL(/\/period(\?|$)/);
});

test("a tile dragged by the mouse stays where it was put", async ({ page }) => {
	await signIn(page, "tomas", "/period/boards");
	await page.getByLabel("Name of the new board").fill("South by hand");
	await page.keyboard.press("Enter");
	await page.getByRole("button", { name: "Arrange" }).click();
	const won = page.getByRole("group", { name: /^Won, column 1, row 1,/ });
	const act = page.getByRole("group", { name: /^Deals at act, column 10, row 1,/ });
	const [from, to] = [await won.boundingBox(), await act.boundingBox()];
	if (!from || !to) throw new Error("tiles without a place");
	await page.mouse.move(from.x + 20, from.y + 15);
	await page.mouse.down();
	await page.mouse.move(to.x + 20, to.y + to.height + 15, { steps: 12 });
	await page.mouse.up();
	await expect(page.getByRole("group", { name: /^Won, column 10,/ })).toBeVisible();
	await page.getByRole("button", { name: "Done" }).click();
	await expect(page.getByText("Board saved.").first()).toBeVisible();
	await page.reload();
	await page.getByRole("button", { name: "Arrange" }).click();
	await expect(page.getByRole("group", { name: /^Won, column 10,/ })).toBeVisible();
	await page.getByRole("button", { name: "Discard" }).click();
	await page.getByRole("button", { name: "More" }).click();
	await page.getByRole("button", { name: "Delete" }).click();
	await expect(page).toHaveURL(/\/period\/boards(\?|$)/);
});
