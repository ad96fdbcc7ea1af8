import type { Page } from "@playwright/test";
import { dealRow, expect, signIn, test } from "../kit/browser";

const mailbox = async (page: Page) => {
	await signIn(page, "arno", "/setup?place=mail");
	return (await page.getByRole("link", { name: "sent mails" }).getAttribute("href")) ?? "";
};

test("lit deals are each given their own remedy; each owner is told by mail, and an answer stands on its deal", async ({ page }) => {
	await signIn(page, "tomas", "/deals?flags=lit");
	await page.getByRole("checkbox", { name: "Select all deals" }).check();
	await page.keyboard.press("t");
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Each deal’s own remedy").check();
	const tasks = dialog.getByRole("row").filter({ has: page.getByRole("checkbox") });
	const count = await tasks.count();
	expect(count).toBeGreaterThan(2);
	const first = tasks.first();
	await first.getByRole("textbox", { name: /^Task for/ }).fill("A task worded by hand");
	await tasks.nth(1).getByRole("checkbox").uncheck();
	await dialog.getByRole("button", { name: `Give ${count - 1} tasks` }).click();
	await expect(page.getByText(`${count - 1} tasks given`)).toBeVisible();
	const box = await mailbox(page);
	// What one person gives another at one time is one mail.
	await expect(async () => {
		await page.goto(box);
		const subjects = await page.getByRole("link", { name: /^Tom.s .* (gives you \d+ tasks$|asks you: )/ }).allTextContents();
		expect(subjects.reduce((sum, words) => sum + Number(/gives you (\d+)/.exec(words)?.[1] ?? 1), 0)).toBeGreaterThanOrEqual(count - 1);
		expect(subjects.some((words) => words.includes("gives you"))).toBe(true);
	}).toPass({ timeout: 90_000 });
	await signIn(page, "ruth", "/deals/story-rack");
	await page.getByRole("button", { name: "Give a task" }).click();
	await dialog.getByLabel("Task text").fill("Ask Lea what keeps them");
	await dialog.getByRole("button", { name: "Give task" }).click();
	await expect(page.getByText("Task given, due 27 Nov.")).toBeVisible();
	await expect(async () => {
		await page.goto(box);
		await page.getByRole("link", { name: /Ask Lea what keeps them/ }).click({ timeout: 5000 });
	}).toPass({ timeout: 90_000 });
	await expect(page.locator("pre")).toContainText("Change which mails");
	await page.getByLabel("Answer").fill("They want Friday at ten");
	await page.getByRole("button", { name: /^Answer as/ }).click();
	await expect(page.getByRole("status")).toHaveText("Sent: the answer stands on its deal.");
	const link = (await page.locator("pre a").first().getAttribute("href")) ?? "";
	await signIn(page, "ruth", new URL(link).pathname + new URL(link).search);
	await expect(page.getByRole("dialog")).toContainText("Ask Lea what keeps them");
	await page.keyboard.press("Escape");
	await expect(page.getByText("They want Friday at ten")).toBeVisible();
});

test("a rep does a task by logging the call it asked for, in one go, and hands another back", async ({ page }) => {
	await signIn(page, "ruth", "/deals/story-rack");
	await page.getByRole("button", { name: "Give a task" }).click();
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("Task text").fill("Ring Lea about the date");
	await dialog.getByRole("button", { name: /^Importance, checklist/ }).click();
	await dialog.getByLabel("Done by logging").selectOption("call");
	await dialog.getByLabel("Importance").selectOption("high");
	await dialog.getByRole("textbox", { name: /^Checklist/ }).fill("Prices\nFloor plan");
	await dialog.getByRole("combobox", { name: "Repeats" }).selectOption("week");
	await dialog.getByRole("button", { name: "Give task" }).click();
	await expect(page.getByText("Task given, due 27 Nov.")).toBeVisible();
	await signIn(page, "ines", "/desk");
	await page.getByRole("button", { name: "Done: Ring Lea about the date, Rack ovens, three sites" }).click();
	await dialog.getByLabel("Prices").check();
	await expect(dialog).toContainText("1 of 2");
	await expect(dialog).toContainText("every week, until the deal closes");
	await dialog.getByLabel("Subject").fill("Lea names Friday");
	await dialog.getByRole("button", { name: "Log and mark done" }).click();
	await expect(page.getByText("Logged, and the task is done.")).toBeVisible();
	// It comes again by itself a week later, and is handed back.
	const next = page.getByRole("row").filter({ hasText: "Ring Lea about the date" }).filter({ hasText: "4 Dec" });
	await next.getByRole("button", { name: /^Done: Ring Lea/ }).click();
	await dialog.getByRole("button", { name: "Hand back", exact: true }).click();
	await dialog.getByLabel("Reason for handing it back").fill("She is on leave");
	await dialog.getByRole("button", { name: "Hand back task" }).click();
	await expect(page.getByText("Handed back to Ruth Calloway.")).toBeVisible();
	await page.goto("/deals/story-rack");
	await expect(page.getByText("Lea names Friday").first()).toBeVisible();
	await signIn(page, "ruth", "/desk");
	await expect(page.getByRole("region", { name: "News" })).toContainText("Ines Valdoro hands back: Ring Lea about the date");
});

