import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, signIn, test } from "../kit/browser";

const SCREENS = [
	"/period",
	"/period/tries",
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
	"/tasks?show=follow",
	"/desk",
	"/evidence",
	"/accounts",
	"/setup?place=people",
	"/setup?place=weekly",
	"/setup?place=keys",
	"/setup?place=flags",
	"/setup?place=questions",
	"/setup?place=stages",
	"/setup?place=kits",
	"/setup?place=mail",
];
/** Setup is at its fullest for ops. */
const who = (screen: string) => (screen.startsWith("/setup") ? "arno" : "ruth");
/** Rows after the first few are made as those are. */
const REPEATED = "tr:nth-child(n+5), li:nth-child(n+5)";
/** What axe calls trouble: all of it by day; by dusk, where only the colours differ, what it says of them. */
const look = async (page: Page, theme: string) => {
	const axe = new AxeBuilder({ page }).exclude(REPEATED);
	return (await (theme === "light" ? axe : axe.withRules(["color-contrast", "link-in-text-block"])).analyze()).violations;
};

for (const theme of ["light", "dark"] as const) {
	test(`every screen is accessible by the ${theme === "light" ? "light" : "dusk"} theme`, async ({ page, context, baseURL }) => {
		// Some forty screens; two programs and a second browser share the machine.
		test.setTimeout(600_000);
		await context.addCookies([{ name: "porch_lamp_theme", value: theme, url: baseURL as string }]);
		await page.goto("/sign-in");
		expect(await look(page, theme)).toEqual([]);
		let person = "";
		for (const screen of SCREENS) {
			if (who(screen) !== person) {
				person = who(screen);
				await signIn(page, person);
			}
			await page.goto(screen);
			await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
			const found = (await look(page, theme)).map(
				(v) =>
					`${screen}: ${v.id} ${v.nodes
						.slice(0, 3)
						.map((n) => `${n.target} ${n.failureSummary}`)
						.join(" | ")}`,
			);
			expect(found).toEqual([]);
		}
	});
}

test("nothing overflows from a wide screen to a phone", async ({ page }) => {
	// Some forty screens; two programs and a second browser share the machine.
	test.setTimeout(600_000);
	await signIn(page, "ruth");
	for (const screen of SCREENS) {
		await page.goto(screen);
		await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
		for (const width of [2560, 1280, 768, 360]) {
			await page.setViewportSize({ width, height: 800 });
			const over = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
			await expect.poll(over, { message: `${screen} at ${width}` }).toBeLessThanOrEqual(0);
		}
	}
});

test("day and dusk are remembered", async ({ page }) => {
	await signIn(page, "ruth", "/tasks");
	await page.getByRole("button", { name: "Day or dusk" }).click();
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
	await page.reload();
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
});
