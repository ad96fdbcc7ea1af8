import { type Cookie, expect, type Page, test as plain } from "@playwright/test";

/** What a page logs as errors, or throws, from now on. */
export function listenTo(page: Page): string[] {
	const noise: string[] = [];
	page.on("pageerror", (error) => noise.push(error.message));
	page.on("console", (message) => {
		if (message.type() === "error" && !/status of 4\d\d|net::ERR_FAILED/.test(message.text())) noise.push(message.text());
	});
	return noise;
}

/** A test that fails when a page logs an error or throws: a policy breach, a mismatch, a lost request. */
export const test = plain.extend<{ quiet: undefined }>({
	quiet: [
		async ({ page }, use) => {
			const noise = listenTo(page);
			await use(undefined);
			expect(noise).toEqual([]);
		},
		{ auto: true },
	],
});
export { expect };

const COOKIE = "porch_lamp_session";
/** The sessions of those who signed in before, so that a test need not walk through the door again. */
const sessions = new Map<string, Cookie>();

/** Signs in and opens a page; a session that the test is going to end must be a `fresh` one. */
export async function signIn(page: Page, who: string, to = "/", how: { fresh?: boolean } = {}): Promise<void> {
	await page.context().clearCookies({ name: COOKIE });
	const known = how.fresh ? undefined : sessions.get(who);
	if (known) {
		await page.context().addCookies([known]);
		await page.goto(to);
	} else {
		await page.goto(`/sign-in?to=${encodeURIComponent(to)}`);
		await page.getByLabel("E-mail address").fill(`${who}@emberwick.example`);
		await page.getByLabel("Password").fill("porch-light");
		await page.getByRole("button", { name: "Sign in", exact: true }).click();
		await page.waitForURL((url) => url.pathname !== "/sign-in");
		const cookie = (await page.context().cookies()).find((one) => one.name === COOKIE);
		if (cookie && !how.fresh) sessions.set(who, cookie);
	}
	// Keys pressed before the page has come alive would be lost.
	await page.locator("html[data-alive]").waitFor();
}

export const dealRow = (page: Page, name: string) => page.getByRole("row").filter({ hasText: name });
