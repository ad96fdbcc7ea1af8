import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { eq } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { routeAnswer } from "@/app/server/routes";
import { MOST_FILE } from "@/core/words/fileWords";
import { connection } from "@/data/db";
import { attachments, fileContents } from "@/data/schema";
import { backUpContents, restoreContents } from "@/data/store/backup";
import { forgetUnnamed, sumOf } from "@/data/store/contents";
import { mergeAccounts, unmergeAccounts } from "@/features/accounts/server/mergeAccounts";
import { logAtAccount } from "@/features/accounts/server/writeAtAccount";
import { attachFile, attachLink, removeAttachment, renameAttachment } from "@/features/attachments/server/attach";
import { listOfAccount, listOfDeal, readFile } from "@/features/attachments/server/readAttachments";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { storeKey } from "@/features/people/server/keys";
import { search } from "@/features/search/server/search";
import { readSheet } from "@/features/sheet/server/readSheet";
import { Fault } from "@/platform/fault";
import { small } from "../kit/bundle";
import { day } from "../kit/company";
import { as, freshDatabase, refill } from "../kit/database";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const TODAY = day("2026-11-24");
const COMPANY = small({
	"questions.csv": ["id,area,prompt,help,weight,due_stage_position,key", "q1,Need,What hurts?,,1,1,true"],
	"contacts.csv": ["id,account_id,name,title,email,buying_role,reports_to_id", "c1,a1,Ada Loaf,Owner,ada@millrace.example,decision_maker,"],
});
beforeAll(async () => {
	database = await freshDatabase("attachments");
});
beforeEach(() => refill(COMPANY));
afterEach(() => {
	delete process.env.PORCH_LAMP_FILES;
});
afterAll(() => database.drop());

const bytes = (text: string) => new TextEncoder().encode(text);
const PLAN = bytes("%PDF-1.7 a plan of the hall");
const add = async (who: string, place: Parameters<typeof attachFile>[1]["place"], name = "Plan.pdf", content = PLAN, on?: string) =>
	attachFile(await as(who, on), { place, name, bytes: content });
/** Why something isn’t done: the status and the words of a fault, or those of what couldn’t be parsed. */
const refusal = async (work: () => Promise<unknown>): Promise<string> => {
	try {
		await work();
		return "done";
	} catch (error) {
		return error instanceof Fault ? `${error.status} ${error.detail}` : String(error);
	}
};
const names = (list: readonly { name: string }[]) => list.map(({ name }) => name);

