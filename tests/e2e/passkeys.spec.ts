import { expect, signIn, test } from "../kit/browser";

// Passkeys are tied to a name, which an address of numbers isn’t: it leads to localhost.
const named = (base = "") => base.replace("127.0.0.1", "localhost");

test("a passkey is added in Setup, signs in without a password, and once removed doesn’t any more", async ({ page, baseURL }) => {
	const client = await page.context().newCDPSession(page);
	await client.send("WebAuthn.enable");
	const options = { protocol: "ctap2", transport: "internal", hasResidentKey: true, hasUserVerification: true, isUserVerified: true } as const;
	const { authenticatorId } = await client.send("WebAuthn.addVirtualAuthenticator", { options });

	await signIn(page, "ines", "/setup?place=signin", { fresh: true });
	await page
		.getByRole("region", { name: "Passkeys" })
		.getByRole("link", { name: /^localhost:/ })
		.click();
	await page.getByLabel("E-mail address").fill("ines@emberwick.example");
	await page.getByLabel("Password").fill("porch-light");
	await page.getByRole("button", { name: "Sign in", exact: true }).click();
	const panel = page.getByRole("region", { name: "Passkeys" });
	await expect(panel.getByRole("button", { name: "Add a passkey …" })).toBeEnabled();
	// What an earlier try left.
	while (await panel.getByRole("listitem").count()) {
		const before = await panel.getByRole("listitem").count();
		await panel
			.getByRole("button", { name: /^Remove/ })
			.first()
			.click();
		await expect(panel.getByRole("listitem")).toHaveCount(before - 1);
	}
	await panel.getByRole("button", { name: "Add a passkey …" }).click();
	await panel.getByLabel("Name of the device").fill("Work phone");
	await panel.getByLabel("Your password").fill("not my password");
	await panel.getByRole("button", { name: "Add passkey" }).click();
	await expect(panel.getByRole("alert")).toContainText("This isn’t your current password");
	await panel.getByLabel("Your password").fill("porch-light");
	await panel.getByRole("button", { name: "Add passkey" }).click();
	await expect(panel.getByRole("listitem")).toContainText("not used yet");

	await page.getByRole("button", { name: "Sign out", exact: true }).click();
	await page.getByRole("button", { name: "Sign in with a passkey" }).click();
	await expect(page.getByRole("link", { name: "Setup" })).toBeVisible();
	await page.goto(`${named(baseURL)}/setup?place=signin`);
	await expect(panel.getByRole("listitem")).toContainText("last used");

	// Who is asked and says no is told so; nothing else happens.
	await client.send("WebAuthn.setUserVerified", { authenticatorId, isUserVerified: false });
	await page.getByRole("button", { name: "Sign out", exact: true }).click();
	await page.getByRole("button", { name: "Sign in with a passkey" }).click();
	await expect(page.getByRole("alert").first()).toContainText("You aren’t signed in; try again.");
	await client.send("WebAuthn.setUserVerified", { authenticatorId, isUserVerified: true });
	await page.getByRole("button", { name: "Sign in with a passkey" }).click();
	await expect(page.getByRole("link", { name: "Setup" })).toBeVisible();

	await page.goto(`${named(baseURL)}/setup?place=signin`);
	await panel.getByRole("button", { name: "Remove Work phone" }).click();
	await expect(panel.getByRole("listitem")).toHaveCount(0);
});
