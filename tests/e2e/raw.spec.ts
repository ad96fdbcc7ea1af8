import { request } from "node:http";
import { expect, signIn, test } from "../kit/browser";

interface Sent {
	readonly method?: string;
	readonly path?: string;
	readonly headers?: Record<string, string>;
	readonly body?: string;
}

/** What a request gets that no browser would send. */
const sender =
	(base: string) =>
	({ method = "GET", path = "/", headers = {}, body }: Sent) =>
		new Promise<number>((resolve, reject) => {
			const url = new URL(base);
			const call = request({ host: url.hostname, port: url.port, path, method, headers }, (response) => {
				response.resume();
				resolve(response.statusCode ?? 0);
			});
			call.on("error", reject);
			call.end(body);
		});

test("what no browser sends is the sender’s fault, and a write needs an origin of our own", async ({ page, baseURL }) => {
	await signIn(page, "ruth", "/deals");
	const cookie = (await page.context().cookies()).map(({ name, value }) => `${name}=${value}`).join("; ");
	const send = sender(baseURL ?? "");
	const host = new URL(baseURL ?? "").host;
	const own = { cookie, origin: `http://${host}`, host };
	expect(await send({ method: "TRACE" })).toBe(405);
	for (const bad of ["[", "a b", "x:y:z"]) expect(await send({ path: "/healthz", headers: { host: bad } }), bad).toBe(400);
	// Pages and their actions, from elsewhere and from nowhere.
	const foreign: Record<string, string>[] = [
		{ cookie },
		{ cookie, origin: "http://elsewhere.example" },
		{ cookie, origin: "null" },
		{ cookie, "sec-fetch-site": "cross-site" },
	];
	for (const headers of foreign)
		for (const path of ["/deals", "/sign-in", "/table"]) expect(await send({ method: "POST", path, headers: { ...headers, host }, body: "x" })).toBe(403);
	for (const [type, body] of [
		["text/plain;charset=UTF-8", "no json"],
		["text/plain;charset=UTF-8", '["$F1"]'],
		["text/plain;charset=UTF-8", '{"a":'],
		["multipart/form-data; boundary=x", "nothing of the kind"],
		["application/json", "[]"],
	] as const) {
		const status = await send({ method: "POST", path: "/deals", headers: { ...own, "next-action": "0".repeat(42), "content-type": type }, body });
		expect(status, body).toBeGreaterThanOrEqual(400);
		expect(status, body).toBeLessThan(500);
	}
	for (const secret of ["grüße", "日本", "x"])
		expect(
			await send({ method: "POST", path: "/inbound/mail", headers: { authorization: `Bearer ${Buffer.from(secret).toString("latin1")}` }, body: "x" }),
		).toBe(403);
});

test("signing in again ends what this browser had open before", async ({ page, baseURL }) => {
	// A window that was opened before anybody was signed in.
	const other = await page.context().newPage();
	await other.goto("/sign-in?to=/desk");
	await signIn(page, "ruth", "/deals", { fresh: true });
	const [before] = await page.context().cookies();
	await other.getByLabel("E-mail address").fill("ines@emberwick.example");
	await other.getByLabel("Password").fill("porch-light");
	await other.getByRole("button", { name: "Sign in", exact: true }).click();
	await other.waitForURL((url) => url.pathname !== "/sign-in");
	const status = await sender(baseURL ?? "")({ path: "/deals/rows", headers: { cookie: `${before?.name}=${before?.value}` } });
	expect(status).toBe(401);
});

test("an idle connection is kept open longer than those who ask keep theirs, so that none is closed in the midst of a request", async ({ baseURL }) => {
	const kept = await new Promise<string | string[] | undefined>((resolve, reject) => {
		const call = request(`${baseURL}/healthz`, { headers: { connection: "keep-alive" } }, (response) => {
			response.resume();
			resolve(response.headers["keep-alive"]);
		});
		call.on("error", reject);
		call.end();
	});
	expect(kept).toBe("timeout=75");
});
