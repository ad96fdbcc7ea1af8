import { createServer, type Server } from "node:http";
import { eq } from "drizzle-orm";
import { importJWK, type JWK, SignJWT } from "jose";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test, vi } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { audit, people, sessions, signInProvider } from "@/data/schema";
import { type Known, type StandIn, startStandIn } from "@/fakes/provider/provider";
import { endByProvider } from "@/features/people/server/provider/ended";
import { leaveBoth } from "@/features/people/server/provider/flow";
import { readProvider, saveProvider } from "@/features/people/server/provider/settings";
import { signIn, signOut } from "@/features/people/server/signIn";
import { seal } from "@/platform/sealedText";
import { sessionContext } from "@/platform/sessions";
// The keys that a provider has which was given none.
// @ts-expect-error: it has no types
import keystore from "../../node_modules/oidc-provider/lib/consts/dev_keystore.js";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, PASSWORD, refill } from "../kit/database";
import { faultOf } from "../kit/fault";
import { Walker } from "../kit/throughProvider";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let provider: StandIn;
/** The program as far as the provider calls it: word that a session has ended. */
let ours: Server;
let home = "";
beforeAll(async () => {
	vi.spyOn(console, "warn").mockImplementation(() => undefined);
	vi.spyOn(console, "info").mockImplementation(() => undefined);
	database = await freshDatabase("company_sign_in");
	ours = createServer(async (request, response) => {
		const parts: Buffer[] = [];
		for await (const part of request) parts.push(part as Buffer);
		const sent = new Request(`${home}${request.url}`, { method: "POST", body: new Uint8Array(Buffer.concat(parts)) });
		const answer = await routeAnswer("POST", request.url ?? "", () => sent);
		response.writeHead(answer?.status ?? 404).end();
	});
	await new Promise<void>((resolve) => ours.listen(0, "127.0.0.1", resolve));
	home = `http://127.0.0.1:${(ours.address() as { port: number }).port}`;
	process.env.PORCH_LAMP_ADDRESS = home;
});
const KNOWN: readonly (readonly [string, Known])[] = [
	["rae", { name: "Rae Penn", email: "RAE@firm.example", groups: ["sales north"] }],
	["oda", { name: "Oda Pell", email: "ops@firm.example", groups: ["Operations", "Sales North"] }],
	["new", { name: "Nova Lind", email: "nova@firm.example", groups: ["All staff", "Sales North"] }],
	["none", { name: "Otto Brandt", email: "otto@firm.example", groups: ["Workshop"] }],
	["gil", { name: "Gil Orr", email: "gil@firm.example", groups: ["Sales North"] }],
	["false", { name: "Bo Sable", email: "boss@firm.example", groups: ["Sales North"], verified: false }],
];
const GROUPS = [
	{ group: "Operations", role: "ops" as const, team: "Firm" },
	{ group: "Sales North", role: "rep" as const, team: "North" },
];
beforeEach(async () => {
	process.env.PORCH_LAMP_HOOKS_INSIDE = "on";
	await refill(small());
	await connection().db.delete(signInProvider);
	await connection().db.update(people).set({ subject: null });
	await connection().db.delete(people).where(eq(people.email, "nova@firm.example"));
	await givePasswords();
	provider = await startStandIn(home, new Map(KNOWN));
});
afterEach(() => provider.stop());
afterAll(async () => {
	ours.close();
	delete process.env.PORCH_LAMP_HOOKS_INSIDE;
	delete process.env.PORCH_LAMP_ADDRESS;
	vi.restoreAllMocks();
	await database.drop();
});

const set = async (change: Partial<Parameters<typeof saveProvider>[1]> = {}) =>
	saveProvider(await as("ops"), {
		on: true,
		name: "Firm account",
		issuer: provider.issuer,
		clientId: provider.clientId,
		clientSecret: provider.clientSecret,
		claim: "groups",
		groups: GROUPS,
		passwords: true,
		emergencyId: null,
		...change,
	});
const get = async (url: string, cookie = "") => (await routeAnswer("GET", url, () => new Request(`${home}${url}`, { headers: { cookie } }))) as Response;
const cookieIn = (answer: Response, name: string) =>
	answer.headers
		.getSetCookie()
		.find((one) => one.startsWith(`${name}=`))
		?.split(";")[0] ?? "";
