import { expect, signIn, test } from "../kit/browser";

const heading = "h2";

test("the outlook says where the period ends, opens what a chance rests on, and keeps its track record beside it", async ({ page }) => {
	await signIn(page, "ruth", "/patterns");
	await expect(page.getByRole("heading", { level: 2 }).first()).toContainText(/North team ends Oct–Dec 2026 between €.* and €/);
	await expect(page.getByText(/The chance of the target of €4.06m is \d+%/)).toBeVisible();
	const first = page.getByRole("region", { name: "Deals that decide, scrollable" }).getByRole("row").nth(1);
	await first.getByText(/alike in/).click();
	await expect(first.getByText(/^any deal/)).toBeVisible();
	// The comparables are counted by hand.
	const button = first.getByRole("button", { name: /open the comparable deals/ });
	const [, won = "", of = ""] = /(\d+) of (\d+)/.exec((await button.textContent()) ?? "") ?? [];
	await button.click();
	const dialog = page.getByRole("dialog");
	await expect(dialog.getByText(new RegExp(`^${won} of ${of} were won in time`))).toBeVisible();
	const named = await dialog.getByRole("listitem").count();
	const [, hidden = "0"] = /; (\d+) deals? of others/.exec((await dialog.textContent()) ?? "") ?? [];
	expect(named + Number(hidden)).toBe(Number(of));
	await page.keyboard.press("Escape");
	const [, inside = ""] = /inside the band (\d+) times/.exec((await page.getByText(/inside the band/).textContent()) ?? "") ?? [];
	const record = page.getByRole("region", { name: "Track record, scrollable" });
	await expect(record.getByRole("cell", { name: "yes" })).toHaveCount(Number(inside));
	await page.getByRole("button", { name: /^Show \d+ with their chances/ }).click();
	const moved = page.getByRole("region", { name: "How it moved, scrollable" });
	await moved
		.getByText(/^\d+ deals?$/)
		.first()
		.click();
	await expect(moved.getByRole("listitem").first()).toContainText("€");
	await page.goto("/patterns?due=2026-07-01..2026-08-15");
	await expect(page.getByText("An outlook is given for a quarter or a month.")).toBeVisible();
});

test("Period says where it ends and what decides it, each chance one press from its comparables", async ({ page }) => {
	await signIn(page, "ruth", "/period");
	await expect(page.getByText(/Most likely about €.* \(the median\); between €.* and €.* in eight of ten cases/)).toBeVisible();
	await expect(page.getByText(/The chance of the target is \d+%\. At this point of the last 8 quarters/)).toBeVisible();
	await expect(page.getByRole("img", { name: /^ends between €.* in eight of ten cases/ })).toBeVisible();
	const decide = page.getByRole("region", { name: "Deals that decide" });
	await decide
		.getByRole("button", { name: /open the comparable deals/ })
		.first()
		.click();
	await expect(page.getByRole("dialog").getByText(/were won in time/)).toBeVisible();
	await page.keyboard.press("Escape");
	await page.getByRole("link", { name: "See the outlook" }).click();
	await expect(page.getByRole("heading", { level: 2, name: /the expected total moved from/ })).toBeVisible();
	await page.goto("/period?due=2026-Q3");
	await expect(page.getByText(/Most likely about/)).toHaveCount(0);
});

test("the demo’s habits are found by the screens, by name", async ({ page }) => {
	await signIn(page, "helena", "/patterns?show=commits");
	await expect(page.locator(heading).first()).toHaveText(/^Of Tobias Renn’s commits \d+ of \d+ came true in time, of others’ \d+%$/);
	await expect(page.getByText(/Maeve Okonjo made \d+ of the \d+ pushes in months’ last three working days/)).toBeVisible();
	await page.getByRole("link", { name: "Time in stage" }).click();
	await page.getByLabel("Grouped").selectOption("family");
	await expect(page.locator(heading).first()).toHaveText(/^Tunnel ovens: half of the visits to Trial bake take \d+ working days or more/);
	await page.getByRole("link", { name: "Price", exact: true }).click();
	await expect(page.locator(heading).first()).toHaveText(/^Luca Ferrandi gives a discount of 1\d% in the last two weeks before a win/);
	await page.getByRole("link", { name: "Reasons", exact: true }).click();
	await expect(page.getByText(/losses to Kelloran Thermal, \d+ were in the South team/)).toBeVisible();
	await page
		.getByRole("region", { name: "Views of Patterns" })
		.or(page.getByRole("navigation", { name: "Views of Patterns" }))
		.getByRole("link", { name: "Tasks", exact: true })
		.click();
	await expect(page.locator(heading).first()).toContainText("“reply owed”");
	await page.getByRole("link", { name: "Sources", exact: true }).click();
	await expect(page.getByRole("region", { name: "By source, scrollable" }).getByRole("row", { name: /Existing customer/ })).toBeVisible();
});

