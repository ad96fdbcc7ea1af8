import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { BLOCK_SIZE } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import { connection } from "@/data/db";
import { loadOrganisation } from "@/data/organisation/load";
import { changeAccount } from "@/features/accounts/server/editAccounts";
import { logAtAccount } from "@/features/accounts/server/writeAtAccount";
import { editDeals } from "@/features/deals/server/editDeals";
import type { Change } from "@/features/deals/server/planEdit";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { answerQuestion } from "@/features/evidence/server/answerQuestion";
import { takeOutBundle } from "@/features/import/server/takeOutBundle";
import { handOver } from "@/features/people/server/handOver/write";
import { saveFlags } from "@/features/setup/server/flagSettings";
import { addPerson } from "@/features/sheet/server/dealPeople";
import { sendQuote } from "@/features/sheet/server/dealQuotes";
import { logActivity } from "@/features/sheet/server/logActivity";
import { readDeal } from "@/features/sheet/server/readDeal";
import { writeNote } from "@/features/sheet/server/writeNote";
import { changeTask } from "@/features/tasks/server/changeTask";
import { giveTasks } from "@/features/tasks/server/giveTasks";
import { Fault } from "@/platform/fault";
import { more, small } from "../kit/bundle";
import { as, freshDatabase, importAs, refill } from "../kit/database";
import { inspected } from "../kit/inspection";
import { random } from "../kit/random";
import { everythingSaid } from "../kit/said";

// Whatever is written: what a process carried on from write to write is what it would say had it read all of it anew.
// CARRIED_WRITES takes more of them, refused ones not counted; after every hundredth part all is compared.
const WRITES = Number(process.env.CARRIED_WRITES ?? 60);
const EVERY = Math.max(6, Math.round(WRITES / 100));

/** Deals that nobody looks at, so that those of interest stand in several blocks. */
const FILL = Array.from({ length: BLOCK_SIZE - 2 }, (_, i) => `f${String(i).padStart(3, "0")}`);
const filled = () => {
	const lines = (of: (id: string, i: number) => string) => FILL.map(of);
	return inspected({
		...more("deals.csv", ...lines((id) => `${id},,Filler,Web,2026-06-02T09:00:00Z,,,`)),
		...more(
			"deal_versions.csv",
			...lines((id, i) => `${id},2026-06-02T09:00:00Z,Enquiry,${100 + i},EUR,2026-09-30,rep${1 + (i % 2)},commit,,`),
			...lines(
				(id, i) =>
					`${id},2026-0${7 + (i % 3)}-1${i % 10}T09:00:00Z,${i % 3 ? "Won" : "Lost"},${100 + i},EUR,2026-0${7 + (i % 3)}-1${i % 10},rep${1 + (i % 2)},commit,,`,
			),
		),
	});
};

let database: Awaited<ReturnType<typeof freshDatabase>>;
beforeAll(async () => {
	database = await freshDatabase("carried");
});
beforeEach(() => refill(filled()));
afterAll(() => database.drop());

type Roll = ReturnType<typeof random>;
const DAYS = ["2026-11-20", "2026-11-27", "2026-12-04", "2026-12-31", "2027-01-15"];
const CHANGES: readonly ((roll: Roll) => Change)[] = [
	(roll) => ({ amount: roll.below(5_000_000) }),
	(roll) => ({ amount: roll.below(2) ? null : 120_000 }),
	(roll) => ({ closeDate: roll.of(DAYS), reason: "because" }),
	(roll) => ({ stage: roll.of(["Enquiry", "Survey", "Terms"]) }),
	(roll) => ({ category: roll.of(["commit", "best_case", "pipeline", "left_out"]) }),
	(roll) => ({ ownerId: roll.of(["rep1", "rep2", "north"]), reason: "handed on" }),
	(roll) => ({ nextStep: `Call ${roll.below(9)}`, nextStepDate: roll.of(DAYS) }),
	(roll) => ({ stage: "Won", closedOn: roll.of(["2026-11-20", "2026-11-24"]) }),
	() => ({ stage: "Lost", outcomeReason: "Price", competitor: "Hearthmark" }),
];

/** An import brings deals that stand between others by their ids, and an account by another name. */
async function bring(roll: Roll, _: string, n: number): Promise<unknown> {
	const ids = [`d1x${n}`, `a${n}`, `d2x${n}`, `z${n}`];
	return importAs(
		small({
			"accounts.csv": ["id,name,kind,industry,territory,owner_id", `a1,Millrace Bread ${n},customer,Bakery,Coast,rep1`, "a2,Oat Inn,prospect,Hotel,Alps,rep2"],
			...more("deals.csv", ...ids.map((id, i) => `${id},a${1 + (i % 2)},Come ${n},Web,2026-11-03T09:00:00Z,,,`)),
			...more(
				"deal_versions.csv",
				...ids.map((id, i) => `${id},2026-11-0${3 + i}T09:00:00Z,Survey,${roll.below(9000)},EUR,2026-12-18,rep${1 + (i % 2)},commit,,`),
			),
		}),
	);
}

