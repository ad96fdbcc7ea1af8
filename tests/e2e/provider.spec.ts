import { type StandIn, startStandIn } from "../../src/fakes/provider/provider";
import { expect, signIn, test } from "../kit/browser";

let standIn: StandIn;
test.beforeAll(async ({ baseURL }) => {
	const person = (name: string, email: string, ...groups: string[]) => ({ name, email, groups });
	standIn = await startStandIn(
		baseURL ?? "",
		new Map([
			["nova", person("Nova Lindqvist", "nova@emberwick.example", "All staff", "Sales North")],
			["otto", person("Otto Brandt", "otto@emberwick.example", "Workshop")],
		]),
	);
});
test.afterAll(() => standIn.stop());

test("a company’s sign-in is set up, tried, lets its people in as their groups say, and out at both ends", async ({ page, browser }) => {
	await signIn(page, "arno", "/setup?place=provider");
	await page.getByLabel("Name, as people call it").fill("the Emberwick account");
	await page.getByLabel("Issuer’s address").fill(standIn.issuer);
	await page.getByLabel("Client id").fill(standIn.clientId);
	await page.getByLabel("People may sign in by it").check();
	await page.getByLabel(/^Client secret/).fill(standIn.clientSecret);
	// Tried a second time, what was saved the first time is there.
	if (!(await page.getByLabel("Group 1", { exact: true }).count())) await page.getByRole("button", { name: "Add a group" }).click();
	await page.getByLabel("Group 1", { exact: true }).fill("Sales North");
	await page.getByLabel("Team of group 1").selectOption("North");
	await page.getByLabel(/^Try it/).fill("all staff, sales north");
	await expect(page.getByText("Would be Rep in North, by the group Sales North.")).toBeVisible();
	await page.getByLabel(/^Try it/).fill("Workshop");
	await expect(page.getByText("Wouldn’t be let in")).toBeVisible();
	await page.getByLabel("Passwords are taken beside it").uncheck();
	await page.getByLabel("Emergency person").selectOption("Arno Vinter");
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByRole("alert").filter({ hasText: "Sign in by it once as somebody of ops" })).toBeVisible();
	await page.getByLabel("Passwords are taken beside it").check();
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText("The company sign-in is saved.").last()).toBeVisible();
	await expect(page.getByLabel("Client secret (set; empty leaves it)")).toHaveValue("");

	const other = await (await browser.newContext()).newPage();
	const enter = async (login: string) => {
		await other.goto("/sign-in?to=/deals");
		await other.getByRole("link", { name: "Sign in with the Emberwick account" }).click();
		await other.getByLabel("Login").fill(login);
		await other.getByRole("button", { name: "Sign in", exact: true }).click();
	};
	await enter("otto");
	await expect(other.getByRole("alert").filter({ hasText: "None of your groups is let in here" })).toBeVisible();
	await other.context().clearCookies();
	await enter("nova");
	await expect(other).toHaveURL(/\/deals/);
	await expect(other.getByText("Nova Lindqvist")).toBeVisible();
	await other.locator("html[data-alive]").waitFor();
	await other.getByRole("button", { name: "Sign out" }).click();
	// The provider asks, on a page of its own, whether its session is to end, too.
	await expect(other.getByRole("heading", { name: "Sign out" })).toBeVisible();
	await other.getByRole("button", { name: "Sign out" }).click();
	await expect(other).toHaveURL(/\/sign-in$/);
	await other.context().close();

	await page.getByLabel("People may sign in by it").uncheck();
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText("The company sign-in is saved.").last()).toBeVisible();
});
