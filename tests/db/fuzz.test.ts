import { sql } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { apiAnswer } from "@/app/server/answers";
import { connection } from "@/data/db";
import { storeKey } from "@/features/people/server/keys";
import { API_ROUTES, COMMANDS, LOOKUPS } from "@/features/registry";
import { Fault } from "@/platform/fault";
import { assertStorable } from "@/platform/input";
import { as, freshDatabase, importAs } from "../kit/database";
import { inspected } from "../kit/inspection";

// What anybody may send to the API and to the commands, ten thousand of each, the same every time: no error of the
// program's own, and nothing half written.
// Nobody may write so fast; here somebody does.
vi.mock("@/platform/rateLimit", () => ({ rateLimit: async () => undefined }));

/** The same cases each time; more of them, and others, where that is asked for. */
const RUNS = { numRuns: Number(process.env.FUZZ_RUNS ?? 600), seed: Number(process.env.FUZZ_SEED ?? 20_261_124) };
let database: Awaited<ReturnType<typeof freshDatabase>>;
let token = "";
beforeAll(async () => {
	database = await freshDatabase("fuzz");
	await importAs(inspected());
	({ token } = await storeKey(connection().db, "boss", "fuzz"));
});
afterAll(() => database.drop());

const words = fc.constantFrom(
	"d1",
	"d2",
	"q1",
	"rep1",
	"North",
	"a1",
	"2026-11-24",
	"2026-02-30",
	"9999-12-31",
	"0001-01-01",
	"Enquiry",
	"",
	" ",
	"constructor",
	"__proto__",
	"%00",
	"\u0000",
	"\ud800",
	"x".repeat(400),
	"../..",
	"' or 1=1",
	"1e400",
	"-1",
	"null",
);
const value: fc.Arbitrary<unknown> = fc.oneof(
	words,
	fc.integer(),
	fc.double(),
	fc.boolean(),
	fc.constant(null),
	fc.array(words, { maxLength: 3 }),
	fc.dictionary(words, words, { maxKeys: 2 }),
);
const NAMES = [
	"dealIds",
	"dealId",
	"id",
	"title",
	"dueOn",
	"flags",
	"assigneeId",
	"state",
	"note",
	"amount",
	"closeDate",
	"stage",
	"reason",
	"name",
	"targets",
	"change",
	"questionId",
	"level",
	"body",
	"kind",
	"direction",
	"subject",
	"day",
	"shared",
	"query",
	"ids",
];
const object = fc.dictionary(fc.oneof(fc.constantFrom(...NAMES), words), value, { maxKeys: 5 });

/** Laws of what is stored, whatever was sent. */
async function sound(): Promise<void> {
	const { rows } = await connection().db.execute(sql`
		select (select count(*) from (select deal_id from deal_versions where valid_to is null group by deal_id having count(*) <> 1) t)::int as currents,
			(select count(*) from deals d where not exists (select from deal_versions v where v.deal_id = d.id and v.valid_to is null))::int as without,
			(select count(*) from tasks t left join deals d on d.id = t.deal_id where t.deal_id is not null and d.id is null)::int as lost`);
	expect(rows[0]).toEqual({ currents: 0, without: 0, lost: 0 });
}

test("calls of the API", async () => {
	const calls = API_ROUTES.filter((call) => !call.file);
	const query = fc.dictionary(
		fc.constantFrom("as_of", "from", "to", "team", "owner", "flag", "status", "limit", "cursor", "a", "b", "state", "deal", "text", "dry_run"),
		words,
		{ maxKeys: 3 },
	);
	await fc.assert(
		fc.asyncProperty(fc.constantFrom(...calls), words, query, fc.oneof(object, value), async (call, param, asked, body) => {
			const path = call.path.replace(/\{\w+\}/g, encodeURIComponent(/[\ud800-\udfff]/.test(param) ? "x" : param)).replace(/^\//, "");
			const headers = { authorization: `Bearer ${token}`, "content-type": "application/json", "if-match": "1" };
			const method = call.method.toUpperCase();
			const search = new URLSearchParams(asked);
			const request = new Request(`http://localhost/api/v1/${path}?${search}`, {
				method,
				headers,
				...(method === "GET" ? {} : { body: JSON.stringify(body) }),
			});
			const answer = await apiAnswer(request, path.split("/"));
			expect([call.id, answer.status, answer.status < 500 ? "" : await answer.text()]).toEqual([call.id, expect.any(Number), ""]);
		}),
		RUNS,
	);
	await sound();
}, 600_000);

test("commands and lookups of the screens", async () => {
	const doings = [...COMMANDS.filter((command) => !command.server), ...LOOKUPS] as { name: string; (context: unknown, input: unknown): Promise<unknown> }[];
	const contexts = await Promise.all(["boss", "rep1", "ops"].map((who) => as(who)));
	let turn = 0;
	await fc.assert(
		fc.asyncProperty(fc.constantFrom(...doings), object, async (doing, input) => {
			try {
				// As the one server action does it.
				assertStorable(input);
				await doing(contexts[turn++ % contexts.length], input);
			} catch (error) {
				const known = error instanceof Fault || (error as { name?: string }).name === "ZodError";
				expect([doing.name, known ? "" : String(error)]).toEqual([doing.name, ""]);
			}
		}),
		RUNS,
	);
	await sound();
}, 600_000);