test("tasks are moved between days and people by keys and by drag, and by the dozen; each is undone by one press", async ({ page }) => {
	await signIn(page, "ruth", "/tasks?show=week&at=2026-11-24");
	const card = () => page.locator(".day-card").filter({ hasText: "Ask who signs" }).filter({ hasText: "Service plan, next year" });
	const cellOf = async () => card().evaluate((one) => `${one.closest("tr")?.querySelector("th")?.firstChild?.textContent} ${one.closest("td")?.cellIndex}`);
	expect(await cellOf()).toBe("Tobias Renn 4");
	await card().focus();
	await page.keyboard.press("ArrowRight");
	await expect.poll(cellOf).toBe("Tobias Renn 5");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect.poll(cellOf).toBe("Tobias Renn 4");
	const other = page.getByRole("row").filter({ has: page.getByRole("rowheader", { name: /^Ines Valdoro/ }) });
	await card().dragTo(other.getByRole("cell").nth(2));
	await expect.poll(cellOf).toBe("Ines Valdoro 3");
	await page.getByRole("button", { name: "Undo" }).last().click();
	await expect.poll(cellOf).toBe("Tobias Renn 4");
	await page.goto("/tasks?show=follow");
	await expect(page.getByRole("heading", { name: /won’t be done in time$/ })).toBeVisible();
	const late = page.getByRole("row").filter({ hasText: "Send the bank the payback figures" });
	await late.getByRole("checkbox").check();
	await page.getByRole("button", { name: "A week later" }).click();
	await expect(page.getByText("1 task due a week later.")).toBeVisible();
	await expect(late).toHaveCount(0);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(late).toHaveCount(1);
});

test("what one changes shows to another by itself, who loses nothing of what they write", async ({ page, browser }) => {
	await signIn(page, "ruth", "/deals?deal=story-rack");
	const sheet = page.getByRole("complementary", { name: "Sheet of the deal" });
	await expect(sheet).toContainText("Rack ovens, three sites");
	await page.getByPlaceholder("Find in this list").fill("Rack ov");
	const other = await (await browser.newContext()).newPage();
	await signIn(other, "helena", "/deals/story-rack");
	await other.getByRole("button", { name: "Give a task" }).click();
	await other.getByRole("dialog").getByLabel("Task text").fill("Seen at once");
	await other.getByRole("dialog").getByRole("button", { name: "Give task" }).click();
	await expect(other.getByText("Task given, due 27 Nov.")).toBeVisible();
	await expect(sheet).toContainText("Seen at once", { timeout: 90_000 });
	await expect(page.getByPlaceholder("Find in this list")).toHaveValue("Rack ov");
	await other.context().close();
});

test("a kit is made, given for a deal, and each of its tasks has its own day", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=kits");
	await page.getByRole("button", { name: "Create kit" }).click();
	await page.getByLabel("Name of the kit").fill("Before a tasting");
	await page.getByLabel("Task 1", { exact: true }).fill("Ask {account} who comes");
	await page.getByRole("button", { name: "Add task" }).click();
	await page.getByLabel("Task 2", { exact: true }).fill("Send the menu");
	await page.getByLabel("Working days of task 2").fill("5");
	await page.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText("Before a tasting saved.")).toBeVisible();
	await signIn(page, "ruth", "/deals");
	await dealRow(page, "Rack ovens, three sites").getByRole("checkbox").check();
	await page.keyboard.press("t");
	const dialog = page.getByRole("dialog");
	await dialog.getByLabel("A kit").check();
	await dialog.getByLabel("Kit", { exact: true }).selectOption({ label: "Before a tasting" });
	await expect(dialog.getByRole("textbox", { name: /^Task for/ }).first()).toHaveValue("Ask Saltmarsh Patisserie who comes");
	await dialog.getByRole("button", { name: "Give 2 tasks" }).click();
	await expect(page.getByText("2 tasks given, due 27 Nov to 1 Dec.")).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
});

test("a person says what reaches them, and their calendar has an address of its own", async ({ page, request }) => {
	await signIn(page, "ines", "/setup?place=reaching");
	await page.getByRole("combobox", { name: "By mail: a deal’s amount is cut" }).selectOption("digest");
	await expect(page.getByText("Saved.")).toBeVisible();
	await page.reload();
	await expect(page.getByRole("combobox", { name: "By mail: a deal’s amount is cut" })).toHaveValue("digest");
	await page.goto("/setup?place=calendar");
	await page.getByRole("button", { name: /^(Create|Replace) address$/ }).click();
	const address = await page.getByLabel("The address, shown this once:").inputValue();
	const feed = await request.get(address);
	expect(feed.headers()["content-type"]).toContain("text/calendar");
	expect(await feed.text()).toContain("BEGIN:VEVENT");
	expect((await request.get(address.replace(/.{5}\.ics$/, "00000.ics"))).status()).toBe(404);
});
