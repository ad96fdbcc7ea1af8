import { eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { apiKeys, people, signInProvider } from "@/data/schema";
import { storeKey } from "@/features/people/server/keys";
import { saveProvider } from "@/features/people/server/provider/settings";
import { small } from "../kit/bundle";
import { as, freshDatabase, givePasswords, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
let token = "";
beforeAll(async () => {
	database = await freshDatabase("scim");
});
beforeEach(async () => {
	await refill(small());
	await givePasswords();
	({ token } = await storeKey(connection().db, "ops", "directory", { write: true, areas: ["people"], expiresAt: null }));
});
afterAll(() => database.drop());

const HOME = "http://127.0.0.1:3000/scim/v2";
// biome-ignore lint/suspicious/noExplicitAny: what SCIM answers is read as it comes
type Json = any;
async function call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<{ status: number; etag: string; json: Json }> {
	const request = new Request(`${HOME}/${path}`, {
		method,
		headers: { authorization: `Bearer ${token}`, "content-type": "application/scim+json", ...headers },
		...(body === undefined ? {} : { body: JSON.stringify(body) }),
	});
	const answer = (await routeAnswer(method, `/scim/v2/${path}`, () => request)) as Response;
	const text = await answer.text();
	return { status: answer.status, etag: answer.headers.get("etag") ?? "", json: text ? JSON.parse(text) : null };
}
const USER = "urn:ietf:params:scim:schemas:core:2.0:User";
const PATCH = "urn:ietf:params:scim:api:messages:2.0:PatchOp";
/** The full user of RFC 7643, 8.2, as far as it is about who somebody is. */
const BARBARA = {
	schemas: [USER],
	externalId: "701984",
	userName: "bjensen@example.com",
	name: {
		formatted: "Ms. Barbara J Jensen, III",
		familyName: "Jensen",
		givenName: "Barbara",
		middleName: "Jane",
		honorificPrefix: "Ms.",
		honorificSuffix: "III",
	},
	displayName: "Babs Jensen",
	nickName: "Babs",
	emails: [
		{ value: "bjensen@example.com", type: "work", primary: true },
		{ value: "babs@jensen.org", type: "home" },
	],
	phoneNumbers: [{ value: "555-555-5555", type: "work" }],
	userType: "Employee",
	active: true,
};
const patch = (...Operations: unknown[]) => ({ schemas: [PATCH], Operations });
const personOf = async (id: string) => (await as(id)).actor.person;
const make = async (more: object = {}) => (await call("POST", "Users", { ...BARBARA, ...more })).json;

describe("a user of the directory", () => {
	test("is made as it is sent, with its address and version, and read again as it was answered", async () => {
		const made = await call("POST", "Users", BARBARA);
		expect(made).toMatchObject({
			status: 201,
			json: {
				schemas: [USER],
				externalId: "701984",
				userName: "bjensen@example.com",
				displayName: "Babs Jensen",
				name: { familyName: "Jensen", givenName: "Barbara" },
				emails: [{ value: "bjensen@example.com", primary: true }],
				active: true,
				groups: [],
				meta: { resourceType: "User", location: `${HOME}/Users/${made.json.id}`, version: made.etag },
			},
		});
		expect(await call("GET", `Users/${made.json.id}`)).toMatchObject({ status: 200, json: made.json });
		expect((await call("GET", `Users/${made.json.id}`, undefined, { "if-none-match": made.etag })).status).toBe(304);
		// Without a group they see nothing yet.
		expect(await personOf(made.json.id)).toMatchObject({ name: "Babs Jensen", role: "viewer", team: null });
		// The minimal one of RFC 7643, 8.1.
		expect(await call("POST", "Users", { schemas: [USER], userName: "min@example.com" })).toMatchObject({
			status: 201,
			json: { displayName: "min@example.com" },
		});
	});
	test("isn’t made twice, nor with another’s address; what can’t be is refused by its word", async () => {
		await make();
		expect(await call("POST", "Users", BARBARA)).toMatchObject({ status: 409, json: { scimType: "uniqueness", status: "409" } });
		expect(await call("POST", "Users", { ...BARBARA, userName: "BJensen@Example.com" })).toMatchObject({ status: 409 });
		expect(await call("POST", "Users", { userName: "x", emails: [{ value: "RAE@firm.example" }] })).toMatchObject({
			status: 409,
			json: { scimType: "uniqueness" },
		});
		expect(await call("POST", "Users", { displayName: "x" })).toMatchObject({ status: 400, json: { scimType: "invalidValue" } });
		expect(await call("POST", "Users", "text")).toMatchObject({ status: 400, json: { scimType: "invalidSyntax" } });
		expect(await call("GET", "Users/nobody")).toMatchObject({ status: 404, json: { schemas: ["urn:ietf:params:scim:api:messages:2.0:Error"], status: "404" } });
		expect((await call("GET", "Printers")).status).toBe(404);
	});
	test("is found by filters of RFC 7644, a part at a time, with the attributes that are asked for", async () => {
		const { id } = await make();
		const found = async (filter: string) => (await call("GET", `Users?filter=${encodeURIComponent(filter)}`)).json.Resources?.map((one: Json) => one.id);
		for (const filter of [
			'userName eq "bjensen@example.com"',
			'name.familyName co "ENS"',
			'USERNAME SW "BJ"',
			'externalId eq "701984" and active eq true',
			'emails[type eq "work" and value co "@example.com"]',
			'userName eq "bjensen@example.com" and not (active eq false)',
			"externalId pr",
		])
			expect(await found(filter), filter).toEqual([id]);
		expect(await found('userName eq "rae@firm.example"')).toEqual(["rep1"]);
		expect(await found("active eq false")).toEqual(["gone"]);
		expect(await call("GET", "Users?filter=userName%20is")).toMatchObject({ status: 400, json: { scimType: "invalidFilter" } });
		const all = (await call("GET", "Users")).json;
		const second = (await call("GET", "Users?startIndex=3&count=2")).json;
		expect([all.totalResults, second.startIndex, second.itemsPerPage]).toEqual([8, 3, 2]);
		expect(second.Resources).toEqual(all.Resources.slice(2, 4));
		expect((await call("GET", "Users?count=0")).json).toMatchObject({ totalResults: 8, Resources: [] });
		const few = (await call("GET", `Users/${id}?attributes=userName,name.givenName`)).json;
		expect(Object.keys(few).sort()).toEqual(["id", "name", "schemas", "userName"]);
		expect((await call("GET", `Users/${id}?excludedAttributes=groups,emails`)).json).not.toHaveProperty("emails");
		const searched = await call("POST", "Users/.search", { filter: 'userName eq "bjensen@example.com"' });
		expect(searched.json.Resources.map((one: Json) => one.id)).toEqual([id]);
	});
	test("is changed by patches, as directories of all kinds send them", async () => {
		const { id } = await make();
		const now = async () => (await call("GET", `Users/${id}`)).json;
		expect((await call("PATCH", `Users/${id}`, patch({ op: "replace", path: "displayName", value: "Barbara Jensen" }))).status).toBe(200);
		expect(await personOf(id)).toMatchObject({ name: "Barbara Jensen" });
		await call("PATCH", `Users/${id}`, patch({ op: "Replace", value: { "name.familyName": "Holm" } }, { op: "add", path: "nickName", value: "B" }));
		expect(await personOf(id)).toMatchObject({ name: "Barbara Holm" });
		await call("PATCH", `Users/${id}`, patch({ op: "replace", path: 'emails[type eq "work"].value', value: "barbara@example.com" }));
		expect(await now()).toMatchObject({ emails: [{ value: "barbara@example.com" }], userName: "bjensen@example.com" });
		// Of addresses the first one is kept, whatever others are added.
		await call("PATCH", `Users/${id}`, patch({ op: "replace", path: 'emails[type eq "home"].value', value: "babs@jensen.org" }));
		expect((await now()).emails).toHaveLength(1);
		expect((await call("PATCH", `Users/${id}`, patch({ op: "move", path: "x" }))).status).toBe(400);
		// Renamed whole.
		await call("PUT", `Users/${id}`, { ...BARBARA, displayName: "Barbara Rye", externalId: undefined });
		expect(await now()).toMatchObject({ displayName: "Barbara Rye" });
		expect(await now()).not.toHaveProperty("externalId");
	});
	test("that was changed since it was seen stays as it is", async () => {
		const made = await call("POST", "Users", BARBARA);
		const url = `Users/${made.json.id}`;
		const next = await call("PATCH", url, patch({ op: "replace", path: "displayName", value: "One" }), { "if-match": made.etag });
		expect([next.status, next.etag === made.etag]).toEqual([200, false]);
		for (const [method, body] of [["PATCH", patch({ op: "replace", path: "displayName", value: "Two" })], ["PUT", BARBARA], ["DELETE"]] as const)
			expect((await call(method, url, body, { "if-match": made.etag })).status, method).toBe(412);
		expect((await call("GET", url)).json.displayName).toBe("One");
	});
	test("that is ended is out at once, with all ways in; back again they come by new ones", async () => {
		const { token: reps } = await storeKey(connection().db, "rep1", "theirs");
		const ask = async () =>
			((await routeAnswer("GET", "/api/v1/deals", () => new Request("http://x/api/v1/deals", { headers: { authorization: `Bearer ${reps}` } }))) as Response)
				.status;
		expect(await ask()).toBe(200);
		expect((await call("PATCH", "Users/rep1", patch({ op: "Replace", path: "active", value: "False" }))).json.active).toBe(false);
		expect(await ask()).toBe(401);
		expect((await call("PATCH", "Users/rep1", patch({ op: "replace", value: { active: true } }))).json.active).toBe(true);
		expect(await ask()).toBe(401);
		expect(await personOf("rep1")).toMatchObject({ role: "rep", team: "North" });
	});
	test("who has yet to begin is active, and keeps the way in they were given; one with a last day to come keeps that", async () => {
		const { id } = await make();
		await connection().db.update(people).set({ activeFrom: "2026-12-15", activeTo: "2027-06-30" }).where(eq(people.id, id));
		const { token: theirs } = await storeKey(connection().db, id, "given");
		expect((await call("GET", `Users/${id}`)).json.active).toBe(true);
		await call("PUT", `Users/${id}`, { ...BARBARA, displayName: "Barbara Rye" });
		const [row] = await connection().db.select().from(people).where(eq(people.id, id));
		expect(row).toMatchObject({ name: "Barbara Rye", activeFrom: "2026-12-15", activeTo: "2027-06-30" });
		expect(await connection().db.select({ revokedAt: apiKeys.revokedAt }).from(apiKeys).where(eq(apiKeys.personId, id))).toEqual([{ revokedAt: null }]);
		expect(theirs).toBeTruthy();
	});
	test("that is taken out is told of no more, keeps what they did here, and can be made again", async () => {
		expect((await call("DELETE", "Users/rep1")).status).toBe(204);
		expect((await call("GET", "Users/rep1")).status).toBe(404);
		expect((await call("DELETE", "Users/rep1")).status).toBe(404);
		expect((await call("GET", "Users")).json.Resources.map((one: Json) => one.id)).not.toContain("rep1");
		expect((await connection().db.select().from(people).where(eq(people.id, "rep1")))[0]).toMatchObject({ name: "Rae Penn", activeTo: "2026-11-23" });
	});
	test("of ops who is the last that can sign in stays", async () => {
		for (const answer of [
			await call("DELETE", "Users/ops"),
			await call("PATCH", "Users/ops", patch({ op: "replace", path: "active", value: false })),
			await call("PUT", "Users/ops", { userName: "ops@firm.example", active: false }),
		])
			expect(answer).toMatchObject({ status: 409, json: { detail: expect.stringContaining("last person with the role ops") } });
		expect((await call("GET", "Users/ops")).json.active).toBe(true);
	});
});

describe("a group of the directory", () => {
	const set = async () =>
		saveProvider(await as("ops"), {
			on: true,
			name: "Account",
			issuer: "https://id.firm.example",
			clientId: "c",
			claim: "groups",
			groups: [
				{ group: "Sales heads", role: "manager", team: "North" },
				{ group: "Sales South", role: "rep", team: "South" },
			],
			passwords: true,
			emergencyId: null,
		});
	test("gives its members the role and team of the company sign-in’s list, and takes them back", async () => {
		await connection().db.delete(signInProvider);
		await set();
		const { id } = await make();
		const south = (await call("POST", "Groups", { displayName: "sales south", members: [{ value: id }] })).json;
		expect(south).toMatchObject({ displayName: "sales south", members: [{ value: id, display: "Babs Jensen" }] });
		expect(await personOf(id)).toMatchObject({ role: "rep", team: "South" });
		expect((await call("GET", `Users/${id}`)).json.groups).toMatchObject([{ value: south.id, display: "sales south" }]);
		const heads = (await call("POST", "Groups", { displayName: "Sales heads" })).json;
		await call("PATCH", `Groups/${heads.id}`, patch({ op: "Add", path: "members", value: [{ value: id }] }));
		// Of two the first of the list holds.
		expect(await personOf(id)).toMatchObject({ role: "manager", team: "North" });
		expect(await call("PATCH", `Groups/${heads.id}`, patch({ op: "remove", path: `members[value eq "${id}"]` }))).toMatchObject({
			status: 200,
			json: { members: [] },
		});
		expect(await personOf(id)).toMatchObject({ role: "rep", team: "South" });
		expect((await call("DELETE", `Groups/${south.id}`)).status).toBe(204);
		expect(await personOf(id)).toMatchObject({ role: "viewer", team: null });
	});
	test("isn’t made twice, takes nobody who isn’t there, and can’t end the last of ops", async () => {
		await set();
		const heads = (await call("POST", "Groups", { displayName: "Sales heads" })).json;
		expect(await call("POST", "Groups", { displayName: "SALES HEADS" })).toMatchObject({ status: 409, json: { scimType: "uniqueness" } });
		expect(await call("PATCH", `Groups/${heads.id}`, patch({ op: "add", path: "members", value: [{ value: "nobody" }] }))).toMatchObject({
			status: 400,
			json: { scimType: "invalidValue" },
		});
		expect((await call("PATCH", `Groups/${heads.id}`, patch({ op: "add", path: "members", value: [{ value: "ops" }] }))).status).toBe(409);
		expect(await personOf("ops")).toMatchObject({ role: "ops" });
		expect((await call("GET", `Groups/${heads.id}`)).json.members).toEqual([]);
	});
	test("of two hundred people comes in, and a part of them leaves", async () => {
		await set();
		const ids: string[] = [];
		for (let i = 0; i < 200; i++) ids.push((await make({ userName: `p${i}@example.com`, emails: undefined, externalId: `${i}` })).id);
		const south = (await call("POST", "Groups", { displayName: "Sales South", members: ids.map((value) => ({ value })) })).json;
		expect(south.members).toHaveLength(200);
		expect(await personOf(ids[199] ?? "")).toMatchObject({ role: "rep", team: "South" });
		for (const id of ids.slice(0, 5)) await call("PATCH", `Users/${id}`, patch({ op: "replace", path: "active", value: false }));
		expect((await call("GET", `Users?filter=${encodeURIComponent('userName sw "p" and active eq false')}`)).json.totalResults).toBe(5);
		const page = (await call("GET", "Users?startIndex=201&count=500")).json;
		expect([page.totalResults, page.itemsPerPage]).toEqual([207, 7]);
	});
});

describe("the door", () => {
	test("is for keys of ops that may write people, and says what is spoken", async () => {
		expect((await call("GET", "ServiceProviderConfig")).json).toMatchObject({
			patch: { supported: true },
			etag: { supported: true },
			filter: { maxResults: 200 },
		});
		expect((await call("GET", "ResourceTypes")).json.Resources.map((one: Json) => one.endpoint)).toEqual(["/Users", "/Groups"]);
		expect((await call("GET", `Schemas/${USER}`)).json.attributes.map((one: Json) => one.name)).toContain("userName");
		const use = async (person: string, scope: { write: boolean; areas: string[] }) => {
			({ token } = await storeKey(connection().db, person, "x", { ...scope, expiresAt: null }));
			return [(await call("GET", "Users")).status, (await call("POST", "Users", BARBARA)).status];
		};
		expect(await use("ops", { write: false, areas: [] })).toEqual([200, 403]);
		expect(await use("ops", { write: true, areas: ["deals"] })).toEqual([403, 403]);
		expect(await use("boss", { write: true, areas: [] })).toEqual([403, 403]);
		token = "lamp_nobody";
		expect((await call("GET", "Users")).status).toBe(401);
	});
});
