import { request as ask, get } from "node:http";
import { createTransport } from "nodemailer";
import { expect, signIn, test } from "../kit/browser";

/** The status that a plain request gets, with whatever headers it claims. */
const statusOf = (address: string, headers: Record<string, string> = {}, method = "GET") =>
	new Promise<number>((resolve, reject) => {
		const call = (method === "GET" ? get : ask)(address, { headers, method }, (response) => {
			response.resume();
			resolve(response.statusCode ?? 0);
		});
		call.on("error", reject);
		call.end();
	});

test("the mailbox opens by its code alone, to its own pages alone, and takes mail of the program alone", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=mail");
	const box = (await page.getByRole("link", { name: "sent mails" }).getAttribute("href")) ?? "";
	const { origin, port } = new URL(box);
	expect(await statusOf(box)).toBe(200);
	for (const path of ["/", "/hook", "/hooks", "/mail/1", "/wrong/"]) expect(await statusOf(origin + path)).toBe(404);
	expect(await statusOf(box, { host: "elsewhere.example" })).toBe(404);
	await page.goto(box);
	await expect(page.getByRole("note")).toContainText("stands in for a mail server");
	const mails = page.getByRole("link", { name: / asks you: | of / });
	const mail = (await mails.count()) ? await mails.first().getAttribute("href") : null;
	if (mail) {
		expect(await statusOf(`${origin}${mail}/answer`, { origin: "http://elsewhere.example" }, "POST")).toBe(403);
		expect(await statusOf(`${origin}${mail}/answer`, {}, "POST")).toBe(403);
	}
	// The port the program sends to is the first free one from 2525 on, as the page's is from 2580.
	const transport = createTransport({ host: "127.0.0.1", port: 2525 + Number(port) - 2580, auth: { user: "porch-lamp", pass: "guess" } });
	await expect(transport.sendMail({ from: "a@b.example", to: "c@d.example", text: "x" })).rejects.toThrow();
});

test("webhooks are tried on a port of their own, whose list opens by the code", async ({ page }) => {
	await signIn(page, "arno", "/setup?place=webhooks");
	const shown = (await page.getByRole("link", { name: "received calls" }).getAttribute("href")) ?? "";
	const { origin } = new URL(shown);
	expect(await statusOf(`${origin}/`)).toBe(404);
	expect(await statusOf(`${origin}/hook`, {}, "POST")).toBe(204);
	await page.goto(shown);
	await expect(page.getByRole("heading", { name: "Webhooks" })).toBeVisible();
	await expect(page.locator("pre").first()).toBeVisible();
});
