import { expect, signIn, test } from "../kit/browser";

test("something is sent by itself to whom one ticks, is listed for ops too, and ended with one press", async ({ page }) => {
	await signIn(page, "ruth", "/setup?place=sendings");
	await expect(page.getByText("Nothing is sent by itself yet.")).toBeVisible();
	await expect(page.getByRole("button", { name: "Send it" })).toBeDisabled();
	await page.getByLabel("What").selectOption({ label: "How the last period ended" });
	await page.getByLabel("When").selectOption({ label: "each month’s first working day" });
	await page.getByLabel("Ines Valdoro").check();
	await page.getByLabel("Helena Marwood").check();
	await page.getByLabel("With the whole table as a workbook").check();
	await page.getByRole("button", { name: "Send it" }).click();
	const row = page.getByRole("row", { name: /How the last period ended/ });
	await expect(row).toContainText("each month’s first working day at 07:30");
	await expect(row).toContainText("Helena Marwood not sent yet");

	await signIn(page, "arno", "/setup?place=sendings", { fresh: true });
	await expect(page.getByText("All that is sent by itself in the company.")).toBeVisible();
	await page.getByRole("button", { name: "End: How the last period ended" }).click();
	await expect(page.getByText("Nothing is sent by itself yet.")).toBeVisible();
});
