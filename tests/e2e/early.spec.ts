import type { Page } from "@playwright/test";
import { expect, signIn, test } from "../kit/browser";

/** As on a slow line: the page is there at once, its programs come later. */
async function scriptsWait(page: Page): Promise<() => void> {
	let come = () => undefined as undefined;
	const held = new Promise<undefined>((resolve) => {
		come = () => resolve(undefined) as undefined;
	});
	await page.route("**/*.js", async (route) => {
		await held;
		await route.continue();
	});
	return come;
}
const alive = (page: Page) => page.locator("html[data-alive]");

test("somebody signs in before the page has come alive", async ({ page }) => {
	await scriptsWait(page);
	await page.goto("/sign-in?to=/deals", { waitUntil: "commit" });
	await page.getByLabel("E-mail address").fill("ruth@emberwick.example");
	await page.getByLabel("Password").fill("porch-light");
	await page.getByRole("button", { name: "Sign in", exact: true }).click();
	await page.waitForURL("**/deals", { waitUntil: "commit" });
	await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
});

test("a file chosen, words typed, a form sent and a button pressed before the page has come alive wait for it, and count", async ({ page }) => {
	await signIn(page, "arno");
	const come = await scriptsWait(page);
	await page.goto("/setup?place=weekly", { waitUntil: "commit" });
	const buffer = Buffer.from("Id;Name;Amount\n1;Ovens;12");
	await page.getByLabel("File", { exact: true }).setInputFiles({ name: "early.csv", mimeType: "text/csv", buffer });
	await expect(alive(page)).toHaveCount(0);
	come();
	await expect(page.getByLabel("Exported on")).toBeVisible();

	const later = await scriptsWait(page);
	await page.goto("/setup?place=signin", { waitUntil: "commit" });
	await page.getByLabel("Current password").fill("a wrong one");
	for (const name of [/^New password/, "Repeat the new password"]) await page.getByLabel(name).fill("eleven paper boats");
	await expect(page.getByRole("button", { name: "Change password" })).toBeDisabled();
	await page.getByRole("button", { name: "Turn on …" }).click();
	await expect(page.locator("button[aria-busy=true]")).toHaveText("Turn on …");
	later();
	await expect(page.getByRole("img", { name: /^QR code/ })).toBeVisible();
	await page.getByRole("button", { name: "Change password" }).click();
	await expect(page.getByText("This isn’t your current password; nothing was changed.")).toBeVisible();
});