describe("a file of a deal", () => {
	test("is there for those who reach the deal, with what it is by its content, and for nobody else", async () => {
		const { id } = await add("rep1", { dealId: "d1" }, "../Plan.exe");
		const [one] = await listOfDeal(await as("north"), "d1", TODAY);
		expect(one).toMatchObject({ id, name: "Plan.exe", type: "application/pdf", size: PLAN.length, sha256: sumOf(PLAN), by: "Rae Penn", url: null });
		expect(Buffer.from((await readFile(await as("rep1"), id, TODAY)).bytes)).toEqual(Buffer.from(PLAN));
		expect(names(await listOfAccount(await as("rep1"), "a1", TODAY))).toEqual(["Plan.exe"]);
		const stranger = await as("rep2");
		for (const asked of [
			() => listOfDeal(stranger, "d1", TODAY),
			() => readFile(stranger, id, TODAY),
			() => removeAttachment(stranger, { id }),
			() => renameAttachment(stranger, { id, name: "Mine" }),
			() => add("rep2", { dealId: "d1" }),
			() => attachLink(stranger, { place: { accountId: "a1" }, url: "https://files.example/x" }),
		])
			expect(await refusal(asked)).toMatch(/^404/);
		expect(await refusal(() => add("view", { dealId: "d1" }))).toMatch(/^403/);
		expect(await connection().db.select().from(attachments)).toHaveLength(1);
	});
	test("may be neither empty nor larger than 20 MB; a link leads over the web", async () => {
		expect(await refusal(() => add("rep1", { dealId: "d1" }, "x", new Uint8Array()))).toMatch(/This file is empty/);
		expect(await refusal(() => add("rep1", { dealId: "d1" }, "x", new Uint8Array(MOST_FILE + 1)))).toMatch(/at most 20 MB/);
		await add("rep1", { dealId: "d1" }, "x", new Uint8Array(MOST_FILE));
		for (const url of ["javascript:alert(1)", "data:text/html,x", "file:///etc/passwd", "ftp://x.example/", "plan.pdf"])
			expect(await refusal(async () => attachLink(await as("rep1"), { place: { dealId: "d1" }, url }))).toMatch(/A link starts with https/);
		await attachLink(await as("rep1"), { place: { dealId: "d1" }, url: "https://files.example/plan" });
		expect(names(await listOfDeal(await as("rep1"), "d1", TODAY))).toEqual(["files.example/plan", "x"]);
	});
	test("is read at each day as it was there then, also after it was removed; putting back undoes it", async () => {
		const { id } = await add("rep1", { dealId: "d1" }, "Plan.pdf", PLAN, "2026-11-12");
		await removeAttachment(await as("rep1", "2026-11-20"), { id });
		const rep = await as("rep1");
		const on = async (iso: string) => names(await listOfDeal(rep, "d1", day(iso)));
		expect([await on("2026-11-11"), await on("2026-11-12"), await on("2026-11-19"), await on("2026-11-20")]).toEqual([[], ["Plan.pdf"], ["Plan.pdf"], []]);
		expect(await refusal(() => readFile(rep, id, TODAY))).toMatch(/^404/);
		expect((await readFile(rep, id, day("2026-11-15"))).name).toBe("Plan.pdf");
		expect(await refusal(() => removeAttachment(rep, { id }))).toMatch(/^409.*has been removed already/);
		await removeAttachment(rep, { id, removed: false });
		expect(await on("2026-11-24")).toEqual(["Plan.pdf"]);
		const { before } = await renameAttachment(rep, { id, name: "Hall.pdf" });
		expect([before, await on("2026-11-24")]).toEqual(["Plan.pdf", ["Hall.pdf"]]);
	});
	test("can be what shows an answer, and is said to be gone once it is", async () => {
		const { id } = await add("rep1", { dealId: "d1" });
		const rep = await as("rep1");
		const answer = (shownBy: string) => answerQuestion(rep, { dealId: "d1", questionId: "q1", level: "shown", shownBy, seenAt: null, anyway: true });
		expect(await refusal(() => answer("attachment:none"))).toMatch(/Name the source/);
		await answer(`attachment:${id}`);
		const shown = async () => (await readSheet(await as("rep1"), "d1", "", "")).qualification.questions[0]?.history[0];
		expect(await shown()).toMatchObject({ shownBy: "Plan.pdf", link: `/api/v1/files/${id}` });
		await removeAttachment(await as("rep1"), { id });
		expect(await shown()).toMatchObject({ shownBy: "Plan.pdf (removed)", link: null });
	});
	test("opens on a day on which it was there as it was then, though it was removed since", async () => {
		const { id: early } = await add("rep1", { dealId: "d1" }, "Early.pdf", PLAN, "2026-11-18");
		await answerQuestion(await as("rep1", "2026-11-18"), {
			dealId: "d1",
			questionId: "q1",
			level: "shown",
			shownBy: `attachment:${early}`,
			seenAt: null,
			anyway: true,
		});
		await removeAttachment(await as("rep1"), { id: early });
		const then = (await readSheet(await as("rep1"), "d1", "2026-11-19", "")).qualification.questions[0]?.history[0];
		expect(then).toMatchObject({ shownBy: "Early.pdf", link: `/api/v1/files/${early}?as_of=2026-11-19` });
		expect((await readFile(await as("rep1"), early, day("2026-11-19"))).name).toBe("Early.pdf");
	});
	test("is found by its name, by those who reach it", async () => {
		await add("rep1", { dealId: "d1" }, "Hall measures.pdf");
		await add("rep2", { accountId: "a2" }, "Kitchen measures.pdf");
		const found = async (who: string) =>
			(await search(await as(who), { text: "measures" })).map(({ kind, title, dealId, accountId }) => [kind, title, dealId, accountId]);
		expect(await found("rep1")).toEqual([["file", "Hall measures.pdf", "d1", null]]);
		expect(await found("rep2")).toEqual([["file", "Kitchen measures.pdf", null, "a2"]]);
	});
});