/** Goes out to the provider and comes back; gives what a browser is answered then. */
async function through(login: string, walker = new Walker(), bent: (back: string) => string = (back) => back): Promise<Response> {
	const out = await get("/sign-in/provider?to=/deals?deal=d1");
	const location = out.headers.get("location") ?? "";
	if (location.startsWith("/")) return out;
	const back = bent(await walker.go(location, login, home));
	return get(back.slice(home.length), cookieIn(out, "porch_lamp_door"));
}
const tokenIn = (answer: Response) => decodeURIComponent(cookieIn(answer, "porch_lamp_session").split("=")[1] ?? "");
const who = async (answer: Response) => (await sessionContext(tokenIn(answer)))?.actor.person;
const openSessions = async () => (await connection().db.select().from(sessions)).length;

describe("who comes by the company’s sign-in", () => {
	test("is let in as who they are here, with the role and team of their group, and goes where they wanted to", async () => {
		await set();
		const answer = await through("rae");
		expect([answer.status, answer.headers.get("location")]).toEqual([302, "/deals?deal=d1"]);
		expect(await who(answer)).toMatchObject({ id: "rep1", role: "rep", team: "North" });
		expect(answer.headers.getSetCookie()[0]).toMatch(/HttpOnly; SameSite=Lax/);
		// Again, by their subject now: also under another address and name.
		provider.people.set("rae", { name: "Rae Newly", email: "other@firm.example", groups: ["Sales North"] });
		expect(await who(await through("rae"))).toMatchObject({ id: "rep1" });
	});
	test("is made when they come the first time, and moved when their groups change", async () => {
		await set();
		const made = await who(await through("new"));
		expect(made).toMatchObject({ name: "Nova Lind", email: "nova@firm.example", role: "rep", team: "North" });
		provider.people.set("new", { name: "Nova Lind", email: "nova@firm.example", groups: ["Operations"] });
		expect(await who(await through("new"))).toMatchObject({ id: made?.id, role: "ops", team: "Firm" });
		const told = await connection()
			.db.select()
			.from(audit)
			.where(eq(audit.subject, made?.id ?? ""));
		// In the name of who set it up: people whom a demo company’s ops let in are the demo’s.
		expect(told.find(({ action }) => action === "person created")?.personId).toBe("ops");
		expect(told.map(({ action }) => action)).toEqual(expect.arrayContaining(["person created", "person changed", "signed in"]));
	});
	test("stays as they are where no groups are set, and isn’t let in where nobody here is meant", async () => {
		await set({ groups: [] });
		expect(await who(await through("oda"))).toMatchObject({ id: "ops", role: "ops" });
		expect((await through("new")).headers.get("location")).toBe("/sign-in?why=unknown");
	});
	test("is turned away with the reason: no group, left, an address that isn’t shown to be theirs, nobody there", async () => {
		await set();
		const why = async (login: string) => (await through(login)).headers.get("location");
		expect(await why("none")).toBe("/sign-in?why=unmapped");
		expect(await why("gil")).toBe("/sign-in?why=left");
		await set({ groups: [] });
		expect(await why("false")).toBe("/sign-in?why=unknown");
		provider.people.delete("rae");
		await expect(through("rae")).rejects.toThrow(/stops at/);
		expect(await openSessions()).toBe(0);
	});
	test("doesn’t get what was another’s by an address that was given on", async () => {
		await set();
		await through("rae");
		provider.people.set("heir", { name: "Heir", email: "rae@firm.example", groups: [] });
		await set({ groups: [] });
		expect((await through("heir")).headers.get("location")).toBe("/sign-in?why=unknown");
	});
	test("the last of ops stays so, whatever the groups say", async () => {
		await set({ groups: GROUPS.slice(1) });
		expect((await through("oda")).status).toBe(422);
		expect((await as("ops")).actor.person.role).toBe("ops");
	});
});

