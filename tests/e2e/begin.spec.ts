import { resolve } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import { programIn } from "../kit/program";

const program = programIn(resolve("var/test/begin"), 3650);
let page: Page;
/** printed by the start, which says who may begin */
let output: () => string;
/** by which the second person sets a password */
let link = "";
test.describe.configure({ mode: "serial" });
test.beforeAll(async ({ browser }) => {
	test.setTimeout(600_000);
	await program.begin();
	({ output } = await program.start());
	page = await browser.newPage();
});
test.afterAll(async () => {
	await page?.close();
	program.running?.kill("SIGINT");
});

test("a company begins on one page, with the code that was printed, once", async () => {
	expect(output()).toContain(`PORCH_LAMP_DATA=${program.folder} npm run person`);
	// Without the printed code nobody begins; with it, once.
	await page.goto(`${program.base()}/begin`);
	const fill = async () => {
		await page.getByLabel("Company name").fill("Rohn and Daughters");
		await page.getByLabel("Time zone").selectOption("Europe/Berlin");
		await page.getByLabel("Your name").fill("Oda Pell");
		await page.getByLabel("E-mail address").fill("oda@firm.example");
		await page.getByLabel("Password").fill("evening walk");
	};
	await fill();
	await page.getByRole("button", { name: "Set up" }).click();
	await expect(page.getByRole("main").getByRole("alert")).toContainText("Open the address that was printed");
	const address = /http\S+\/begin#\S+/.exec(output())?.[0] as string;
	await page.goto("about:blank");
	await page.goto(address);
	await fill();
	await page.getByRole("button", { name: "Add person" }).click();
	await page.getByLabel("Name", { exact: true }).fill("Ina Rohn");
	await page.getByLabel("E-mail address").last().fill("ina@firm.example");
	await page.getByLabel("Team").fill("House");
	await page.getByRole("button", { name: "Set up" }).click();
	await expect(page.getByRole("heading", { name: "Rohn and Daughters is set up" })).toBeVisible();
	link = await page.locator("code").innerText();
	expect(link).toContain(`${program.base()}/set-password#`);
});

test("six weekly files are enough: an empty screen leads to the first, which makes the stages", async () => {
	await page.goto(`${program.base()}/deals`);
	await page.getByRole("link", { name: "Import your first file" }).click();
	await page.getByRole("link", { name: "A weekly file of open deals" }).click();
	const send = (day: string, ...lines: string[]) =>
		page.getByLabel("File", { exact: true }).setInputFiles({
			name: `pipeline ${day}.csv`,
			mimeType: "text/csv",
			buffer: Buffer.from(["Opp. no.;Opportunity;Customer;Phase;Value;Expected close;Deal owner", ...lines].join("\n")),
		});
	const line = (id: number, name: string, phase: string, value: string) => `${id};${name};Lode Bakery;${phase};${value};18.12.2026;Ina Rohn`;
	await send("2026-10-19", line(7, "Deck ovens", "Offer", "42.500,00"), line(8, "Mixers", "First talk", "9.900,50"));
	await expect(page.getByRole("button", { name: "Create these stages" })).toBeVisible();
	await page.setViewportSize({ width: 360, height: 800 });
	expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
	await page.setViewportSize({ width: 1280, height: 800 });
	await page.getByRole("button", { name: "First talk further up" }).click();
	await page.getByRole("button", { name: "Create these stages" }).click();
	await expect(page.getByRole("region", { name: "What would change" })).toContainText("2 new, 0 changed");
	const takeIn = async (words: string) => {
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByText(words)).toBeVisible();
	};
	await takeIn("Imported for 19 Oct 2026: 2 new, 0 changed, 0 missing.");
	const ovens = line(7, "Deck ovens", "Offer", "40.000,00");
	const mixers = line(8, "Mixers", "Offer", "9.900,50");
	await send("2026-10-26", ovens, line(8, "Mixers", "First talk", "9.900,50"));
	await takeIn("Imported for 26 Oct 2026: 0 new, 1 changed, 0 missing.");
	await send("2026-11-02", ovens, mixers, line(9, "Proofer", "First talk", "12.000,00"));
	await takeIn("Imported for 2 Nov 2026: 1 new, 1 changed, 0 missing.");
	for (const [day, said] of [
		["2026-11-09", "9 Nov"],
		["2026-11-16", "16 Nov"],
		["2026-11-23", "23 Nov"],
	] as const) {
		await send(day, ovens, mixers, line(9, "Proofer", "First talk", day === "2026-11-09" ? "12.000,00" : "15.000,00"));
		// The same file for another day: somebody may have taken the wrong one.
		if (day !== "2026-11-16") await page.getByLabel(`Yes, the pipeline of ${day} is the same`).check();
		await takeIn(`Imported for ${said} 2026: 0 new, ${day === "2026-11-16" ? 1 : 0} changed, 0 missing.`);
	}
});

test("their bridge is true, and the person whom the files name signs in by the link", async () => {
	// 52 400.50 at first; 15 000 new and 2 500 less make 64 900.50.
	await page.goto(`${program.base()}/changes?against=2026-10-19`);
	await expect(page.getByRole("button", { name: /^Shrank 1 deal/ })).toContainText("2\u202f500");
	await expect(page.getByRole("button", { name: /^New 1 deal/ })).toContainText("15\u202f000");
	await page.goto(`${program.base()}/changes?show=deals&against=2026-10-19`);
	await expect(page.getByText("First talk → Offer · moved on")).toBeVisible();
	// The person the files name is the one who was named at the beginning, and sets a password by the link.
	const ina = await page.context().browser()?.newPage();
	await ina?.goto(link);
	await ina?.getByLabel("New password").fill("nine paper boats");
	await ina?.getByRole("button", { name: "Set password" }).click();
	await ina?.getByRole("button", { name: "Sign in", exact: true }).click();
	await ina?.getByLabel("E-mail address").fill("ina@firm.example");
	await ina?.getByLabel("Password").fill("nine paper boats");
	await ina?.getByRole("button", { name: "Sign in", exact: true }).click();
	await ina?.waitForURL(/\/desk/);
	await ina?.goto(`${program.base()}/deals`);
	await expect(ina?.getByText("3 deals") as ReturnType<typeof page.getByText>).toBeVisible();
	await ina?.close();
});
