import { readFile } from "node:fs/promises";
import { dealRow, expect, signIn, test } from "../kit/browser";

const foot = ".deals-foot b";

test("a push is made where the date stands, explained, seen in the trail and undone; totals follow", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const before = await page.locator(foot).first().textContent();
	const row = dealRow(page, "Cold proofing trial").first();
	await row.getByTitle("Change the close date").click();
	const box = page.getByRole("dialog");
	await box.getByLabel("Close date").fill("2027-01-29");
	await expect(box.getByRole("button", { name: "Save" })).toBeDisabled();
	await box.getByLabel("Why does it close later?").fill("Their board meets in January");
	await box.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(/close date .* → 29 Jan 2027/)).toBeVisible();
	await expect(page.locator(foot).first()).toHaveText(String(Number(before) - 1));
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("Undone.")).toBeVisible();
	await expect(page.locator(foot).first()).toHaveText(before ?? "");
});

test("on the sheet a push stands in the trail with its why and by whom", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-room");
	await page.getByTitle("Change the close date").click();
	const box = page.getByRole("dialog");
	await box.getByLabel("Close date").fill("2027-03-31");
	await box.getByLabel("Why does it close later?").fill("They rebuild in spring");
	await box.getByLabel("Why does it close later?").press("Enter");
	const point = page.getByRole("listitem").filter({ hasText: "They rebuild in spring" }).filter({ hasText: "pushed" });
	await expect(point).toContainText("31 Mar 2027");
	await expect(point).toContainText("by Ruth");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("Undone.")).toBeVisible();
	await expect(page.getByRole("listitem").filter({ hasText: "31 Mar 2027" }).filter({ hasText: "pushed" })).toHaveCount(0);
});

test("two edit one deal: the second is told who changed what, and chooses", async ({ page, browser, baseURL }) => {
	await signIn(page, "ruth", "/deals/story-deck");
	const other = await browser.newPage({ baseURL: baseURL as string });
	await signIn(other, "tobias", "/deals/story-deck");
	await other.getByTitle("Change the amount").click();
	await other.getByRole("textbox", { name: "Amount" }).fill("300000");
	await other.getByRole("button", { name: "Save" }).click();
	await expect(other.getByText(/amount €286.000 → €300.000/)).toBeVisible();
	await page.getByTitle("Change the amount").click();
	await page.getByRole("textbox", { name: "Amount" }).fill("310 000");
	await page.getByRole("button", { name: "Save" }).click();
	const alert = page.getByRole("dialog").getByRole("alert");
	await expect(alert).toContainText(/Tobias Renn changed Deck oven line refit since: amount €286.000 → €300.000/);
	await alert.getByRole("button", { name: "Use my value" }).click();
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(/amount €300.000 → €310.000/)).toBeVisible();
	await other.close();
});

test("a question is answered with one key, says beforehand what it does, keeps who said what, and becomes a task", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-mixers");
	const question = page.locator(".question").filter({ hasText: "Where does the money come from?" });
	const heard = question.getByRole("button", { name: /^heard/ });
	const promised = /strength (\d+)/.exec((await heard.getAttribute("title")) ?? "")?.[1];
	await question.focus();
	await page.keyboard.press("2");
	await expect(heard).toHaveAttribute("aria-pressed", "true");
	await expect(page.getByRole("img", { name: new RegExp(`^strength ${promised} of 100`) }).first()).toBeVisible();
	await question.getByRole("button", { name: /Where does the money/ }).click();
	await question.getByLabel("Note on the answer").fill("Leasing, their bank said yes");
	await question.getByRole("button", { name: /^shown/ }).click();
	await expect(question).toContainText("“Leasing, their bank said yes”");
	await expect(question).toContainText("shown by");
	await expect(question).toContainText("Ruth Calloway");
	await question.getByRole("button", { name: "Make task" }).click();
	await expect(page.getByLabel("Task text")).toHaveValue("Ask the buyer: Where does the money come from?");
});

