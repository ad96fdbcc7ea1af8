import { dealRow, expect, signIn, test } from "../kit/browser";

// What is kept about a deal beside its figures, and what those see who may not change it.

test("the close plan takes steps, marks them done and gives back what was removed", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-tunnel");
	await page.getByLabel("Step", { exact: true }).fill("Landlord agrees to the chimney");
	await page.getByLabel("Day of the step").fill("2026-11-20");
	await page.getByRole("form", { name: "Add a step" }).getByRole("button", { name: "Add" }).click();
	const step = page.getByRole("listitem").filter({ hasText: "Landlord agrees to the chimney" });
	await expect(step).toContainText("20 Nov late");
	await step.getByRole("checkbox").click();
	await expect(step).toContainText("done 24 Nov");
	await step.getByRole("button", { name: /^Remove the step/ }).click();
	await expect(step).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(step).toHaveCount(1);
});

test("people get their part, are added and taken off; who signs is no longer missing", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-mixers");
	await expect(page.getByText("Missing: signatory")).toBeVisible();
	await expect(page.locator(".why").getByText("No signatory")).toBeVisible();
	await page.getByLabel("Who", { exact: true }).selectOption("a new person");
	await page.getByLabel("Name of the person").fill("Zora Quill");
	await page.getByLabel("Buying role").selectOption("signs");
	await page.getByRole("form", { name: "Add person" }).getByRole("button", { name: "Add" }).click();
	await expect(page.getByRole("listitem").filter({ hasText: "Zora Quill" })).toContainText("never spoken to");
	await expect(page.getByText("Missing: signatory")).toHaveCount(0);
	await expect(page.locator(".why").getByText("No signatory")).toHaveCount(0);
	await page.getByLabel("Role of Zora Quill").selectOption("is against it");
	await expect(page.getByText("Missing: signatory")).toBeVisible();
	await page.getByRole("button", { name: "Remove Zora Quill from the deal" }).click();
	await expect(page.getByRole("listitem").filter({ hasText: "Zora Quill" })).toHaveCount(0);
});

test("an answer to a quote puts its flag out, and a new quote holds until its day", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-mixers");
	await expect(page.locator(".why").getByText("Quote lapsed")).toBeVisible();
	await page.getByRole("button", { name: "Record answer …" }).click();
	await page.getByLabel("Their answer").fill("Too dear by a tenth");
	await page.getByLabel("Their answer").press("Enter");
	await expect(page.locator(".why").getByText("Quote lapsed")).toHaveCount(0);
	await page.getByLabel("Number of the quote").fill("Q-9001");
	await page.getByLabel("Valid until").fill("2026-12-18");
	await page.getByRole("form", { name: "Add a quote sent today" }).getByRole("button", { name: "Add" }).click();
	await expect(page.getByRole("listitem").filter({ hasText: "Quote Q-9001" }).filter({ hasText: "valid to" })).toContainText("18 Dec");
});

test("what is planned stands apart and is done with one press", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-tunnel");
	await page.getByLabel("Subject").fill("Meet their board");
	await page.getByLabel("Day (a future day plans it)").fill("2026-12-03");
	await page.getByRole("button", { name: "Plan" }).click();
	await expect(page.getByText("Planned.", { exact: true })).toBeVisible();
	const planned = page.locator(".happenings .planned").filter({ hasText: "Meet their board" });
	await planned.getByRole("button", { name: "Mark done" }).click();
	await expect(planned).toHaveCount(0);
	await expect(page.getByText("24 Nov, today.")).toBeVisible();
});

test("a deal is won with its day: it leaves the open ones, and comes back with an undo", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const row = dealRow(page, "Thistle & Rye").first();
	await row.getByTitle("Change the stage").click();
	const box = page.getByRole("dialog");
	await box.getByLabel("Stage").selectOption("Won");
	await box.getByLabel("Won on").fill("2026-11-23");
	await box.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(/stage Terms → Won/)).toBeVisible();
	await expect(row).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(row).toBeVisible();
});

test("a loss asks why and to whom, from what is known", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-room");
	await page.getByTitle("Change the stage").click();
	const box = page.getByRole("dialog");
	await box.getByLabel("Stage").selectOption("Lost");
	await expect(box.getByRole("button", { name: "Save" })).toBeDisabled();
	await expect(box.getByLabel("Why was it lost?").getByRole("option")).toContainText(["Price", "No decision"]);
	await box.getByLabel("Why was it lost?").selectOption("No decision");
	await box.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText("This deal is lost.")).toBeVisible();
	await expect(page.getByText("reason: No decision")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("This deal is lost.")).toHaveCount(0);
});

test("what isn’t an amount is said to be none, and nothing is lost", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-plant");
	await page.getByTitle("Change the amount").click();
	await page.getByRole("textbox", { name: "Amount" }).fill("about 5 lakh");
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByRole("dialog").getByRole("alert")).toContainText("isn’t an amount in EUR");
	await expect(page.getByRole("textbox", { name: "Amount" })).toHaveValue("about 5 lakh");
	await page.keyboard.press("Escape");
	await expect(page.getByRole("dialog")).toHaveCount(0);
	await expect(page.getByTitle("Change the amount")).toContainText("€538");
});

test("a rep edits their own deals but gives none away; a viewer and the past change nothing", async ({ page }) => {
	await signIn(page, "ines", "/deals/story-rack");
	await page.getByTitle("Change the stage").click();
	await expect(page.getByRole("dialog").getByLabel("What to change").getByRole("option")).toHaveText([
		"Close date",
		"Amount",
		"Stage",
		"Category",
		"Next step",
	]);
	await page.goto("/deals/story-rack?seen=2026-11-20");
	await expect(page.getByTitle("Change the stage")).toHaveCount(0);
	await expect(page.getByRole("form")).toHaveCount(0);
	await page.goto("/deals?seen=2026-11-20");
	await expect(page.getByTitle("Change the amount")).toHaveCount(0);
	await signIn(page, "mirela", "/deals/story-rack");
	await expect(page.getByRole("heading", { name: "Rack ovens, three sites" })).toBeVisible();
	await expect(page.getByTitle("Change the stage")).toHaveCount(0);
	await expect(page.getByRole("group", { name: /^Answer:/ })).toHaveCount(0);
	await page.goto("/setup?place=flags");
	await expect(page.getByRole("group", { name: "stalled" }).getByRole("spinbutton").first()).toBeDisabled();
});

test("the side sheet opens to the whole of a deal", async ({ page }) => {
	await signIn(page, "ruth", "/deals?deal=story-rack");
	const sheet = page.getByRole("complementary", { name: "Sheet of the deal" });
	for (const name of [
		"Questions and answers",
		/^Timeline/,
		"Close date and stages",
		/^People/,
		"Close plan",
		"Products and quotes",
		"Account: Saltmarsh Patisserie",
	]) {
		await sheet.locator("summary").filter({ hasText: name }).click();
	}
	await expect(sheet.getByText("Deck oven D4")).toBeVisible();
	await expect(sheet.getByText("pushed 16 calendar days")).toBeVisible();
	const question = sheet.locator(".question").filter({ hasText: "What happens if they do nothing?" });
	await question.getByRole("button", { name: /^assumed/ }).click();
	await expect(page.getByText("What happens if they do nothing? assumed.")).toBeVisible();
	await expect(question.getByRole("button", { name: /^assumed/ })).toHaveAttribute("aria-pressed", "true");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(question.getByRole("button", { name: /^unknown/ })).toHaveAttribute("aria-pressed", "true");
});