describe("the way back", () => {
	const turned = async (bent: (back: string) => string) => (await through("rae", new Walker(), bent)).headers.get("location");
	test("isn’t taken with another’s state, a code of one’s own, an error, or another browser’s door", async () => {
		await set();
		expect(await turned((back) => back.replace(/state=[^&]+/, "state=mine"))).toBe("/sign-in?why=refused");
		expect(await turned((back) => back.replace(/code=[^&]+/, "code=mine"))).toBe("/sign-in?why=refused");
		expect(await turned((back) => back.replace(/code=[^&]+/, "error=access_denied"))).toBe("/sign-in?why=refused");
		expect(await turned((back) => back.replace(/iss=[^&]+/, "iss=http%3A%2F%2Fevil.example"))).toBe("/sign-in?why=refused");
		const out = await get("/sign-in/provider");
		const back = await new Walker().go(out.headers.get("location") ?? "", "rae", home);
		expect((await get(back.slice(home.length))).headers.get("location")).toBe("/sign-in?why=late");
		expect((await get(back.slice(home.length), "porch_lamp_door=bm9uc2Vuc2U%3D")).headers.get("location")).toBe("/sign-in?why=late");
		expect((await get(back.slice(home.length), "porch_lamp_door=%")).headers.get("location")).toBe("/sign-in?why=late");
		const sealed = encodeURIComponent(seal("something else of ours"));
		expect((await get(back.slice(home.length), `porch_lamp_door=${sealed}`)).headers.get("location")).toBe("/sign-in?why=late");
		expect(await openSessions()).toBe(0);
	});
	test("leads into the program alone, and each code opens once", async () => {
		await set();
		const out = await get("/sign-in/provider?to=https://evil.example/");
		const back = (await new Walker().go(out.headers.get("location") ?? "", "rae", home)).slice(home.length);
		const door = cookieIn(out, "porch_lamp_door");
		expect((await get(back, door)).headers.get("location")).toBe("/");
		expect((await get(back, door)).headers.get("location")).toBe("/sign-in?why=refused");
		expect(out.headers.get("location")).toMatch(/code_challenge_method=S256/);
		expect(out.headers.get("location")).toMatch(/nonce=/);
	});
	test("of a provider that is down is told; who is signed in stays so", async () => {
		await set();
		const answer = await through("rae");
		await provider.stop();
		// What it says of itself is known for an hour; another issuer would have to be asked.
		await connection().db.update(signInProvider).set({ issuer: "http://127.0.0.1:1" });
		expect((await get("/sign-in/provider")).headers.get("location")).toBe("/sign-in?why=down");
		expect(await who(answer)).toMatchObject({ id: "rep1" });
		provider = await startStandIn(home, new Map(KNOWN));
	});
	test("isn’t there where it is switched off", async () => {
		await set({ on: false });
		expect((await get("/sign-in/provider")).headers.get("location")).toBe("/sign-in?why=off");
	});
});

describe("signing out", () => {
	test("is done at both ends: here with a way there, and there with word to here", async () => {
		await set();
		const walker = new Walker();
		const answer = await through("rae", walker);
		const other = await through("oda");
		const idToken = await signOut(tokenIn(answer));
		const away = new URL((await leaveBoth(idToken ?? "")) ?? "");
		expect([away.origin, away.searchParams.get("post_logout_redirect_uri"), away.searchParams.get("id_token_hint")]).toEqual([
			provider.issuer,
			`${home}/sign-in`,
			idToken,
		]);
		expect(await who(answer)).toBeUndefined();
		// Ended there, what is open here for the same person ends; others' sessions stay.
		const again = await through("rae", walker);
		expect(await who(again)).toBeDefined();
		expect(await walker.go(away.href, "rae", home)).toBe(`${home}/sign-in`);
		await vi.waitFor(async () => expect(await who(again)).toBeUndefined(), 5000);
		expect(await who(other)).toMatchObject({ id: "ops" });
	});
	test("word of it counts where the two clocks differ by two minutes at most", async () => {
		await set();
		const answer = await through("rae");
		const [jwk] = keystore.keys as JWK[];
		const key = await importJWK(jwk as JWK, "RS256");
		const tell = (issued: number, expires: number) => {
			const now = Math.floor(Date.now() / 1000);
			return new SignJWT({ events: { "http://schemas.openid.net/event/backchannel-logout": {} }, sub: "rae" })
				.setProtectedHeader({ alg: "RS256", kid: jwk?.kid ?? "", typ: "logout+jwt" })
				.setIssuer(provider.issuer)
				.setAudience(provider.clientId)
				.setIssuedAt(now + issued)
				.setExpirationTime(now + expires)
				.sign(key)
				.then(endByProvider)
				.catch((error: Error) => error.message);
		};
		// In seconds from now: made after it, over before it, and long ago.
		for (const [issued, expires] of [
			[135, 300],
			[-300, -135],
			[-800, 300],
		] as const)
			expect(await tell(issued, expires)).toContain("isn’t a logout token of the company’s sign-in");
		expect(await who(answer)).toBeDefined();
		expect(await tell(105, 300)).toBe(1);
		await through("rae");
		expect(await tell(-300, -105)).toBe(1);
	});
	test("a logout token that isn’t the provider’s ends nothing", async () => {
		await set();
		const answer = await through("rae");
		const idToken = (await connection().db.select({ idToken: sessions.idToken }).from(sessions))[0]?.idToken;
		for (const token of ["", "a.b.c", "eyJhbGciOiJub25lIn0.eyJzdWIiOiJyYWUifQ.", String(idToken)]) {
			const body = new URLSearchParams({ logout_token: token });
			const told = (await routeAnswer(
				"POST",
				"/sign-in/provider/ended",
				() => new Request(`${home}/sign-in/provider/ended`, { method: "POST", body }),
			)) as Response;
			expect(told.status, token).toBe(400);
		}
		expect(await who(answer)).toBeDefined();
		expect(idToken).not.toMatch(/^eyJ/);
	});
});

