import { type Page, test as plain } from "@playwright/test";
import axe from "axe-core";
import { expect, listenTo, signIn, test } from "../kit/browser";

const SCREENS = [
	"/period",
	"/period/tries",
	"/period/made?of=target",
	"/period/made?of=contacts",
	"/period/boards",
	"/setup?place=targets",
	"/setup?place=marks",
	"/deals",
	"/deals?deal=story-rack",
	"/deals/story-plant",
	"/changes",
	"/changes?show=deals&against=2026-10-01",
	"/changes?show=trend",
	"/changes?show=flow&against=2026-10-01",
	"/changes?show=river",
	"/rounds",
	"/patterns",
	"/patterns?show=foretell",
	"/patterns?show=stages",
	"/rounds?show=held",
	"/deals/story-plant/brief",
	"/tasks",
	"/tasks?show=week",
	"/tasks?show=follow&outcome=out",
	"/desk",
	"/evidence",
	"/accounts",
	"/accounts/acc-001",
	"/accounts/turns",
	"/accounts/care",
	"/accounts/activities?span=month",
	"/deals?drawn=true",
	"/accounts/activities",
	"/accounts/territories",
	"/people/tobias",
	"/period/closed",
	"/setup?place=people",
	"/setup?place=weekly",
	"/setup?place=feeds",
	"/setup?place=provider",
	"/setup?place=tables",
	"/setup?place=keys",
	"/setup?place=flags",
	"/setup?place=questions",
	"/setup?place=stages",
	"/setup?place=kits",
	"/setup?place=mail",
	"/setup?place=audit",
	"/setup?place=running",
];
/** Setup is at its fullest for ops. */
const who = (screen: string) => (screen.startsWith("/setup") ? "arno" : "ruth");
/** The places of Setup have the same few parts: what one shows by dusk the others do. */
const inDusk = (screen: string) => !screen.startsWith("/setup") || /place=(flags|people|running)$/.test(screen);
/** Rows after the first few are made as those are. */
const REPEATED = "tr:nth-child(n+5), li:nth-child(n+5)";
const COLOURS = ["color-contrast", "link-in-text-block"];
/** What axe calls trouble: all of it by day; by dusk, where only the colours differ, what it says of them. */
const trouble = (page: Page, theme: "light" | "dark"): Promise<string[]> =>
	page.evaluate(
		async ({ theme, exclude, colours }) => {
			document.documentElement.setAttribute("data-bs-theme", theme);
			const about: axe.RunOptions = { resultTypes: ["violations"], ...(theme === "dark" && { runOnly: colours }) };
			const { violations } = await (window as unknown as { axe: typeof axe }).axe.run({ exclude: [exclude] }, about);
			return violations.map(({ id, nodes }) => {
				const where = nodes.slice(0, 3).map((node) => `${node.target} ${node.failureSummary}`);
				return `${id} by ${theme}: ${where.join(" | ")}`;
			});
		},
		{ theme, exclude: REPEATED, colours: COLOURS },
	);

/** What is pressed by its name begins with what is seen on it, so that who speaks to the program says what they read. */
const misnamed = (page: Page): Promise<string[]> =>
	page.evaluate(() => {
		const plain = (text: string | null) =>
			(text ?? "")
				.toLowerCase()
				.replace(/[\s\u00a0\u202f]+/g, " ")
				.replace(/[…→←↓↑+×✓▾]/g, "")
				.trim();
		return [...document.querySelectorAll<HTMLElement>("button[aria-label], a[aria-label], [role=button][aria-label]")].flatMap((element) => {
			const seen = plain(element.innerText);
			return seen && element.checkVisibility() && !plain(element.getAttribute("aria-label")).startsWith(seen)
				? [`“${element.innerText}” is called “${element.getAttribute("aria-label")}”`]
				: [];
		});
	});

/** Looks at a screen that is open, in every way: opening it is what takes the time. */
async function lookAt(page: Page, screen: string): Promise<void> {
	await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
	expect(await misnamed(page), screen).toEqual([]);
	await page.evaluate(axe.source);
	expect([...(await trouble(page, "light")), ...(inDusk(screen) ? await trouble(page, "dark") : [])], screen).toEqual([]);
	for (const width of [2560, 768, 360]) {
		await page.setViewportSize({ width, height: 800 });
		const over = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
		await expect.poll(over, { message: `${screen} at ${width}` }).toBeLessThanOrEqual(0);
	}
}

/** All are opened in one browser window, which has the program’s scripts ready after the first. */
let page: Page;
let noise: string[] = [];
plain.beforeAll(async ({ browser }) => {
	page = await browser.newPage();
	noise = listenTo(page);
});
plain.beforeEach(async () => {
	noise.length = 0;
	await page.setViewportSize({ width: 1280, height: 800 });
});
plain.afterAll(() => page.close());

plain("/sign-in is accessible by day and by dusk, and fits from a wide screen to a phone", async () => {
	await page.goto("/sign-in");
	await lookAt(page, "/sign-in");
	expect(noise).toEqual([]);
});

for (const screen of SCREENS)
	plain(`${screen} is accessible by day and by dusk, and fits from a wide screen to a phone`, async () => {
		await signIn(page, who(screen), screen);
		await lookAt(page, screen);
		expect(noise).toEqual([]);
	});

test("day and dusk are remembered", async ({ page }) => {
	await signIn(page, "ruth", "/tasks");
	await page.getByRole("button", { name: "Day or dusk" }).click();
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
	await page.reload();
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
});
