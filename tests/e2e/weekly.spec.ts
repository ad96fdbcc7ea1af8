import { mkdtempSync, truncateSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { expect, signIn, test } from "../kit/browser";

const HEADER = "Ref,Opportunity,Company,Phase,Value,Closing date,Responsible";
const OVENS = "W1,Deck ovens for Lode Street,Lode Street Bakery,Site survey,42500,2026-12-18,Ines Valdoro";
const MIXERS = "W2,Mixers for the quay,Quay Bakery,Enquiry,9900.50,2026-11-28,Tobias Renn";
const PROOFER = "W3,Proofer for rolls,New Rolls,In negotiation,80000,2026-12-22,Una Fern";

const send = async (page: Page, name: string, ...lines: string[]) =>
	page.getByLabel("File", { exact: true }).setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from([HEADER, ...lines].join("\n")) });
const takeIn = (page: Page) => page.getByRole("button", { name: "Import", exact: true });
const effect = (page: Page) => page.getByRole("region", { name: "What would change" });

test("a team without history makes it from one CSV a week", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=weekly");

	// The first week: the day is in the name, the columns are guessed, one stage has to be said.
	await send(page, "pipeline 2026-11-09.csv", OVENS, MIXERS, PROOFER);
	await expect(page.getByLabel("Exported on")).toHaveValue("9 Nov 2026");
	await expect(page.getByLabel("Amount", { exact: true })).toHaveValue("Value");
	await expect(takeIn(page)).toBeDisabled();
	await page.getByLabel("“In negotiation” is").selectOption("Terms");
	await expect(effect(page)).toContainText("3 new, 0 changed, 0 the same, 0 missing");
	await expect(effect(page)).toContainText("1 new rep: Una Fern");

	// A column for two fields is told at the place, and nothing can be taken in.
	await page.getByLabel("Created", { exact: true }).selectOption("Closing date");
	await expect(page.getByText("this column is used for Close date and for Created")).toBeVisible();
	await expect(takeIn(page)).toBeDisabled();
	await page.getByLabel("Created", { exact: true }).selectOption("");
	await takeIn(page).click();
	await expect(page.getByText("Imported for 9 Nov 2026: 3 new, 0 changed, 0 missing.")).toBeVisible();

	// The second week, without a day in its name; what was said is remembered.
	await send(page, "pipeline.csv", OVENS.replace("2026-12-18", "2027-02-01"), PROOFER.replace("80000", "95000"));
	await expect(page.getByText("The file name has no date; choose the day.")).toBeVisible();
	await page.getByLabel("Exported on").fill("2026-11-16");
	await expect(effect(page)).toContainText("0 new, 2 changed, 0 the same, 1 missing");
	await takeIn(page).click();
	const missing = page.getByRole("region", { name: "Missing deals" });
	await expect(page.getByRole("link", { name: "See what changed since 9 Nov 2026" })).toHaveAttribute(
		"href",
		"/changes?due=any&seen=2026-11-16&against=2026-11-09",
	);
	await expect(missing.getByRole("heading", { name: "1 deal is missing: what happened to them?" })).toBeVisible();

	// From the second file on the past can be seen.
	await page.goto("/changes?seen=2026-11-16&against=2026-11-09&whose=person:una-fern");
	await expect(page.getByRole("button", { name: /Grew 1 deal/ })).toContainText("+15");
	await page.goto("/deals/W1?seen=2026-11-20");
	await expect(page.getByRole("heading", { name: "Deck ovens for Lode Street" })).toBeVisible();

	// The missing deal is decided, by somebody; and taken back.
	await page.goto("/setup?place=weekly");
	await missing.getByRole("button", { name: "Lost", exact: true }).click();
	await expect(missing.getByRole("row", { name: /Mixers for the quay .* lost Decide again/ })).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(missing.getByRole("heading", { name: /1 deal is missing/ })).toBeVisible();
	await missing.getByRole("button", { name: "Removed" }).click();
	await expect(missing.getByRole("heading", { name: "No deals wait for a decision" })).toBeVisible();

	// Off the books it is seen only as it was before; what was done is on record.
	await missing.getByRole("link", { name: "Mixers for the quay" }).click();
	await expect(page).toHaveURL(/\/deals\/W2\?seen=2026-11-15/);
	await expect(page.getByRole("heading", { name: "Mixers for the quay" })).toBeVisible();
	await page.goto("/deals/W2");
	await expect(page.getByRole("heading", { name: "Not found", level: 2 })).toBeVisible();
	await page.goto("/setup?place=audit");
	await expect(page.getByRole("row", { name: /missing deals decided .* removed/ }).first()).toBeVisible();
	await expect(page.getByRole("row", { name: /weekly file imported/ })).toHaveCount(2);
});