describe("setting it up", () => {
	const origin = { source: "here", agent: "test" };
	const enter = (email: string, password = PASSWORD) => signIn({ email, password }, origin);
	test("passwords are turned off once ops came by it, but for the emergency person; all who fail are told the same", async () => {
		expect(await faultOf(() => set({ passwords: false }))).toMatchObject({ status: 422, title: "Choose the emergency person" });
		expect(await faultOf(() => set({ passwords: false, emergencyId: "rep1" }))).toMatchObject({ title: "Choose the emergency person" });
		expect(await faultOf(() => set({ passwords: false, emergencyId: "ops" }))).toMatchObject({ title: "Try it first" });
		await set();
		await through("oda");
		await set({ passwords: false, emergencyId: "ops" });
		const told = await Promise.all([
			faultOf(() => enter("rae@firm.example")),
			faultOf(() => enter("ops@firm.example", "wrong")),
			faultOf(() => enter("nobody@firm.example")),
		]);
		expect(new Set(told.map((fault) => fault?.detail)).size).toBe(1);
		expect((await enter("ops@firm.example")).token).toBeTruthy();
		await set({ on: false, passwords: false, emergencyId: "ops" });
		expect((await enter("rae@firm.example")).token).toBeTruthy();
	});
	test("is for ops, not for their keys; its secret is sealed and never shown", async () => {
		await set();
		expect(JSON.stringify(await readProvider(await as("ops")))).not.toContain(provider.clientSecret);
		const [row] = await connection().db.select().from(signInProvider);
		expect(row?.clientSecret).not.toContain(provider.clientSecret);
		// What is left out stays.
		await set({ clientSecret: undefined, name: "Account" });
		expect((await connection().db.select().from(signInProvider))[0]).toMatchObject({ name: "Account", clientSecret: row?.clientSecret });
		for (const person of ["rep1", "boss", "view"]) expect(await faultOf(async () => readProvider(await as(person)))).toMatchObject({ status: 403 });
		const context = await as("ops");
		const key = { ...context, actor: { ...context.actor, key: { id: "k", write: true, areas: [] } } };
		expect(
			await faultOf(() =>
				saveProvider(key, { on: true, name: "x", issuer: "https://id.example", clientId: "c", claim: "g", groups: [], passwords: true, emergencyId: null }),
			),
		).toMatchObject({
			status: 403,
		});
	});
	test("what can’t be is refused in words; another issuer forgets who was who", async () => {
		delete process.env.PORCH_LAMP_HOOKS_INSIDE;
		expect(await faultOf(() => set())).toMatchObject({ status: 422, title: "Inside our own network" });
		expect(await faultOf(() => set({ issuer: "http://id.firm.example" }))).toMatchObject({ status: 422, title: "Not over HTTPS" });
		expect(await faultOf(() => set({ issuer: "https://id.firm.example", groups: [{ group: "a", role: "rep", team: "Moon" }] }))).toMatchObject({
			title: "No such team",
		});
		process.env.PORCH_LAMP_HOOKS_INSIDE = "on";
		await set();
		await through("rae");
		await set({ issuer: "https://id.firm.example" });
		expect((await connection().db.select().from(people).where(eq(people.id, "rep1")))[0]?.subject).toBeNull();
	});
});
