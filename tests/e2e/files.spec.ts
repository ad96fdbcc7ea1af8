import { readFile } from "node:fs/promises";
import { expect, signIn, test } from "../kit/browser";

/** Another message at each try: the same one is logged once. */
const messageOf = (id: string) =>
	Buffer.from(
		[
			"From: Aiko Quiroga <aiko.quiroga@saltmarsh-patisserie.example>",
			"To: Ines Valdoro <ines@emberwick.example>",
			"Cc: Nadia Orr <nadia.orr@saltmarsh-patisserie.example>",
			"Date: Thu, 19 Nov 2026 10:00:00 +0100",
			`Subject: Which week for the crane ${id}`,
			`Message-ID: <${id}@saltmarsh-patisserie.example>`,
			"",
			"Could the crane come in the first week?",
		].join("\r\n"),
	);

test("a file is kept with a deal, saved as it was, renamed, taken away and put back", async ({ page }) => {
	await signIn(page, "ines", "/deals/story-rack");
	const name = `Plan ${Date.now()}.html`;
	const content = "<html><script>document.title = 'run'</script></html>";
	await page.getByLabel("Files", { exact: true }).setInputFiles({ name, mimeType: "text/html", buffer: Buffer.from(content) });
	const link = page.getByRole("link", { name, exact: true });
	await expect(link).toBeVisible();
	const [download] = await Promise.all([page.waitForEvent("download"), link.click()]);
	expect(download.suggestedFilename()).toBe(name);
	expect(await readFile(await download.path(), "utf8")).toBe(content);
	await page.getByRole("button", { name: `Rename ${name}` }).click();
	await page.getByLabel(`Name of ${name}`).fill(`Other ${name}`);
	await page.keyboard.press("Enter");
	await expect(page.getByRole("link", { name: `Other ${name}` })).toBeVisible();
	await page.getByRole("button", { name: `Remove Other ${name}` }).click();
	await expect(page.getByRole("link", { name: `Other ${name}` })).toBeHidden();
	await page.locator(".toast", { hasText: "File removed." }).getByRole("button", { name: "Undo" }).click();
	await expect(page.getByRole("link", { name: `Other ${name}` })).toBeVisible();
	await page.getByRole("button", { name: `Remove Other ${name}` }).click();
});

test("a file that is empty, and a link that leads nowhere, are refused in words", async ({ page }) => {
	await signIn(page, "ines", "/deals/story-rack");
	await page.getByLabel("Files", { exact: true }).setInputFiles({ name: "Nothing.txt", mimeType: "text/plain", buffer: Buffer.alloc(0) });
	await expect(page.getByText("Nothing.txt: it is empty")).toBeVisible();
	await page.getByRole("button", { name: "Add a link" }).click();
	await page.getByLabel("Address").fill("javascript:alert(1)");
	await expect(page.getByText("A link starts with https://.")).toBeVisible();
	await expect(page.locator(".attachment-form").getByRole("button", { name: "Add", exact: true })).toBeDisabled();
});

test("a message that is dropped on a deal is shown, logged and answered for, and undone", async ({ page }) => {
	await signIn(page, "ines", "/deals/story-rack");
	const id = `crane${Date.now()}`;
	const subject = `Which week for the crane ${id}`;
	// Dropped somewhere on the page, as from a mail program’s window.
	const held = await page.evaluateHandle(
		([text, name]) => {
			const data = new DataTransfer();
			data.items.add(new File([text], name, { type: "message/rfc822" }));
			return data;
		},
		[messageOf(id).toString(), "message.eml"] as const,
	);
	await page.locator(".sheet-title").dispatchEvent("drop", { dataTransfer: held });
	const dialog = page.getByRole("dialog");
	await expect(dialog.getByText("1 will be logged.")).toBeVisible();
	await expect(dialog.getByText(/they to us, Aiko Quiroga → Ines Valdoro, Nadia Orr/)).toBeVisible();
	await dialog.getByLabel(/^Nadia Orr/).check();
	await dialog.getByRole("button", { name: "Log these" }).click();
	await expect(page.getByText("1 logged, 1 contact made.")).toBeVisible();
	await expect(page.locator(".happenings").getByText(subject)).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(page.locator(".happenings").getByText(subject)).toBeHidden();
});

test("the people of an account are saved as cards, and read again there are none new", async ({ page }) => {
	await signIn(page, "ines", "/accounts/acc-001");
	const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Save as vCard" }).click()]);
	const cards = await readFile(await download.path());
	expect(cards.toString()).toContain("FN:Aiko Quiroga");
	await page.getByLabel("File of messages, meetings or people").setInputFiles({ name: "contacts.vcf", mimeType: "text/vcard", buffer: cards });
	const dialog = page.getByRole("dialog");
	await expect(dialog.getByText("is here already").first()).toBeVisible();
	await expect(dialog.getByRole("button", { name: "Log these" })).toBeDisabled();
	await dialog.getByRole("button", { name: "Cancel" }).click();
	await expect(dialog).toBeHidden();
});
