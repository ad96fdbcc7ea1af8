import { readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { and, eq } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { connection } from "@/data/db";
import { activities, attachments, contacts, fileContents, intakeItems, intakes } from "@/data/schema";
import { forgetUnnamed } from "@/data/store/contents";
import { listOfDeal, readFile } from "@/features/attachments/server/readAttachments";
import { cardsOf } from "@/features/intake/server/cards";
import { forgetIntakes } from "@/features/intake/server/forget";
import { previewIntake } from "@/features/intake/server/preview";
import { MOST_INTAKE, spool } from "@/features/intake/server/spool";
import { cancelIntake, startIntake, takeIntake, undoIntake } from "@/features/intake/server/take";
import { storeKey } from "@/features/people/server/keys";
import { readSheet } from "@/features/sheet/server/readSheet";
import { endThreads } from "@/platform/threads";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const COMPANY = small({
	"contacts.csv": [
		"id,account_id,name,title,email,buying_role,reports_to_id",
		"c1,a1,Ada Loaf,Owner,ada@millrace.example,decision_maker,",
		"c2,a1,Ben Rye,,ben@millrace.example,user,",
	],
	"deal_contacts.csv": ["deal_id,contact_id", "d1,c1"],
});
beforeAll(async () => {
	database = await freshDatabase("intake");
});
beforeEach(() => refill(COMPANY));
afterAll(async () => {
	await endThreads();
	await database.drop();
});

const TODAY = day("2026-11-24");
const DEAL = { dealId: "d1", accountId: null };
const mail = (id: string, change: Record<string, string> = {}) => {
	const head = {
		From: "Ada Loaf <ada@millrace.example>",
		To: "rae@firm.example",
		Date: "Thu, 12 Nov 2026 10:00:00 +0100",
		Subject: "When?",
		"Message-ID": `<${id}@x>`,
		...change,
	};
	return `${Object.entries(head)
		.map(([name, value]) => `${name}: ${value}`)
		.join("\r\n")}\r\n\r\nWhen can you start?\r\n`;
};
const mbox = (...mails: string[]) => mails.map((one) => `From a@x Thu Nov 12 10:00:00 2026\n${one.replaceAll("\r\n", "\n")}\n`).join("");
const body = (text: string) => new Request("http://x/", { method: "POST", body: text });
/** Hands a file in and waits until it is read. */
async function handed(who: string, text: string, place: { dealId: string | null; accountId: string | null } = DEAL, name = "x.eml") {
	const { id, end } = await startIntake(await as(who), place, name, await spool(body(text)));
	await end;
	return id;
}
const preview = async (who: string, id: string, adding: string[] = []) => previewIntake(await as(who), { id, adding });
const logged = () => connection().db.select().from(activities).orderBy(activities.at, activities.id);

describe("a message", () => {
	test("is shown first, then logged with who wrote it, when it was written; undone it is gone", async () => {
		const id = await handed("rep1", mail("one"));
		const shown = await preview("rep1", id);
		expect(shown).toMatchObject({ state: "ready", counts: { new: 1, there: 0, left: 0 }, strangers: [], problems: [] });
		expect(shown.lines).toMatchObject([{ day: "2026-11-12", direction: "in", from: "Ada Loaf", subject: "When?", fate: "new" }]);
		expect(await logged()).toEqual([]);
		expect(await takeIntake(await as("rep1"), { id })).toEqual({ logged: 1, contacts: 0, left: 0 });
		expect(await logged()).toMatchObject([
			{
				dealId: "d1",
				accountId: "a1",
				contactIds: ["c1"],
				direction: "in",
				state: "done",
				byId: "rep1",
				kind: "email",
				subject: "When?",
				body: "When can you start?",
				messageId: "<one@x>",
				at: new Date("2026-11-12T09:00:00Z"),
			},
		]);
		const sheet = await readSheet(await as("rep1"), "d1", "", "");
		expect([sheet.waiting?.side, sheet.flags.map(({ code }) => code)]).toEqual(["they", expect.arrayContaining(["reply-owed"])]);
		expect((await faultOf(async () => takeIntake(await as("rep1"), { id }))).detail).toMatch(/has been logged already/);
		await undoIntake(await as("rep1"), { id });
		expect(await logged()).toEqual([]);
		expect((await faultOf(async () => undoIntake(await as("rep1"), { id }))).status).toBe(409);
	});
	test("that is handed in again, by somebody else or in an archive, is logged once", async () => {
		const ids = [await handed("rep1", mail("one")), await handed("north", mail("one")), await handed("north", mbox(mail("one"), mail("two"), mail("two")))];
		for (const [i, id] of ids.entries()) await takeIntake(await as(i ? "north" : "rep1"), { id });
		expect((await logged()).map(({ messageId }) => messageId).sort()).toEqual(["<one@x>", "<two@x>"]);
		const again = await preview("north", await handed("north", mbox(mail("one"), mail("two"))));
		expect([again.counts?.there, again.lines.map(({ why }) => why)]).toEqual([2, ["is logged already", "is logged already"]]);
	});
	test("two people who take the same one in at once log it once", async () => {
		const [a, b] = [await handed("rep1", mail("one")), await handed("north", mail("one"))];
		await Promise.allSettled([takeIntake(await as("rep1"), { id: a }), takeIntake(await as("north"), { id: b })]);
		expect(await logged()).toHaveLength(1);
	});
	test("of a colleague who has left, or by nobody of ours, dated wrongly, sent by itself, or none at all", async () => {
		const fate = async (text: string) => {
			const { lines, problems } = await preview("rep1", await handed("rep1", text));
			return lines[0]?.why ?? lines[0]?.direction ?? problems[0];
		};
		expect(await fate(mail("a", { From: "gil@firm.example", To: "ada@millrace.example" }))).toBe("out");
		expect(await fate(mail("b", { To: "x@other.example" }))).toBe("was neither written by one of us nor to one of us");
		expect(await fate(mail("c", { Date: "Thu, 12 Nov 2037 10:00:00 +0100" }))).toBe("is dated after today");
		expect(await fate(mail("d", { Date: "some day" }))).toBe("has no date that can be right");
		expect(await fate(mail("e", { "Auto-Submitted": "auto-replied" }))).toBe("was sent automatically");
		expect(await fate("no message at all")).toMatch(/can’t be read as a message/);
		expect(await fate(mail("f", { Subject: "\u0000nul", From: "Ada <ADA@millrace.example>" }))).toBe("in");
	});
	test("makes contacts of strangers who are chosen, who take part in it; undoing takes those back too", async () => {
		const text = mail("one", { From: "Cy Bun <cy@millrace.example>" });
		const id = await handed("rep1", mbox(text, mail("two")));
		expect((await preview("rep1", id)).counts).toMatchObject({ new: 1, left: 1 });
		const adding = ["cy@millrace.example"];
		expect(await preview("rep1", id, adding)).toMatchObject({
			counts: { new: 2, left: 0 },
			strangers: [{ address: "cy@millrace.example", name: "Cy Bun", times: 1 }],
		});
		expect(await takeIntake(await as("rep1"), { id, adding, without: [1] })).toEqual({ logged: 1, contacts: 1, left: 1 });
		const [cy] = await connection().db.select().from(contacts).where(eq(contacts.email, "cy@millrace.example"));
		expect(cy).toMatchObject({ name: "Cy Bun", accountId: "a1" });
		expect((await logged())[0]?.contactIds).toEqual([cy?.id]);
		await undoIntake(await as("rep1"), { id });
		expect(await connection().db.select().from(contacts).where(eq(contacts.email, "cy@millrace.example"))).toEqual([]);
	});
	test("adding people who aren’t in the file, or are known, adds nobody", async () => {
		const id = await handed("rep1", mail("one"));
		expect(await takeIntake(await as("rep1"), { id, adding: ["nobody@else.example", "ada@millrace.example", "rae@firm.example"] })).toMatchObject({
			contacts: 0,
		});
	});
});

describe("who may", () => {
	test("those who reach the deal, for a file of their own", async () => {
		const id = await handed("rep1", mail("one"));
		for (const work of [() => preview("north", id), async () => takeIntake(await as("north"), { id }), async () => cancelIntake(await as("north"), { id })])
			expect((await faultOf(work)).status).toBe(404);
		expect((await faultOf(() => handed("rep2", mail("one")))).status).toBe(404);
		expect((await faultOf(() => handed("view", mail("one")))).status).toBe(403);
		expect(readdirSync(tmpdir()).filter((name) => name.startsWith("porch-lamp-intake-"))).toEqual([]);
	});
	test("one who no longer reaches it takes nothing in", async () => {
		const id = await handed("rep1", mail("one"), { dealId: null, accountId: "a1" });
		await connection().db.execute("update accounts set owner_id = 'rep2'");
		await connection().db.execute("update deal_versions set owner_id = 'rep2'");
		await connection().db.execute("update revision set number = number + 1");
		await connection().db.execute("insert into change_log (revision) select number from revision");
		expect((await faultOf(async () => takeIntake(await as("rep1"), { id }))).status).toBe(404);
		expect(await logged()).toEqual([]);
	});
});

describe("a file", () => {
	test("of meetings plans what is to come and logs what was; once", async () => {
		const event = (uid: string, at: string, more = "") =>
			`BEGIN:VEVENT\nUID:${uid}\nSUMMARY:Trial ${uid}\nDTSTART:${at}\nORGANIZER:mailto:rae@firm.example\nATTENDEE:mailto:ben@millrace.example\n${more}END:VEVENT\n`;
		const text = `BEGIN:VCALENDAR\nVERSION:2.0\n${event("was", "20261110T090000Z")}${event("comes", "20261127T090000Z")}${event("off", "20261128T090000Z", "STATUS:CANCELLED\n")}END:VCALENDAR\n`;
		const id = await handed("rep1", text, DEAL, "x.ics");
		expect(await takeIntake(await as("rep1"), { id })).toMatchObject({ logged: 2, left: 1 });
		expect((await logged()).map(({ kind, state, direction, contactIds, subject }) => [kind, state, direction, contactIds, subject])).toEqual([
			["meeting", "done", "both", ["c2"], "Trial was"],
			["meeting", "planned", "both", ["c2"], "Trial comes"],
		]);
		expect((await preview("rep1", await handed("rep1", text, DEAL, "x.ics"))).counts).toMatchObject({ new: 0, there: 2 });
	});
	test("of cards makes contacts of people who aren’t known, and fills in a title", async () => {
		const card = (name: string, email: string, title = "") =>
			`BEGIN:VCARD\nVERSION:4.0\nFN:${name}\nEMAIL:${email}\n${title ? `TITLE:${title}\n` : ""}END:VCARD\n`;
		const text =
			card("Ben Rye", "Ben@millrace.example", "Baker") +
			card("Dot Crumb", "dot@millrace.example", "Buyer") +
			card("Dot Crumb", "dot@millrace.example") +
			card("Ada Loaf", "ada@millrace.example", "Boss");
		const id = await handed("rep1", text, { dealId: null, accountId: "a1" }, "x.vcf");
		expect((await preview("rep1", id)).cards.map(({ name, fate }) => [name, fate])).toEqual([
			["Ben Rye", "is here already, and gets the title Baker"],
			["Dot Crumb", null],
			["Dot Crumb", "is in the file twice"],
			["Ada Loaf", "is here already"],
		]);
		expect(await takeIntake(await as("rep1"), { id })).toMatchObject({ contacts: 1 });
		expect((await cardsOf(await as("rep1"), "a1", undefined)).map(({ name, title, email, company }) => [name, title, email, company])).toEqual([
			["Ada Loaf", "Owner", "ada@millrace.example", "Millrace Bread"],
			["Ben Rye", "Baker", "ben@millrace.example", "Millrace Bread"],
			["Dot Crumb", "Buyer", "dot@millrace.example", "Millrace Bread"],
		]);
	});
	test("of many messages is read on its way, cancelled in the midst it leaves nothing", async () => {
		const many = mbox(...Array.from({ length: 1200 }, (_, i) => mail(`m${i}`, { Subject: `Message ${i}` })));
		const { id, end } = await startIntake(await as("rep1"), DEAL, "all.mbox", await spool(body(many)));
		let seen = await preview("rep1", id);
		while (seen.state === "reading" && seen.done === 0) {
			await new Promise((resolve) => setTimeout(resolve, 5));
			seen = await preview("rep1", id);
		}
		await cancelIntake(await as("rep1"), { id });
		await end;
		expect(await connection().db.select().from(intakeItems)).toEqual([]);
		expect(await logged()).toEqual([]);
		const whole = await handed("rep1", many, DEAL, "all.mbox");
		expect((await preview("rep1", whole)).counts).toMatchObject({ new: 1200 });
		expect((await preview("rep1", whole)).lines).toHaveLength(200);
		expect(await takeIntake(await as("rep1"), { id: whole })).toMatchObject({ logged: 1200 });
	});
	test("whose lines never end, or that is broken off, is told and gathers nothing", async () => {
		const id = await handed("rep1", `${mbox(mail("one"))}From a@x Thu Nov 12 10:00:00 2026\n${"x".repeat(3 * 2 ** 20)}`);
		const { problems } = await preview("rep1", id);
		expect(problems.join()).toMatch(/longer than a million signs/);
		const broken = new ReadableStream({
			start(controller) {
				controller.enqueue(new TextEncoder().encode(mail("one")));
				controller.error(new Error("gone"));
			},
		});
		await expect(spool(new Request("http://x/", { method: "POST", body: broken, duplex: "half" } as RequestInit))).rejects.toThrow();
		expect((await faultOf(() => spool(body("")))).status).toBe(422);
		expect(
			(await faultOf(() => spool(new Request("http://x/", { method: "POST", body: "x", headers: { "content-length": String(MOST_INTAKE + 1) } })))).status,
		).toBe(413);
		expect(readdirSync(tmpdir()).filter((name) => name.startsWith("porch-lamp-intake-"))).toEqual([]);
	});
	test("is forgotten a week later, what was logged of it stays", async () => {
		const id = await handed("rep1", mail("one"));
		await takeIntake(await as("rep1"), { id });
		expect(await forgetIntakes.run()).toEqual([]);
		await connection()
			.db.update(intakes)
			.set({ really: new Date(Date.now() - 8 * 86_400_000) })
			.where(and(eq(intakes.id, id)));
		expect(await forgetIntakes.run()).toEqual(["1 files of messages"]);
		expect(await logged()).toHaveLength(1);
		expect((await faultOf(() => preview("rep1", id))).detail).toMatch(/isn’t here any more/);
	});
});

test("the API hands in, shows, logs and takes back", async () => {
	const { token } = await storeKey(connection().db, "rep1", "test");
	const call = async (method: string, path: string, content?: string) => {
		const request = new Request(`http://127.0.0.1/api/v1/${path}`, {
			method,
			headers: {
				authorization: `Bearer ${token}`,
				...(path.includes("/intake") ? {} : {}),
				"content-type": method === "POST" && path.includes("intakes/") ? "application/json" : "application/octet-stream",
			},
			...(content ? { body: content } : {}),
		});
		return (await routeAnswer(method, `/api/v1/${path}`, () => request)) as Response;
	};
	const started = await call("POST", "intakes?deal=d1&name=x.eml", mail("one"));
	const { id } = await started.json();
	let found = await (await call("GET", `intakes/${id}`)).json();
	for (let i = 0; i < 200 && found.state === "reading"; i++) {
		await new Promise((resolve) => setTimeout(resolve, 20));
		found = await (await call("GET", `intakes/${id}`)).json();
	}
	expect([started.status, found.counts.new]).toEqual([202, 1]);
	expect(await (await call("POST", `intakes/${id}`, "{}")).json()).toEqual({ logged: 1, contacts: 0, left: 0 });
	expect((await call("DELETE", `intakes/${id}`)).status).toBe(204);
	const cards = await call("GET", "accounts/a1/contacts.vcf?contact=c1");
	expect([cards.headers.get("content-type"), await cards.text()]).toEqual(["text/vcard; charset=utf-8", expect.stringMatching(/FN:Ada Loaf\r\n/)]);
	expect((await call("POST", "intakes", mail("one"))).status).toBe(400);
});

describe("files attached to a message", () => {
	const part = (type: string, disposition: string, content: string) =>
		`--mix\r\nContent-Type: ${type}\r\nContent-Disposition: ${disposition}\r\nContent-Transfer-Encoding: base64\r\n\r\n${Buffer.from(content).toString("base64")}\r\n`;
	const withFiles = (id: string, change: Record<string, string> = {}) => {
		const [head] = mail(id, { "MIME-Version": "1.0", "Content-Type": "multipart/mixed; boundary=mix", ...change }).split("\r\n\r\n");
		return `${head}\r\n\r\n--mix\r\nContent-Type: text/plain\r\n\r\nHere they are.\r\n${part('application/pdf; name="x"', 'attachment; filename="../Hall plan.exe"', "%PDF-1.7 plan")}${part("image/png", 'inline; filename="logo.png"', "a picture within the text")}${part("text/html", 'attachment; filename="page.html"', "<script>alert(1)</script>")}--mix--\r\n`;
	};
	test("are shown, kept with the activity by what they hold, and go with it when it is undone", async () => {
		const id = await handed("rep1", withFiles("files"));
		expect((await preview("rep1", id)).lines).toMatchObject([{ files: ["Hall plan.exe", "page.html"], fate: "new" }]);
		expect(await listOfDeal(await as("rep1"), "d1", TODAY)).toEqual([]);
		await takeIntake(await as("rep1"), { id });
		const [activity] = await logged();
		const files = await listOfDeal(await as("rep1"), "d1", TODAY);
		expect(files.map(({ name, type, activityId, accountId }) => [name, type, activityId, accountId]).sort()).toEqual([
			["Hall plan.exe", "application/pdf", activity?.id, null],
			["page.html", "text/plain", activity?.id, null],
		]);
		const plan = files.find(({ name }) => name.startsWith("Hall"));
		expect(Buffer.from((await readFile(await as("rep1"), plan?.id ?? "", TODAY)).bytes).toString()).toBe("%PDF-1.7 plan");
		await undoIntake(await as("rep1"), { id });
		expect([await listOfDeal(await as("rep1"), "d1", TODAY), await connection().db.select().from(attachments)]).toEqual([[], []]);
	});
	test("of a message that isn’t logged are kept with nothing, and forgotten after a week", async () => {
		const id = await handed("rep1", withFiles("left", { From: "Nobody <nobody@else.example>", To: "none@else.example" }));
		await cancelIntake(await as("rep1"), { id });
		expect(await connection().db.select().from(attachments)).toEqual([]);
		const { db } = connection();
		expect(await forgetUnnamed(db, Date.now() + 8 * 86_400_000)).toBeGreaterThan(0);
		expect(await db.select().from(fileContents)).toEqual([]);
	});
});