test("a file with nothing of the one before is asked about, and a wrong one says where", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=weekly");
	await send(page, "pipeline 2026-11-23.csv", "X9,Another pipeline,Elsewhere,Enquiry,5,2026-12-01,Ines Valdoro");
	await expect(page.getByText(/None of the 2 open deals in pipeline.csv \(2026-11-16\) is in this file/)).toBeVisible();
	await expect(takeIn(page)).toBeDisabled();
	await page.getByLabel("Yes, this is the whole pipeline").check();
	// Far less than the week before is asked about too.
	await expect(takeIn(page)).toBeDisabled();
	await page.getByLabel("Yes, the total is right").check();
	await expect(takeIn(page)).toBeEnabled();
	await page.getByRole("button", { name: "Cancel" }).click();
	await expect(takeIn(page)).toHaveCount(0);

	await send(page, "pipeline 2026-11-23.csv", OVENS.replace("42500", "much"), OVENS);
	const wrong = page.getByRole("region", { name: "What is wrong" });
	await expect(wrong.getByRole("row", { name: /this isn’t an amount; an amount is written like .* Value 1 2 much/ })).toBeVisible();
	await expect(takeIn(page)).toBeDisabled();
});

test("a file of half a gigabyte is refused at once, with what to do", async ({ page }) => {
	const large = join(mkdtempSync(join(tmpdir(), "porch-lamp-")), "pipeline 2026-11-23.csv");
	writeFileSync(large, HEADER);
	truncateSync(large, 512 * 2 ** 20);
	await signIn(page, "arno", "/setup?place=weekly");
	await page.getByLabel("File", { exact: true }).setInputFiles(large);
	await expect(page.getByRole("alert").filter({ hasText: "This file has 512 MB; at most 64 MB are allowed" })).toBeVisible();
	// Sent past the page, the server refuses it by what it says of its length.
	const answer = await page.evaluate(async () => {
		const reply = await fetch("/setup/weekly", { method: "POST", body: new Blob([new Uint8Array(65 * 2 ** 20)]) });
		return `${reply.status} ${(await reply.json()).detail}`;
	});
	expect(answer).toMatch(/^413 The file is larger than 64 MB\. A weekly file has one row per deal/);
});

test("what can be read in two ways keeps the button off until it is answered; good rows go in alone", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=weekly");
	const lines = [
		"W7,Ovens for the pier,Lode Street Bakery,Enquiry,42500,01/12/2027,Ines Valdoro",
		"W8,Rolls,Lode Street Bakery,Enquiry,much,05/01/2027,Ines Valdoro",
	];
	await send(page, "pier 2026-11-20.csv", ...lines);
	await page.getByLabel("Covers").fill("the pier");
	await page.getByLabel("Covers").blur();
	const dates = page.getByRole("group", { name: "Choose the date order" });
	await expect(dates).toContainText("01/12/2027 is 1 Dec 2027");
	await expect(dates).toContainText("01/12/2027 is 12 Jan 2027");
	await expect(takeIn(page)).toBeDisabled();
	// The question goes away with its answer.
	await dates.getByRole("radio", { name: /^day, month, year/ }).click();
	await expect(dates).toHaveCount(0);
	await expect(page.getByRole("region", { name: "What is wrong" })).toContainText("1 row can’t be read");
	const download = page.waitForEvent("download");
	await page.getByRole("button", { name: "Export bad rows: CSV" }).click();
	expect((await download).suggestedFilename()).toBe("pier 2026-11-20 rows to correct.csv");
	await page.getByRole("button", { name: "Continue with 1 good row" }).click();
	await expect(effect(page)).toContainText("1 new, 0 changed");
	await page.getByRole("button", { name: "Import 1 row" }).click();
	await expect(page.getByText("Imported for 20 Nov 2026: 1 new, 0 changed, 0 missing.")).toBeVisible();
});
