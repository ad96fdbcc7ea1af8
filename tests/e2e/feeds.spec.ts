import { expect, signIn, test } from "../kit/browser";

const HEADER = "Ref,Opportunity,Company,Phase,Value,Closing date,Responsible";
const stamp = Date.now();
const OVENS = `F${stamp},Deck ovens for the pier,Pier Bakery,Site survey,42500,2026-12-18,Ines Valdoro`;
const part = `Feeds ${stamp}`;

test("a feed is added, brings a file by itself, and one that asks something is reviewed and imported", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=feeds");
	await page.getByRole("button", { name: "Add feed" }).click();
	const form = page.getByRole("dialog", { name: "Add feed" });
	await form.getByLabel("Name").fill(part);
	await form.getByLabel("Part of the pipeline").fill(part);
	await form.getByLabel("Who may send it by mail").fill("reports@system.example");
	await form.getByRole("button", { name: "Add", exact: true }).click();
	const feed = page.getByRole("region", { name: part });
	await expect(feed.getByText("Nothing has come yet.")).toBeVisible();
	const [, id = ""] = /feeds\/(feed-[\w-]+)\/files/.exec((await feed.textContent()) ?? "") ?? [];
	const send = (name: string, ...lines: string[]) =>
		page.request.post(`/api/v1/feeds/${id}/files?name=${encodeURIComponent(name)}`, {
			data: Buffer.from([HEADER, ...lines].join("\n")),
			headers: { origin: new URL(page.url()).origin, "content-type": "application/octet-stream" },
		});
	expect(await (await send("pipeline 2026-11-09.csv", OVENS)).json()).toMatchObject({ state: "imported", words: "1 new deal, 0 changed, 0 missing." });
	await page.reload();
	await expect(feed.getByRole("listitem").filter({ hasText: "pipeline 2026-11-09.csv" })).toContainText("imported");

	// Ten times the amount has to be confirmed: it waits, and is looked at here.
	expect(await (await send("pipeline 2026-11-16.csv", OVENS.replace("42500", "425000"))).json()).toMatchObject({ state: "waits" });
	await page.reload();
	await feed.getByRole("button", { name: "Review pipeline 2026-11-16.csv" }).click();
	const review = page.getByRole("dialog", { name: "Review pipeline 2026-11-16.csv" });
	await expect(review.getByRole("button", { name: "Import", exact: true })).toBeDisabled();
	for (const box of await review.getByRole("checkbox", { name: /^Yes, / }).all()) await box.check();
	await review.getByRole("button", { name: "Import", exact: true }).click();
	await expect(page.getByText("Imported for 16 Nov 2026: 0 new, 1 changed, 0 missing.")).toBeVisible();
	await expect(feed.getByRole("listitem").filter({ hasText: "pipeline 2026-11-16.csv" })).toContainText("imported by hand");

	// The Monday mail of another system: it is taken in from its attachment, and its bridge is there.
	const address = (await feed.locator("code").allTextContents()).find((words) => words.includes("@")) ?? "";
	const box = await page.context().newPage();
	await signIn(box, "arno", "/setup?place=mail");
	const mailbox = (await box.getByRole("link", { name: "sent mails" }).getAttribute("href")) ?? "";
	await box.goto(`${mailbox}write?to=${encodeURIComponent(address)}`);
	const write = async (from: string) => {
		await box.getByLabel("From").fill(from);
		await box.getByLabel("Subject").fill("Open pipeline");
		const buffer = Buffer.from([HEADER, OVENS.replace("42500", "425000").replace("2026-12-18", "2026-12-21")].join("\n"));
		await box.getByLabel("Files").setInputFiles({ name: "pipeline 2026-11-23.csv", mimeType: "text/csv", buffer });
		await box.getByRole("button", { name: "Send" }).click();
	};
	await write("somebody@elsewhere.example");
	await expect(box.getByRole("status")).toHaveText("Sent, and not taken: somebody@elsewhere.example isn’t one of the feed’s senders.");
	await write("reports@system.example");
	await expect(box.getByRole("status")).toHaveText("Sent, and taken.");
	await box.goto(mailbox);
	await expect(box.getByRole("link", { name: new RegExp(`Re: Open pipeline|${part}`) }).first()).toBeVisible();
	await box.close();
	await page.reload();
	await feed.getByRole("listitem").filter({ hasText: "pipeline 2026-11-23.csv" }).getByRole("link").first().click();
	await expect(page).toHaveURL(/\/changes\?.*seen=2026-11-23.*against=2026-11-16/);
	await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
	await signIn(page, "arno", "/setup?place=feeds");

	// What it brought is undone, so that nobody else's tests meet it.
	const { files } = await (await page.request.get("/api/v1/weekly")).json();
	for (const { id: file, covers } of files as { id: string; covers: string }[])
		if (covers === part) await page.request.delete(`/api/v1/weekly/${file}`, { headers: { origin: new URL(page.url()).origin } });
	await feed.getByRole("button", { name: `Delete ${part}` }).click();
	await expect(feed).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect(feed).toBeVisible();
	await feed.getByRole("button", { name: `Delete ${part}` }).click();
	await expect(feed).toHaveCount(0);
});

test("feeds are for those who import", async ({ page }) => {
	await signIn(page, "ruth", "/setup");
	await expect(page.getByRole("link", { name: "Feeds", exact: true })).toHaveCount(0);
	expect((await page.request.get("/api/v1/feeds")).status()).toBe(403);
});