test("an answer to the buyer is logged in one line and puts the flag out; a note calls on a colleague", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	await expect(page.getByText("they wrote or called on 18 Nov", { exact: false }).first()).toBeVisible();
	await page.getByLabel("Kind of activity").selectOption("email");
	await page.getByLabel("Subject").fill("Crew starts on site two in week 50");
	await page.getByLabel("Subject").press("Enter");
	await expect(page.getByText("Logged.")).toBeVisible();
	await expect(page.getByText("We are waiting for them.")).toBeVisible();
	await expect(page.locator(".why").getByText("Reply owed")).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.locator(".why").getByText("Reply owed")).toHaveCount(1);
	await page.keyboard.press("n");
	await page.keyboard.type("@Ines");
	await page.getByRole("button", { name: "@Ines Valdoro" }).click();
	await page.keyboard.type("which site first? <img src=x onerror=alert(1)>");
	await page.getByRole("button", { name: "Note", exact: true }).click();
	await expect(page.getByText("Noted; Ines Valdoro will see it on their desk.")).toBeVisible();
	await signIn(page, "ines", "/desk");
	await expect(page.getByText("which site first? <img src=x onerror=alert(1)>").first()).toBeVisible();
});

test("filters read as a sentence, stand in the address and narrow the list; groups add up", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	await page.getByRole("button", { name: "Filter", exact: true }).click();
	await page.getByRole("button", { name: "amount", exact: true }).click();
	await page.getByRole("spinbutton", { name: "amount" }).fill("100000");
	await page.getByRole("button", { name: "Apply" }).click();
	await expect(page.getByText("amount from €100k")).toBeVisible();
	await page.getByRole("button", { name: "Filter", exact: true }).click();
	await page.getByRole("button", { name: "stage", exact: true }).click();
	await page.getByLabel(/^Terms/).check();
	await page.getByLabel(/^Proposal/).check();
	await page.getByRole("button", { name: "Apply" }).click();
	await expect(page).toHaveURL(/f=amount\.from\.100000/);
	const count = Number(await page.locator(foot).first().textContent());
	expect(count).toBeGreaterThan(0);
	for (const row of await page.locator(".deal-line .c-stage").all()) await expect(row).toContainText(/Terms|Proposal/);
	await page.getByRole("button", { name: "Group", exact: true }).click();
	await page.getByRole("button", { name: "By rep" }).click();
	const groups = await page.locator(".deal-group").allTextContents();
	expect(groups.map((text) => Number(/(\d+) deals?/.exec(text)?.[1])).reduce((a, b) => a + b, 0)).toBe(count);
	await page.reload();
	await expect(page.locator(".deal-group").first()).toBeVisible();
	await page.getByRole("button", { name: /^Without: amount/ }).click();
	await expect(page).not.toHaveURL(/amount\.from/);
});

test("text in notes and activities filters, and what lit lately can be had alone", async ({ page }) => {
	await signIn(page, "ruth", "/deals?f=text.has.chimney&due=any");
	await expect(page.getByText("“chimney” in notes or activities")).toBeVisible();
	await expect(page.getByText("looking through notes")).toHaveCount(0);
	const found = Number(await page.locator(foot).first().textContent());
	await page.goto("/deals?due=any");
	expect(found).toBeGreaterThan(0);
	expect(found).toBeLessThan(Number(await page.locator(foot).first().textContent()));
	const newly = page.getByRole("button", { name: /newly lit$/ });
	const count = /^(\d+)/.exec((await newly.textContent()) ?? "")?.[1];
	await newly.click();
	await expect(page.locator(foot).first()).toHaveText(count ?? "");
});

test("columns are chosen and sorted by several; what is shown goes out as CSV and XLSX", async ({ page }) => {
	await signIn(page, "ruth", "/deals?cols=name,owner,amount,nextStep,lastTouch");
	await expect(page.getByRole("columnheader")).toHaveText([/^$/, "Deal", "Rep", /Amount/, "Next step", "Last contact"]);
	await page.getByRole("columnheader", { name: "Rep" }).getByRole("button").click();
	await page
		.getByRole("columnheader", { name: /Amount/ })
		.getByRole("button")
		.click({ modifiers: ["Shift"] });
	await expect(page).toHaveURL(/sort=owner,amount/);
	for (const form of ["CSV", "XLSX"]) {
		await page.getByRole("button", { name: "Export" }).click();
		const waiting = page.waitForEvent("download");
		await page.getByRole("button", { name: form, exact: true }).click();
		const file = await readFile(await (await waiting).path());
		if (form === "CSV") {
			const lines = file.toString().replace("\uFEFF", "").trim().split("\n");
			expect(lines[0]?.trim()).toBe("Deal number,Deal,Account,Rep,Amount EUR,Next step,Last contact,Seen on");
			expect(lines).toHaveLength(Number(await page.locator(foot).first().textContent()) + 1);
		} else expect(file.subarray(0, 2).toString()).toBe("PK");
	}
});