test("a figure opens its deals, by an address that can be sent; the sentence says how one looks back", async ({ page }) => {
	await signIn(page, "helena", "/patterns?show=foretell&whose=all");
	await expect(page.getByRole("heading", { level: 1 })).toHaveText(
		/^Everyone’s deals due in the last 4 quarters, looked at 20 working days before each end, seen today$/,
	);
	const row = page.getByRole("row", { name: /no signatory/ });
	const share = row.getByRole("button").first();
	const [, k = "", n = ""] = /(\d+) of (\d+)/.exec((await share.textContent()) ?? "") ?? [];
	await share.press("Enter");
	const panel = page.getByRole("complementary", { name: "no signatory: deals with it" });
	await expect(panel.getByText(`${k} of ${n} weren’t won in time.`)).toBeVisible();
	await expect(panel.getByRole("listitem")).toHaveCount(Number(n));
	await expect(panel.locator(".behind-hit")).toHaveCount(Number(k));
	await expect(page).toHaveURL(/open=flag/);
	await page.reload();
	await expect(panel).toBeVisible();
	await page.keyboard.press("Escape");
	await expect(panel).toHaveCount(0);
	await page.getByRole("button", { name: /: How many quarters$/ }).click();
	await page.getByRole("button", { name: "the last 8 quarters" }).click();
	await expect(page).toHaveURL(/quarters=8/);
	await expect(share).not.toHaveText(`${k} of ${n}`);
	const download = page.waitForEvent("download");
	const flags = page.getByRole("region", { name: "Flags", exact: true });
	await flags.getByRole("button", { name: "Export: Flags" }).click();
	await flags.locator(".dropdown-item", { hasText: "CSV" }).click();
	expect((await download).suggestedFilename()).toBe("patterns 2026-11-24.csv");
});

test("ops switch off the weight of what foretells nothing, see what that does, take it from today on, and take it back", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=flags");
	await expect(
		page
			.getByRole("group", { name: "short runway" })
			.getByText(/In the last four quarters, of \d+ deals with it, \d+ weren’t won in time; without it \d+ of \d+/),
	).toBeVisible();
	await page.getByText("Weights from the past").click();
	await page
		.getByRole("group", { name: /Flags without weight/ })
		.getByLabel("stale answers")
		.check();
	await page.getByRole("button", { name: "Preview the effect" }).click();
	const effect = page.getByRole("status").filter({ hasText: "ranked above one that was" });
	await expect(effect).toContainText(/They would have sorted past quarters better|No clear gain over past quarters/);
	await expect(effect).toContainText(/\d+ at act, \d+ at watch, \d+ calm now; \d+ at act, \d+ at watch, \d+ calm then/);
	await page.getByRole("button", { name: "Use these weights from today on" }).click();
	await expect(page.getByText("These weights apply from today on")).toBeVisible();
	await expect(page.getByText(/Weights were set from the past on 24 Nov/)).toBeVisible();
	await page.getByRole("button", { name: "Restore the weights from before 24 Nov" }).click();
	await expect(page.getByText("The previous weights apply again.")).toBeVisible();
	await expect(page.getByRole("group", { name: /Flags without weight/ }).getByLabel("stale answers")).not.toBeChecked();
});

test("a sheet says what became of past deals with each flag, and a lost deal is given its day to come back", async ({ page }) => {
	await signIn(page, "ruth", "/deals?due=any");
	await page.goto("/deals/story-rack");
	await expect(page.getByText(/In the last four quarters, of \d+ deals with it/).first()).toBeVisible();
	await page.goto("/patterns?show=reasons");
	const back = page.getByRole("region", { name: "Lost for a reason that ends, scrollable" });
	const give = back.getByRole("button", { name: "Give task" });
	// The server draws the first twelve rows; all are there once the browser has taken over.
	await expect.poll(() => back.getByRole("row").count()).toBeGreaterThan(13);
	const before = await give.count();
	await give.first().click();
	await expect(page.getByText(/is due for follow-up on/)).toBeVisible();
	await expect(give).toHaveCount(before - 1);
	await expect(back.getByText(/^follow-up on /).first()).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(give).toHaveCount(before);
});
