import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import { programIn, type Run } from "../kit/program";

// Several machines on one, by one command: what is killed from another terminal while somebody works loses nothing.
test.describe.configure({ mode: "serial" });
test.setTimeout(420_000);

const program = programIn(resolve("var/test/cluster"), 3800);
const env = { PORCH_LAMP_DEMO: "" };
let cluster: Run;
test.beforeAll(async () => {
	await program.begin();
	cluster = program.run("cluster", [], env);
	program.running = cluster.child;
	await expect.poll(cluster.output, { timeout: 600_000 }).toContain("Ctrl-C stops it.");
});
test.afterAll(() => {
	program.running?.kill("SIGTERM");
});

const command = async (...args: string[]) => {
	const run = program.run("cluster", args, env);
	expect(await run.ended, run.output()).toBe(0);
	return run.output();
};
/** All parts run, both application servers answer, and the standby has everything: the next one may be lost. */
const allWell = () =>
	expect
		.poll(() => command("status"), { timeout: 180_000, intervals: [1000] })
		.toMatch(/^(?!.*(not running|starting|no PostgreSQL)).*The standby has all that was acknowledged\./s);
async function signIn(page: Page, to: string) {
	await page.goto(`${program.base()}/sign-in?to=${encodeURIComponent(to)}`);
	await page.getByLabel("E-mail address").fill("ruth@emberwick.example");
	await page.getByLabel("Password").fill("porch-light");
	await page.getByRole("button", { name: "Sign in", exact: true }).click();
	await page.waitForURL((url) => url.pathname !== "/sign-in");
	await page.locator("html[data-alive]").waitFor();
}

test("two application servers, two databases and what leads to them start by one command", async () => {
	const said = await command("status");
	for (const part of ["etcd", "database1", "database2", "proxy", "pooler", "application1", "application2"])
		expect(said).toMatch(new RegExp(`${part} +process`));
	expect(said).toMatch(/, primary/);
	expect(said).toMatch(/, standby/);
	const again = program.run("cluster", [], env);
	expect(await again.ended).toBe(1);
	expect(again.output()).toContain("The cluster runs already");
	const unknown = program.run("cluster", ["kill", "everything"], env);
	expect(await unknown.ended).toBe(1);
	expect(unknown.output()).toContain("There is no part everything.");
});

test("the primary is killed while a task is given: it is read on, the task is given once, and nothing typed is lost", async ({ page }) => {
	await allWell();
	await signIn(page, "/deals?deal=story-rack");
	const other = await page.context().newPage();
	await other.goto(`${program.base()}/period`);
	await page.getByRole("button", { name: "Give task: Answer what they asked" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Task text").fill("Call the buyer while the database moves");
	await expect(dialog.getByRole("button", { name: "Give task" })).toBeEnabled();
	await command("kill", "primary");
	await Promise.all([
		(async () => {
			await dialog.getByRole("button", { name: "Give task" }).click();
			await expect(page.getByText("Task given, due 27 Nov.")).toBeVisible();
		})(),
		(async () => {
			await other.goto(`${program.base()}/deals`);
			await expect(other.getByText("The database can’t be reached. You see the figures as of")).toBeVisible();
			await expect(other.getByRole("button", { name: "Rack ovens, three sites" })).toBeVisible();
			await expect(other.getByText("The database can’t be reached.")).toBeHidden();
		})(),
	]);
	await other.goto(`${program.base()}/tasks`);
	await expect(other.getByText("Call the buyer while the database moves")).toHaveCount(1);
	await allWell();
});

test("an application server and the pool in front of the database are killed, and nobody who works notices more than a moment", async ({ page }) => {
	await signIn(page, "/tasks");
	for (const part of ["application1", "application2", "pooler", "etcd", "standby"]) {
		await command("kill", part);
		await page.goto(`${program.base()}/deals`);
		await expect(page.getByRole("button", { name: "Rack ovens, three sites" })).toBeVisible();
		await allWell();
	}
});

test("with no application server at all a page says so, and opens by itself when one is back", async ({ page }) => {
	await signIn(page, "/tasks");
	for (const part of ["application1", "application2"]) await command("kill", part);
	await page.goto(`${program.base()}/deals`);
	await expect(page.getByRole("heading", { name: "No server answers just now" })).toBeVisible();
	await expect(page.getByRole("button", { name: "Rack ovens, three sites" })).toBeVisible({ timeout: 120_000 });
	await allWell();
});

test("one command ends all of it", async () => {
	await command("stop");
	expect(await cluster.ended).toBe(0);
	expect(existsSync(join(program.folder, "cluster", "parts.json"))).toBe(false);
	expect(await program.well()).toBe(false);
	const after = program.run("cluster", ["status"], env);
	expect(await after.ended).toBe(1);
	expect(after.output()).toContain("No cluster runs. Start it with: npm run cluster");
});