test("a view is kept, shared, opened by another person and opens first", async ({ page }) => {
	await signIn(page, "ruth", "/deals?flags=slipped&group=owner");
	await page.getByRole("button", { name: "Views" }).click();
	await page.getByRole("button", { name: "Save view …" }).click();
	await page.getByLabel("Name").fill("Slipping by rep");
	await page.getByLabel("Share it with my team and the teams below").check();
	await page.getByRole("button", { name: "Save", exact: true }).click();
	await expect(page.getByText("“Slipping by rep” saved and shared with your team.")).toBeVisible();
	await signIn(page, "maeve", "/deals");
	await page.getByRole("button", { name: "Views" }).click();
	await page.getByRole("button", { name: /Slipping by rep/ }).click();
	await expect(page).toHaveURL(/flags=slipped&group=owner/);
	await expect(page.locator(".deal-group")).toContainText(["Maeve Okonjo"]);
	await page.getByRole("button", { name: "Slipping by rep" }).click();
	await page.getByRole("button", { name: "Order, share and delete …" }).click();
	await page.getByRole("button", { name: "Open first" }).click();
	await expect(page.getByRole("button", { name: "Don’t open first" })).toBeVisible();
	await page.keyboard.press("Escape");
	await page.goto("/deals");
	await expect(page).toHaveURL(/flags=slipped/);
});

test("many deals are changed at once, after a look at what changes", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	for (const name of ["Spiral mixers", "New plant, phase one"]) await dealRow(page, name).first().getByRole("checkbox").check();
	await page.getByRole("button", { name: "Change", exact: true }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("What to change").selectOption("category");
	await dialog.getByLabel("Category").selectOption("left_out");
	await dialog.getByRole("button", { name: "Preview changes" }).click();
	await expect(dialog.getByText("2 deals change")).toBeVisible();
	await expect(dialog.getByRole("listitem").filter({ hasText: "Spiral mixers" })).toContainText("category commit → left out");
	await dialog.getByRole("button", { name: "Change 2" }).click();
	await expect(page.getByText("2 deals saved.")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("Undone.")).toBeVisible();
});

test("search finds deals, people, words and places by typing", async ({ page }) => {
	await signIn(page, "ruth", "/tasks");
	await page.keyboard.press("/");
	await page.keyboard.type("saltmarsh");
	await expect(page.getByRole("option", { name: /Rack ovens, three sites/ })).toBeVisible();
	await expect(page.getByRole("option", { name: /Saltmarsh Patisserie customer/ })).toBeVisible();
	await page.locator("input[role=combobox]").fill("crew start");
	await expect(page.getByRole("option", { name: /When would your crew start/ })).toBeVisible();
	await page.keyboard.press("Enter");
	await expect(page).toHaveURL(/\/deals\/story-rack/);
	await page.keyboard.press("/");
	await page.keyboard.type("evid");
	await page.getByRole("option", { name: "Evidence" }).click();
	await expect(page.getByRole("heading", { name: /^Rarely asked: “What happens if they do nothing\?”/ })).toBeVisible();
});