const KINDS: readonly ((roll: Roll, id: string, n: number) => Promise<unknown>)[] = [
	...CHANGES.map((change) => async (roll: Roll, id: string) => {
		const { versionId } = await readDeal(await as("boss"), id, undefined);
		await editDeals(await as("boss"), { targets: [{ id, versionId }], change: change(roll) });
	}),
	async (_, id) => undoEdit(await as("boss"), { targets: [{ id, versionId: (await readDeal(await as("boss"), id, undefined)).versionId }] }),
	async (roll, id) =>
		answerQuestion(await as("boss"), {
			dealId: id,
			questionId: "q1",
			level: roll.of(["heard", "assumed", "against"]),
			note: "so",
			shownBy: null,
			seenAt: null,
			anyway: true,
		}),
	async (roll, id) =>
		logActivity(await as("boss"), {
			dealId: id,
			kind: "call",
			direction: roll.of(["both", "in", "out"]),
			subject: "Call",
			day: roll.of(["2026-11-24", "2026-11-17"]),
		}),
	async (roll, id) => giveTasks(await as("boss"), { dealIds: [id], title: "Ask", dueOn: roll.of(DAYS.slice(1)), flags: ["no-next-step"] } as never),
	async (roll) => {
		const { rows } = await connection().pool.query("select id from tasks where state = 'open' order by id");
		await changeTask(await as("boss"), { id: roll.of(rows as { id: string }[])?.id ?? "none", state: "done", note: "Done" });
	},
	async (_, id, n) => addPerson(await as("boss"), { dealId: id, who: { name: `Sig ${n}`, title: null, role: "decision_maker" } }),
	async (_, id, n) => sendQuote(await as("boss"), { dealId: id, number: `Q-${n}`, validUntil: "2026-12-01" }),
	async (_, id) => writeNote(await as("boss"), { dealId: id, body: "Noted" }),
	async (roll, id) => handOver(await as("boss"), { from: "rep1", deals: [{ id, to: roll.of(["rep2", "north"]) }], tasks: [] }),
	async (roll) => {
		await saveFlags(await as("ops"), { flags: { stalled: { days: 5 + roll.below(30) } } } as never);
	},
	async (roll) => {
		const { version } = (await as("ops")).organisation.accounts.get("a1") ?? { version: 0 };
		const change = roll.of([
			{ territory: roll.of(["Coast", "Alps", null]) },
			{ kind: roll.of(["customer", "prospect"] as const) },
			{ ownerId: roll.of(["rep1", "rep2"]) },
		]);
		await changeAccount(await as("ops"), { id: "a1", versionId: version, change });
	},
	async (roll) => logAtAccount(await as("ops"), { accountId: "a1", kind: "call", direction: roll.of(["both", "in", "out"]), subject: "Beside the deals" }),
	bring,
	bring,
	async () => {
		const { rows } = await connection().pool.query("select id from imports where state = 'done' order by started_at desc limit 1");
		if (rows.length) await takeOutBundle(await as("ops"), { id: rows[0].id } as never);
	},
];

const FEW = 6;

/** Everything that two people are told of two days. */
async function said(fresh: boolean): Promise<Record<string, string>> {
	const all: Record<string, string> = {};
	for (const [who, seen, against] of [
		["boss", "2026-11-24", "2026-11-16"],
		["boss", "2026-11-20", "2026-11-09"],
	] as const) {
		const context = await as(who);
		const organisation = fresh ? await loadOrganisation(connection().db, context.organisation.revision) : context.organisation;
		const told = await everythingSaid({ ...context, organisation }, { seen, against, deal: "d2" });
		for (const [query, text] of Object.entries(told)) all[`${who} ${seen} ${query}`] = text;
	}
	return all;
}

test(
	`after ${WRITES} writes of every kind all is said that would be said of what was read anew`,
	async () => {
		const roll = random(20_261_130);
		const done = new Map<number, number>();
		let [written, compared] = [0, 0];
		const differ: unknown[] = [];
		for (let n = 1; written < WRITES; n++) {
			// Otherwise hardly anything is written any more.
			expect(n).toBeLessThan(30 + 3 * WRITES);
			const { organisation } = await as("boss");
			const open = surveyOn(organisation.company, (await as("boss")).now.day).deals.flatMap((seen) =>
				seen?.status === "open" ? [organisation.deals[seen.deal]?.id ?? ""] : [],
			);
			// Writes close deals; others come where few are left to be written to.
			const which = n <= KINDS.length ? n - 1 : open.length < FEW ? KINDS.indexOf(bring) : roll.below(KINDS.length);
			try {
				await KINDS[which]?.(roll, roll.of(open.length ? open : ["d2"]), n);
				done.set(which, (done.get(which) ?? 0) + 1);
				written++;
			} catch (error) {
				if (!(error instanceof Fault)) throw error;
				continue;
			}
			if (written % EVERY && written !== WRITES) continue;
			compared++;
			const [carried, fresh] = [await said(false), await said(true)];
			for (const query of Object.keys(fresh)) if (carried[query] !== fresh[query]) differ.push({ n, query, carried: carried[query], fresh: fresh[query] });
		}
		expect(differ).toEqual([]);
		expect(compared).toBeGreaterThanOrEqual(Math.floor(WRITES / EVERY));
		expect(done.size).toBeGreaterThan(KINDS.length - 4);
	},
	Math.max(240_000, 3000 * WRITES),
);
