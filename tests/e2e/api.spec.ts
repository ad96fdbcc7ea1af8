import { expect, signIn, test } from "../kit/browser";

test("nothing is given without a key or a session, and pages lead to the sign-in and back", async ({ page, request }) => {
	for (const path of ["deals", "deals/story-rack", "bridge?a=2026-11-09", "tasks", "keys", "export", "imports"]) {
		const answer = await request.get(`/api/v1/${path}`);
		expect(answer.status(), path).toBe(401);
		expect(answer.headers()["content-type"]).toContain("application/problem+json");
	}
	await page.goto("/changes?due=2026-Q3");
	await expect(page).toHaveURL(/\/sign-in\?to=%2Fchanges%3Fdue%3D2026-Q3/);
	await page.getByLabel("E-mail address").fill("ruth@emberwick.example");
	await page.getByLabel("Password").fill("wrong");
	await page.getByRole("button", { name: "Sign in", exact: true }).click();
	await expect(page.getByRole("alert").filter({ hasText: "or the password is wrong" })).toBeVisible();
	await page.getByLabel("Password").fill("porch-light");
	await page.getByRole("button", { name: "Sign in", exact: true }).click();
	await expect(page).toHaveURL(/\/changes\?due=2026-Q3/);
});

test("lists go on where the cursor says, and end", async ({ page }) => {
	await signIn(page, "helena");
	const ids: string[] = [];
	let cursor: string | null = "";
	for (let pages = 0; cursor !== null; pages++) {
		const answer = await (await page.request.get(`/api/v1/deals?status=open&limit=70${cursor ? `&cursor=${cursor}` : ""}`)).json();
		ids.push(...answer.items.map((deal: { id: string }) => deal.id));
		cursor = answer.next;
		expect(pages).toBeLessThan(20);
	}
	expect(new Set(ids).size).toBe(ids.length);
	const whole = await (await page.request.get("/api/v1/deals?status=open&limit=1000")).json();
	expect(ids).toEqual(whole.items.map((deal: { id: string }) => deal.id));
	expect(whole.next).toBeNull();
});

test("what can’t be read is a 400 that says where; what isn’t there a 404", async ({ page }) => {
	await signIn(page, "ruth");
	const bad = await page.request.get("/api/v1/deals?as_of=yesterday");
	expect([bad.status(), (await bad.json()).errors[0].pointer]).toEqual([400, "as_of"]);
	expect((await page.request.get("/api/v1/deals?as_of=2026-02-30")).status()).toBe(400);
	expect((await page.request.get("/api/v1/bridge?a=2026-11-24&b=2026-11-09")).status()).toBe(400);
	expect((await page.request.get("/api/v1/deals/nothing")).status()).toBe(404);
	expect((await page.request.get("/api/v1/deals?team=Nowhere")).status()).toBe(404);
	expect((await page.request.get("/api/v1/deals?cursor=zzz")).status()).toBe(400);
});

test("a write with the session’s cookie must come from our own pages", async ({ page }) => {
	await signIn(page, "ruth");
	const data = { dealIds: ["story-rack"], title: "From elsewhere" };
	const base = new URL(page.url()).origin;
	expect((await page.request.post("/api/v1/tasks", { data, headers: { origin: "http://elsewhere.example" } })).status()).toBe(403);
	expect((await page.request.post("/api/v1/tasks", { data })).status()).toBe(403);
	const given = await page.request.post("/api/v1/tasks", { data, headers: { origin: base } });
	expect(given.status()).toBe(201);
	const { tasks } = await given.json();
	const dropped = await page.request.patch(`/api/v1/tasks/${tasks[0].id}`, { data: { state: "dropped", note: "a test" }, headers: { origin: base } });
	expect(await dropped.json()).toMatchObject({ state: "dropped", note: "a test" });
	expect((await page.request.patch(`/api/v1/tasks/${tasks[0].id}`, { data: { state: "finished" }, headers: { origin: base } })).status()).toBe(400);
});

test("the cookie is closed to scripts and other sites, and pages carry a strict policy", async ({ page, context }) => {
	await signIn(page, "ruth");
	const [cookie] = (await context.cookies()).filter((c) => c.name === "porch_lamp_session");
	expect(cookie).toMatchObject({ httpOnly: true, sameSite: "Lax" });
	const headers = (await page.goto("/deals"))?.headers() ?? {};
	expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
	expect(headers["content-security-policy"]).not.toContain("unsafe-eval");
	expect(headers["x-frame-options"]).toBe("DENY");
	expect(await page.locator("[onclick], [onload], [onerror]").count()).toBe(0);
});

test("the OpenAPI document names every call, and a deal fits its schema’s fields", async ({ page }) => {
	await signIn(page, "ruth");
	const api = await (await page.request.get("/api/v1/openapi.json")).json();
	expect(api.openapi).toBe("3.1.0");
	expect(Object.keys(api.paths).sort()).toEqual([
		"/accounts",
		"/accounts/{id}",
		"/accounts/{id}/activities",
		"/accounts/{id}/contacts.vcf",
		"/accounts/{id}/merge",
		"/activities/{id}",
		"/activity",
		"/batches/accounts",
		"/batches/activities",
		"/batches/contacts",
		"/batches/deals",
		"/boards",
		"/bridge",
		"/closes",
		"/closes/{id}",
		"/closes/{id}/corrections",
		"/closes/{id}/reopen",
		"/contacts",
		"/contacts/{id}",
		"/deals",
		"/deals/{id}",
		"/export",
		"/feeds",
		"/feeds/{id}/files",
		"/files",
		"/files/{id}",
		"/follow-through",
		"/imports",
		"/imports/{id}",
		"/intakes",
		"/intakes/{id}",
		"/keys",
		"/keys/{id}",
		"/kits",
		"/kits/{id}/give",
		"/marks",
		"/outlook",
		"/patterns/answers",
		"/patterns/commit",
		"/patterns/flags",
		"/patterns/tasks",
		"/patterns/time-in-stage",
		"/period",
		"/rests",
		"/rests/{id}",
		"/rounds",
		"/rounds/{id}",
		"/rounds/{id}/calls",
		"/rounds/{id}/end",
		"/subscriptions",
		"/subscriptions/{kind}",
		"/tables",
		"/tables/{name}",
		"/tasks",
		"/tasks/each",
		"/tasks/{id}",
		"/tasks/{id}/hand-back",
		"/tasks/{id}/take",
		"/tries",
		"/turns",
		"/webhooks",
		"/webhooks/{id}",
		"/weekly",
		"/weekly/{id}",
	]);
	expect(api.paths["/deals/{id}"].patch.parameters.map((parameter: { name: string }) => parameter.name)).toEqual(["id", "If-Match"]);
	const schema = api.paths["/deals/{id}"].get.responses["200"].content["application/json"].schema;
	expect(schema).toEqual({ $ref: "#/components/schemas/DealDetail" });
	const deal = await (await page.request.get("/api/v1/deals/story-rack")).json();
	expect(Object.keys(deal).sort()).toEqual(Object.keys(api.components.schemas.DealDetail.properties).sort());
	expect(deal.trail).toEqual({ first: "2026-09-21", current: "2026-11-18", pushes: 3, pulls: 0, pushedDays: 58, netDays: 58, crossings: 1 });
	expect((await (await page.request.get("/healthz")).json()).state).toBe("well");
});
