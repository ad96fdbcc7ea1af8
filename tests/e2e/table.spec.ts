import { expect, signIn, test } from "../kit/browser";

const count = ".deals-foot b";

test("groups fold, and their deals stay selected and counted", async ({ page }) => {
	await signIn(page, "ruth", "/deals?group=stage");
	await expect(page.locator(".deal-group").first()).toContainText("Enquiry");
	const rows = await page.locator(".deal-line").count();
	const total = await page.locator(count).first().textContent();
	await page.locator(".deal-group").first().getByRole("button").click();
	await expect(page.locator(".deal-group").first().getByRole("button")).toHaveAttribute("aria-expanded", "false");
	expect(await page.locator(".deal-line").count()).not.toBe(rows + 1);
	await expect(page.locator(count).first()).toHaveText(total ?? "");
	await page.getByRole("checkbox", { name: "Select all deals shown" }).check();
	await expect(page.getByText(new RegExp(`^${total} selected`))).toBeVisible();
});

test("flags are asked for one by one, any of them or all", async ({ page }) => {
	await signIn(page, "ruth", "/deals?flags=slipped,overdue");
	const any = Number(await page.locator(count).first().textContent());
	await page.getByRole("button", { name: "any of these; switch to all" }).click();
	await expect(page).toHaveURL(/how=all/);
	await expect(page.locator(count).first()).not.toHaveText(String(any));
	const all = Number(await page.locator(count).first().textContent());
	expect(all).toBeLessThan(any);
	for (const line of await page.locator(".deal-line").all()) {
		await expect(line).toContainText("Overdue");
		await expect(line).toContainText(/Slipped|\+\d/);
	}
});

test("what cleared since the earlier moment can be had alone", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const gone = page.getByRole("button", { name: /cleared$/ });
	const words = (await gone.textContent()) ?? "";
	await gone.click();
	await expect(page).toHaveURL(/since=out/);
	await expect(page.locator(count).first()).toHaveText(/^(\d+)/.exec(words)?.[1] ?? "");
	await page.locator(".deal-line").first().getByRole("button").first().click();
	await expect(page.getByRole("complementary")).toContainText("Flags cleared");
});

test("columns are added, put in order and brought back to the usual ones", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.getByRole("button", { name: "Columns" }).click();
	await page.getByLabel("Territory", { exact: true }).check();
	await page.getByRole("button", { name: "Territory further left" }).click();
	await expect(page).toHaveURL(/cols=.*territory,flags/);
	await expect(page.getByRole("columnheader", { name: "Territory" })).toBeVisible();
	await page.getByLabel("Rep", { exact: true }).uncheck();
	await expect(page.getByRole("columnheader", { name: "Rep" })).toHaveCount(0);
	await page.getByRole("button", { name: "Reset columns" }).click();
	await expect(page.getByRole("columnheader", { name: "Territory" })).toHaveCount(0);
	await expect(page).not.toHaveURL(/cols=/);
});

test("a view of one’s own is changed, kept, made private, and removed with a way back", async ({ page }) => {
	await signIn(page, "piotr", "/deals?flags=lit");
	await page.getByRole("button", { name: "Views" }).click();
	await page.getByRole("button", { name: "Save view …" }).click();
	await page.getByLabel("Name").fill("Mine, lit");
	await page.getByRole("button", { name: "Save", exact: true }).click();
	await expect(page.getByRole("button", { name: "Mine, lit" })).toBeVisible();
	await page.getByRole("button", { name: "Group", exact: true }).click();
	await page.getByRole("button", { name: "By stage" }).click();
	await page.getByRole("button", { name: "Mine, lit, changed" }).click();
	await page.getByRole("button", { name: "Save changes to “Mine, lit”" }).click();
	await expect(page.getByText("“Mine, lit” saved.").last()).toBeVisible();
	await page.getByRole("button", { name: "Mine, lit" }).click();
	await page.getByRole("button", { name: "Order, share and delete …" }).click();
	const line = page.getByRole("dialog").getByRole("listitem").filter({ hasText: "Mine, lit" });
	await line.getByRole("button", { name: "Share" }).click();
	await expect(line).toContainText("shared with North");
	await line.getByRole("button", { name: "Make private" }).click();
	await expect(line).not.toContainText("shared with");
	await line.getByRole("button", { name: "Delete" }).click();
	await expect(line).toHaveCount(0);
});

