import { readFileSync } from "node:fs";
import { unzip } from "@/formats/bundle/unpack";
import { expect, signIn, test } from "../kit/browser";
import { bundleOf } from "../kit/bundle";
import { zipFiles } from "../kit/zip";

/** A bundle beside the demo company: a person of South, an account whose name is HTML. */
const BESIDE: Record<string, string[]> = {
	"people.csv": ["id,name,email,role,team,parent_team,active_from,active_to", "zed,Zed Quill,zed@emberwick.example,rep,South,Emberwick,,"],
	"accounts.csv": ["id,name,kind,industry,territory,owner_id", "zz1,<img src=x onerror=alert(1)> שלום 🥐,prospect,Hotel,,zed"],
	"settings.json": ["{}"],
	"stages.csv": ["position,name,kind,probability,usual_days", "1,Enquiry,open,0.1,10"],
	"deals.csv": ["id,account_id,name,source,created_at,competitor,outcome_reason,tags", "zd1,zz1,<script>alert(2)</script>,Web,2026-11-02T09:00:00Z,,,"],
	"deal_versions.csv": [
		"deal_id,at,stage,amount,currency,close_date,owner_id,category,next_step,next_step_date",
		"zd1,2026-11-02T09:00:00Z,Enquiry,1000,EUR,2026-12-01,zed,pipeline,,",
	],
};
const zipOf = (changes: Record<string, string[]> = {}) => Buffer.from(zipFiles(bundleOf({ ...BESIDE, ...changes })));
const asFile = (buffer: Buffer, name = "bundle.zip") => ({ name, mimeType: "application/zip", buffer });

test.describe("importing", () => {
	test.beforeEach(async ({ page }) => signIn(page, "arno", "/setup?place=import"));

	test("a broken zip, and a row with a problem, are reported and nothing is written", async ({ page }) => {
		await page.getByLabel("Zip file").setInputFiles(asFile(Buffer.from("not a zip")));
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByText("this isn’t a zip, or it is damaged")).toBeVisible();
		const bad = (BESIDE["deal_versions.csv"] ?? []).map((line) => line.replace(",1000,", ",ten,"));
		await page.getByLabel("Zip file").setInputFiles(asFile(zipOf({ "deal_versions.csv": bad }), "bad.zip"));
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByRole("row").filter({ hasText: "an amount is written in digits" })).toContainText("deal_versions.csvamount12ten");
		await expect(page.getByText("Nothing was imported.")).toBeVisible();
	});

	test("checking writes nothing; importing does, once; HTML in it stays text", async ({ page }) => {
		page.on("dialog", () => {
			throw new Error("a script in imported text was run");
		});
		await page.getByLabel("Zip file").setInputFiles(asFile(zipOf()));
		await page.getByRole("button", { name: "Check only" }).click();
		await expect(page.getByText("Ready to import; nothing was changed yet.")).toBeVisible();
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByText("Imported completely.")).toBeVisible();
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByText("Everything was already here; nothing changed.")).toBeVisible();
		await page.goto("/deals?whose=person:zed&deal=zd1");
		await expect(page.getByRole("complementary")).toContainText("<script>alert(2)</script>");
		await expect(page.getByRole("complementary")).toContainText("<img src=x onerror=alert(1)> שלום 🥐");
	});

	test("an import is taken out again, after a look at what that undoes", async ({ page }) => {
		// The newest changed nothing; the one before it did, and those before were refused or checked only.
		await page.getByRole("button", { name: "bundle.zip", exact: true }).nth(1).click();
		await page.getByRole("button", { name: "Undo import …" }).click();
		await expect(page.getByRole("region", { name: "What undoing the import changes" })).toContainText("deals: 1 removed");
		await page.getByRole("button", { name: "Undo import", exact: true }).click();
		await expect(page.getByText("Import of bundle.zip undone.")).toBeVisible();
		await page.goto("/deals/zd1");
		await expect(page.getByRole("heading", { name: "Not found", level: 2 })).toBeVisible();
		await page.goto("/setup?place=audit");
		await expect(page.getByRole("row", { name: /import undone/ })).toBeVisible();
	});

	test("the export is a bundle with everything in it", async ({ page }) => {
		const download = page.waitForEvent("download");
		await page.getByRole("link", { name: "Export bundle" }).click();
		const files = await unzip(readFileSync(await (await download).path()));
		const versions = new TextDecoder().decode(files.get("deal_versions.csv"));
		expect(files.size).toBeGreaterThan(15);
		expect(versions.split("\n").length).toBeGreaterThan(5000);
	});
});

test("a key is shown once, calls the API as its person, and stops when revoked", async ({ page, request }) => {
	await signIn(page, "ines", "/setup?place=keys");
	await page.getByLabel("Purpose").fill("evening sheet");
	await page.getByRole("button", { name: "Create key" }).click();
	const token = (await page.locator(".key-token").textContent()) ?? "";
	const call = () => request.get("/api/v1/deals?status=open", { headers: { authorization: `Bearer ${token}` } });
	const answer = await (await call()).json();
	expect(new Set(answer.items.map((deal: { ownerId: string }) => deal.ownerId))).toEqual(new Set(["ines"]));
	await page.reload();
	await expect(page.locator(".key-token")).toHaveCount(0);
	await page.getByRole("button", { name: "Revoke evening sheet" }).click();
	await page.getByRole("button", { name: "Revoke evening sheet" }).click();
	await expect(page.getByText("No keys yet.")).toBeVisible();
	expect((await call()).status()).toBe(401);
});

test("a rep finds no import in Setup, but people and keys", async ({ page }) => {
	await signIn(page, "ines", "/setup");
	const places = page.getByRole("navigation", { name: "Setup" });
	await expect(places.getByRole("heading")).toHaveText(["Company", "Rules", "People", "Data", "Mine"]);
	await expect(places.getByRole("link")).toHaveText([
		"Company",
		"Flags",
		"Questions",
		"Stages and habits",
		"Task kits",
		"People and teams",
		"Tables",
		"My notifications",
		"Sent by itself",
		"My calendar",
		"API keys",
		"My sign-in",
	]);
	await places.getByRole("link", { name: "People and teams" }).click();
	await expect(page.getByRole("row").filter({ hasText: "Dario Velez" })).toContainText("left on");
});