describe("a file of an activity", () => {
	test("is kept with the activity’s deal or account", async () => {
		const rep = await as("rep1");
		const { id } = await logAtAccount(rep, { accountId: "a1", kind: "call", direction: "both", subject: "The hall" });
		await add("rep1", { activityId: id });
		expect(await listOfAccount(rep, "a1", TODAY)).toMatchObject([{ activityId: id, accountId: "a1", dealId: null }]);
		expect(await refusal(() => add("rep2", { activityId: id }))).toMatch(/^404/);
	});
});

test("merging accounts takes files along, and undoing it brings them back", async () => {
	await add("rep2", { accountId: "a2" });
	const boss = await as("boss");
	const { merge } = await mergeAccounts(boss, { from: "a2", into: "a1" });
	expect(names(await listOfAccount(await as("boss"), "a1", TODAY))).toEqual(["Plan.pdf"]);
	await unmergeAccounts(await as("boss"), { merge });
	expect([await listOfAccount(await as("boss"), "a1", TODAY), names(await listOfAccount(await as("boss"), "a2", TODAY))]).toEqual([[], ["Plan.pdf"]]);
});

describe("what files hold", () => {
	const stored = async () => (await connection().db.select({ sum: fileContents.sha256 }).from(fileContents)).map(({ sum }) => sum);
	test("is stored once, and forgotten a week after nothing names it", async () => {
		await add("rep1", { dealId: "d1" });
		await add("rep2", { dealId: "d2" }, "Again.pdf");
		expect(await stored()).toEqual([sumOf(PLAN)]);
		const { db } = connection();
		const later = Date.now() + 8 * 86_400_000;
		expect(await forgetUnnamed(db, later)).toBe(0);
		await db.delete(attachments);
		expect([await forgetUnnamed(db), await forgetUnnamed(db, later), await stored()]).toEqual([0, 1, []]);
	});
	test("lies in a folder where one is set, is read from the database where it lay before, and is backed up beside", async () => {
		const folder = mkdtempSync(join(tmpdir(), "porch-lamp-files-"));
		try {
			const { id: before } = await add("rep1", { dealId: "d1" }, "Before.txt", bytes("before"));
			process.env.PORCH_LAMP_FILES = join(folder, "kept");
			const { id } = await add("rep1", { dealId: "d1" });
			const sum = sumOf(PLAN);
			expect(readFileSync(join(folder, "kept", sum.slice(0, 2), sum))).toEqual(Buffer.from(PLAN));
			const rep = await as("rep1");
			expect([(await readFile(rep, before, TODAY)).name, (await readFile(rep, id, TODAY)).bytes.length]).toEqual(["Before.txt", PLAN.length]);
			const { db } = connection();
			expect(await backUpContents(db, join(folder, "all.dump"))).toBe(1);
			expect(readdirSync(join(folder, "all.dump.files"))).toEqual([sum]);
			rmSync(join(folder, "kept"), { recursive: true });
			expect(await refusal(() => readFile(rep, id, TODAY))).toMatch(/Its content is missing|isn’t stored here/);
			await expect(backUpContents(db, join(folder, "other.dump"))).rejects.toThrow(/is missing/);
			expect(await restoreContents(db, join(folder, "all.dump"))).toBe(1);
			expect((await readFile(rep, id, TODAY)).bytes.length).toBe(PLAN.length);
			await db.delete(attachments);
			expect(await forgetUnnamed(db, Date.now() + 8 * 86_400_000)).toBe(2);
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});
});

test("a folder that can’t be written is named as what went wrong, and nothing is added", async () => {
	const folder = mkdtempSync(join(tmpdir(), "porch-lamp-files-"));
	try {
		writeFileSync(join(folder, "taken"), "a file where a folder should be");
		process.env.PORCH_LAMP_FILES = join(folder, "taken");
		expect(await refusal(() => add("rep1", { dealId: "d1" }))).toMatch(
			/^507 Nothing was added: the server can’t write to its folder for files \(ENOTDIR|EEXIST\)/,
		);
		expect(await listOfDeal(await as("rep1"), "d1", TODAY)).toEqual([]);
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
});

describe("over the API", () => {
	const call = async (who: string, method: string, path: string, body?: Uint8Array, headers: Record<string, string> = {}) => {
		const { token } = await storeKey(connection().db, who, "test");
		const request = new Request(`http://127.0.0.1/api/v1/${path}`, {
			method,
			headers: { authorization: `Bearer ${token}`, ...headers },
			...(body ? { body: new Blob([body as BlobPart]) } : {}),
		});
		return (await routeAnswer(method, `/api/v1/${path}`, () => request)) as Response;
	};
	test("bytes go in and come out to be saved, never to be shown; sent twice under one key they are one file", async () => {
		const page = bytes("<html><script>alert(1)</script></html>");
		const post = () => call("rep1", "POST", "files?deal=d1&name=%D0%9F%D0%B5%D1%87%D1%8C%22.html", page, { "idempotency-key": "once" });
		const first = await post();
		const { id } = await first.json();
		expect([first.status, (await (await post()).json()).id]).toEqual([201, id]);
		expect((await call("rep1", "POST", "files?deal=d1&name=x", PLAN, { "idempotency-key": "once" })).status).toBe(422);
		const got = await call("north", "GET", `files/${id}`);
		expect([got.status, got.headers.get("content-type"), got.headers.get("x-content-type-options")]).toEqual([200, "text/plain", "nosniff"]);
		expect(got.headers.get("content-disposition")).toMatch(/^attachment; .*filename\*=UTF-8''%D0%9F%D0%B5%D1%87%D1%8C%22\.html/);
		expect(got.headers.get("content-security-policy")).toMatch(/sandbox/);
		expect(new Uint8Array(await got.arrayBuffer())).toEqual(page);
		expect((await (await call("rep1", "GET", "files?deal=d1")).json()).items).toMatchObject([{ id, name: 'Печь".html' }]);
		expect([(await call("rep2", "GET", `files/${id}`)).status, (await call("rep1", "GET", "files")).status]).toEqual([404, 400]);
		expect([(await call("rep1", "DELETE", `files/${id}`)).status, (await call("rep1", "GET", `files/${id}`)).status]).toEqual([204, 404]);
	});
	test("too much is refused, and nothing is kept of it", async () => {
		expect((await call("rep1", "POST", "files?deal=d1&name=x", new Uint8Array(MOST_FILE + 1))).status).toBe(413);
		expect((await call("rep1", "POST", "files?deal=d1&name=x")).status).toBe(400);
		expect((await call("rep2", "POST", "files?deal=d1&name=x", PLAN)).status).toBe(404);
		expect(await connection().db.select().from(fileContents)).toEqual([]);
	});
});

test("a content that is named again isn’t forgotten with the one who named it first", async () => {
	const { id } = await add("rep1", { dealId: "d1" });
	await add("rep2", { dealId: "d2" });
	await connection().db.delete(attachments).where(eq(attachments.id, id));
	expect(await forgetUnnamed(connection().db, Date.now() + 8 * 86_400_000)).toBe(0);
});