test("many changes that can’t be made all at once say so before anything is written", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.getByRole("checkbox", { name: "Select all deals shown" }).check();
	await page.keyboard.press("e");
	const dialog = page.getByRole("dialog");
	await expect(dialog.getByText(/^Change \d\d deals$/)).toBeVisible();
	await dialog.getByLabel("What to change").selectOption("Amount");
	await expect(dialog.getByText("These deals have amounts in several currencies")).toBeVisible();
	await expect(dialog.getByRole("button", { name: "Preview changes" })).toBeDisabled();
	await dialog.getByLabel("What to change").selectOption("Close date");
	await dialog.getByLabel("Close date").fill("2026-12-31");
	await dialog.getByLabel("Why does it close later?").fill("End of the quarter");
	await dialog.getByRole("button", { name: "Preview changes" }).click();
	await expect(dialog.getByText(/^\d+ deals change, \d+ already have this value/)).toBeVisible();
	await dialog.getByRole("button", { name: "Cancel" }).click();
	await expect(page.getByText("were changed")).toHaveCount(0);
});

test("an export that fails says so and keeps everything", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.route("**/table**", (route) => route.abort());
	await page.getByRole("button", { name: "Export" }).click();
	await page.getByRole("button", { name: "CSV", exact: true }).click();
	await expect(page.getByText("Couldn’t create the file.")).toBeVisible();
});

test("an address with conditions that can’t be read shows the deals without them", async ({ page }) => {
	await signIn(page, "ruth", "/deals?f=amount.from.lots;nothing.in.x&sort=colour&group=moon&cols=name,spell");
	await expect(page.locator(".deal-line").first()).toBeVisible();
	await expect(page.locator(".filter-sentence")).toHaveCount(0);
});

test("accounts without a match and a grid without deals say how to go on", async ({ page }) => {
	await signIn(page, "ruth", "/accounts");
	await page.getByLabel("Find an account").fill("no such bakery");
	await expect(page.getByRole("heading", { name: "No accounts match" })).toBeVisible();
	await page.goto("/evidence?due=2031-Q1");
	await expect(page.getByRole("heading", { name: "No open deals here" })).toBeVisible();
	await page.goto("/accounts?by=competitor&order=recent");
	await expect(page.getByRole("button", { name: /Kelloran Thermal/ })).toBeVisible();
});

test("the grid opens a deal, and shows all questions or only those that are due", async ({ page }) => {
	await signIn(page, "ruth", "/evidence");
	await page.getByLabel("Most pressing first").uncheck();
	await expect(page).toHaveURL(/order=framework/);
	await page.getByLabel("Only questions that are due").uncheck();
	await expect(page).toHaveURL(/which=all/);
	await page.getByRole("link", { name: "Rack ovens, three sites" }).click();
	await expect(page).toHaveURL(/\/deals\/story-rack/);
});

test("a long list comes a part at a time, says so, and gives more on demand", async ({ page }) => {
	await signIn(page, "helena", "/evidence?due=any");
	const rows = page.locator(".evidence-grid tbody tr");
	await expect(rows).toHaveCount(200);
	const words = page.getByText(/Deals furthest below what their stage expects: the first 200 of \d+/);
	const all = Number(/of (\d+)/.exec((await words.textContent()) ?? "")?.[1]);
	await page.getByRole("button", { name: `Show ${all - 200} more` }).click();
	await expect(rows).toHaveCount(all);
	await expect(page).toHaveURL(/limit=400/);
	await expect(words).toHaveCount(0);
});