test("accounts lie in bands, and a lost deal gets a day to come back", async ({ page }) => {
	await signIn(page, "ruth", "/accounts");
	const band = page.getByRole("button", { name: /15 to 42 days/ });
	const count = Number(/^(\d+)/.exec((await band.textContent()) ?? "")?.[1]);
	await band.click();
	await expect(page.locator(".accounts-table tbody tr")).toHaveCount(count);
	const lost = page
		.getByRole("region", { name: "Lost deals" })
		.getByRole("listitem")
		.filter({ has: page.getByRole("button", { name: "Follow up …" }) });
	const name = (await lost.first().getByRole("link").textContent()) ?? "";
	await lost.first().getByRole("button", { name: "Follow up …" }).click();
	await page.getByRole("button", { name: "Give", exact: true }).click();
	await expect(page.getByText(/is due for follow-up on/)).toBeVisible();
	await page.goto("/tasks");
	await expect(page.getByRole("row").filter({ hasText: "Follow up with" }).filter({ hasText: name }).first()).toBeVisible();
});

test("a setting of a flag says what it would do, is changed and undone, and stands in the audit", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=flags");
	const rule = page.getByRole("group", { name: "reply owed" });
	const before = await rule.getByText(/lit$/).textContent();
	await rule.getByLabel(/fires after this long without an answer/).fill("50");
	await expect(page.getByRole("status").filter({ hasText: / now; \d+ at act/ })).toContainText(/reply owed: \d+ now, 0 then; these \d+ clear/);
	await page.getByRole("button", { name: "Save flag settings" }).click();
	await expect(rule.getByText("0 lit")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(rule.getByText(before ?? "")).toBeVisible();
	await page.getByRole("navigation", { name: "Setup" }).getByRole("link", { name: "Audit" }).click();
	await expect(page.getByRole("row").filter({ hasText: "flag settings changed" }).first()).toContainText("Arno Vinter");
});

test("questions get a new edition, and a stage another name, without a change to the past", async ({ page }, { retry }) => {
	await signIn(page, "arno", "/setup?place=questions");
	const past = "/api/v1/deals/story-rack?as_of=2026-11-20";
	const figures = async () => (await (await page.request.get(past)).json()).qualification;
	const before = await figures();
	await page
		.getByLabel("Weight")
		.first()
		.fill(String(20 + retry));
	await page.getByRole("button", { name: "Save as the edition from today on" }).click();
	await expect(page.getByText("it is the 2nd")).toBeVisible();
	expect(await figures()).toEqual(before);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("it is the 3rd")).toBeVisible();
	await page.getByLabel("Weight").first().fill("0");
	await page.getByRole("button", { name: "Save as the edition from today on" }).click();
	await expect(page.getByText("The weight must be above zero")).toBeVisible();
	await page.getByRole("navigation", { name: "Setup" }).getByRole("link", { name: "Stages and habits" }).click();
	await page.getByLabel("Name of the stage").nth(4).fill("Paper");
	await page.getByRole("button", { name: "Save stages" }).click();
	await expect(page.getByText("Stages saved.")).toBeVisible();
	// A stage's name is in every version: all is read anew, on a busy machine for long.
	await expect(page.getByRole("button", { name: "Save stages" })).toHaveCount(0, { timeout: 90_000 });
	expect((await (await page.request.get(past)).json()).stage).toBe("Paper");
	await page.getByLabel("Name of the stage").nth(4).fill("Terms");
	await page.getByRole("button", { name: "Save stages" }).click();
	await expect(page.getByRole("button", { name: "Save stages" })).toHaveCount(0, { timeout: 90_000 });
	expect((await (await page.request.get(past)).json()).stage).toBe("Terms");
});

test("the API changes a deal that it names by version, and says who was faster", async ({ page, baseURL }) => {
	await signIn(page, "ruth", "/tasks");
	const headers = { origin: baseURL as string };
	const path = "/api/v1/deals/story-service";
	const deal = await (await page.request.get(path)).json();
	expect((await page.request.patch(path, { headers, data: { amount: 1 } })).status()).toBe(428);
	const data = { nextStep: "Count again", nextStepDate: "2026-12-02" };
	const done = await page.request.patch(path, { headers: { ...headers, "if-match": `"${deal.versionId}"` }, data });
	expect(done.status()).toBe(200);
	expect(await done.json()).toMatchObject(data);
	const late = await page.request.patch(path, { headers: { ...headers, "if-match": String(deal.versionId) }, data: { amount: 1 } });
	expect(late.status()).toBe(412);
	expect(await late.json()).toMatchObject({ title: "Changed by someone else", changedBy: "Ruth Calloway" });
});