test("rules differ in a stage, and a number out of bounds is refused in words", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=flags");
	const rule = page.getByRole("group", { name: "gone quiet" });
	await rule.getByRole("button", { name: "different by stage" }).click();
	await rule.getByLabel("gone quiet in Terms").selectOption("off");
	await expect(page.getByRole("status").filter({ hasText: / now; \d+ at act/ })).toBeVisible();
	await expect(rule.getByRole("button", { name: "different in 1 stage" })).toBeVisible();
	await page.getByRole("button", { name: "Discard" }).click();
	await rule
		.getByLabel(/fires after this long without contact/)
		.first()
		.fill("0");
	await expect(page.getByRole("alert").filter({ hasText: "at least 1 working days" })).toBeVisible();
	await expect(page.getByRole("button", { name: "Save flag settings" })).toBeDisabled();
});

test("habits are kept and undone; a stage that deals stood in can’t be taken away", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=stages");
	await expect(page.getByRole("button", { name: "Remove Terms" })).toBeDisabled();
	await page.getByLabel("End of band 1 in days").fill("50");
	await page.getByRole("button", { name: "Save habits" }).click();
	await expect(page.getByText("Each band must end later than the one before.")).toBeVisible();
	await page.getByLabel("End of band 1 in days").fill("10");
	await page.getByRole("button", { name: "Save habits" }).click();
	await expect(page.getByText("Saved.")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(page.getByLabel("End of band 1 in days")).toHaveValue("14");
});

test("this moment is kept as a mark, and deleted", async ({ page }) => {
	await signIn(page, "ruth", "/changes");
	await page.getByRole("button", { name: /: Against which earlier day$/ }).click();
	await page.getByLabel("Save this moment as a mark").fill("Before the round");
	await page.getByRole("button", { name: "Save", exact: true }).click();
	await expect(page.getByText(/This moment is saved as “Before the round”/)).toBeVisible();
	const names = async () => (await (await page.request.get("/api/v1/marks?limit=5")).json()).items.map((mark: { name: string }) => mark.name);
	expect(await names()).toContain("Before the round");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect.poll(names).not.toContain("Before the round");
});

test("one comparison is seen as a bridge, deal by deal, through the weeks and by stage flow", async ({ page }) => {
	await signIn(page, "ruth", "/changes?against=2026-11-09");
	await page.getByRole("link", { name: "Deal by deal" }).click();
	const row = page.getByRole("row").filter({ hasText: "Tunnel oven feasibility" }).filter({ hasText: "Candlewick" });
	await expect(row).toContainText("worse: Close date 14 Dec 2026 → 25 Jan 2027");
	await page.getByRole("link", { name: "Stage flow" }).click();
	await expect(page).toHaveURL(/show=flow/);
	await page.getByTitle(/^Terms → won: /).click();
	await expect(page.getByRole("heading", { name: /^Terms → won: \d+ deals?/ })).toBeVisible();
	await expect(page.getByRole("link", { name: "Deck ovens, new shop" }).first()).toBeVisible();
	await page.getByRole("link", { name: "Trend" }).click();
	await expect(page.getByRole("heading", { name: /^Open pipeline (fell|grew) by .* in 13 weeks/ })).toBeVisible();
	await page.getByLabel("Bands").selectOption("by category");
	await expect(page.getByRole("columnheader", { name: "best case" })).toBeVisible();
	await page.getByRole("button", { name: "17 Nov" }).click();
	await expect(page).toHaveURL(/\/deals\?.*seen=2026-11-17/);
});

test("the grid of evidence is answered by keys where it stands, and undone", async ({ page }) => {
	await signIn(page, "ruth", "/evidence?which=all");
	const cell = (place: string) => page.locator(`[data-place="${place}"]`);
	await cell("0 0").focus();
	await page.keyboard.press("ArrowRight");
	await page.keyboard.press("ArrowDown");
	await expect(cell("1 1")).toBeFocused();
	const before = (await cell("1 1").textContent()) ?? "";
	const [key, word] = before.startsWith("heard") ? ["1", "assumed"] : ["2", "heard"];
	await page.keyboard.press(key);
	await expect(cell("1 1")).toContainText(word);
	await expect(page.getByRole("button", { name: "Undo" })).toBeVisible();
	await page.keyboard.press("3");
	await expect(page.getByText(/needs a source/)).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(cell("1 1")).toHaveText(before);
	await cell("1 1").focus();
	await page.keyboard.press("Enter");
	await page.waitForURL(/\/deals\//);
});
