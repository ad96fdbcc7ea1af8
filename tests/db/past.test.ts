import { inflateRawSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { riverAnswer as riverRoute, dealRowsAnswer as rowsRoute } from "@/app/server/answers";
import { restAddress } from "@/app/server/query";
import { blockOf, endRow, firstRow } from "@/core/history/columns";
import { connection } from "@/data/db";
import { generate } from "@/fakes/emberwick/generate";
import type { ChangesView } from "@/features/changes/server/changesView";
import { readChanges } from "@/features/changes/server/readChanges";
import { readNotes } from "@/features/changes/server/readNotes";
import { packedRiver, readRiver } from "@/features/changes/server/readRiver";
import { LIGHT_WORDS, partOrder, SLICES, sliceAsked, sliceOf } from "@/features/changes/server/slices";
import { unpackRiver } from "@/features/changes/ui/river/unpack";
import { editDeals } from "@/features/deals/server/editDeals";
import { goesWithPage, packedDealsText } from "@/features/deals/server/packedDeals";
import { listedDeals, readDeals } from "@/features/deals/server/readDeals";
import { unpackDeals } from "@/features/deals/table/pack";
import { storeKey } from "@/features/people/server/keys";
import { joinParts, KNOWN_PARTS, namesOf, type Parts } from "@/formats/knownParts";
import type { Context } from "@/platform/context";
import { firstKnown } from "@/platform/firstKnown";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { day } from "../kit/company";
import { as, freshDatabase, importAs } from "../kit/database";
import { faultOf } from "../kit/fault";

let database: Awaited<ReturnType<typeof freshDatabase>>;
const tokens: Record<string, string> = {};
beforeAll(async () => {
	database = await freshDatabase("past");
	await importAs(generate({ today: day("2026-11-24"), deals: 260 }));
	for (const person of ["helena", "ines"]) tokens[person] = (await storeKey(connection().db, person, "test")).token;
});
afterAll(() => database.drop());

const ask = async (person: string, query: ViewpointQuery = {}): Promise<[Context, ReturnType<typeof resolveViewpoint>]> => {
	const context = await as(person);
	return [context, resolveViewpoint(context, query)];
};
const moved = (view: ChangesView) => view.steps.filter((step) => step.kind !== "opening" && step.kind !== "closing");

describe("fields to slice by", () => {
	test("put each deal in one part at each of its versions, and order the parts", async () => {
		const [context] = await ask("helena");
		const { history, deals } = context.organisation.company;
		for (const { key } of SLICES) {
			const part = sliceOf(context, key, context.now.day);
			const parts = new Set<string>();
			deals.forEach((_, deal) => {
				const block = blockOf(history, deal);
				for (let row = firstRow(block, deal); row < endRow(block, deal); row++) parts.add(part(deal, row));
			});
			expect([...parts].every((name) => name.length > 0)).toBe(true);
			expect(parts.size).toBeGreaterThan(1);
			const sorted = [...parts].sort(partOrder(context, key));
			expect([...parts].reverse().sort(partOrder(context, key))).toEqual(sorted);
		}
	});
	test("know lights from act to calm, and stages in their own order", async () => {
		const [context] = await ask("helena");
		const lights = Object.values(LIGHT_WORDS);
		expect([...lights].sort().sort(partOrder(context, "attention"))).toEqual(["Act", "Watch", "Calm", "Not open now"]);
		const stages = context.organisation.company.rules.stages.map((stage) => stage.name);
		expect([...stages].reverse().sort(partOrder(context, "stage"))).toEqual(stages);
		expect((await faultOf(() => sliceAsked("planet"))).detail).toMatch(/“by” is planet; it must be one of rep, stage,/);
		expect(sliceAsked(undefined)).toBe("rep");
	});
});

describe("the deals behind the bridge", () => {
	test("are the largest of all that moved, of a chosen step, or of a part", async () => {
		const [context, viewpoint] = await ask("helena", { against: "2026-10-01" });
		const whole = readChanges(context, viewpoint) as ChangesView;
		const few = readChanges(context, viewpoint, { limit: 10 }) as ChangesView;
		const all = moved(whole).flatMap((step) => step.deals.map((deal) => deal.amount));
		const shown = moved(few).flatMap((step) => step.deals.map((deal) => deal.amount));
		expect(Math.min(...shown)).toBeGreaterThanOrEqual(all.sort((a, b) => b - a)[10] ?? 0);
		expect(shown.length).toBeLessThan(all.length);
		expect(few.steps.map((step) => [step.amount, step.count])).toEqual(whole.steps.map((step) => [step.amount, step.deals.length]));
		const won = readChanges(context, viewpoint, { limit: 2, step: "won" })?.steps.find((step) => step.kind === "won");
		const every = readChanges(context, viewpoint, { limit: 2, step: "won", all: true })?.steps.find((step) => step.kind === "won");
		expect([won?.deals.length, every?.deals.length]).toEqual([Math.min(2, won?.count ?? 0), won?.count]);
		expect(readChanges(context, viewpoint, { limit: 5, step: "closing", all: true })?.steps.at(-1)?.deals).toHaveLength(whole.steps.at(-1)?.count ?? -1);
	});
	test("of the parts of a field that no deal changes add up to the whole step", async () => {
		const [context, viewpoint] = await ask("helena", { against: "2026-10-01" });
		const whole = readChanges(context, viewpoint, { by: "territory" }) as ChangesView;
		const parts = whole.parts.map(({ part }) => readChanges(context, viewpoint, { by: "territory", part }) as ChangesView);
		whole.steps.forEach((step, i) => {
			expect(parts.reduce((sum, view) => sum + (view.steps[i]?.shown.amount ?? 0), 0)).toBe(step.amount);
			expect(parts.reduce((sum, view) => sum + (view.steps[i]?.shown.count ?? 0), 0)).toBe(step.count);
		});
	});
	test("say why they moved: what was written then, and of a closed one why it was closed", async () => {
		const [context, viewpoint] = await ask("helena", { against: "2026-10-01" });
		const view = readChanges(context, viewpoint) as ChangesView;
		const notes = await readNotes(context, viewpoint, view);
		const { rows } = await connection().pool.query(
			"select deal_id, reason, valid_from from deal_versions where reason is not null and valid_from >= '2026-10-02' and valid_from < '2026-11-25' order by valid_from",
		);
		const steps = new Map(moved(view).flatMap((step) => step.deals.map((deal) => [deal.id, step.kind] as const)));
		const last = new Map(rows.map((row) => [String(row.deal_id), String(row.reason)]));
		let told = 0;
		for (const [id, kind] of steps) {
			const closed = context.organisation.deals[context.organisation.dealIndex.get(id) ?? -1]?.outcomeReason;
			const wanted = (kind === "won" || kind === "lost") && closed ? closed : last.get(id);
			if (wanted && kind !== "new") {
				told++;
				expect(notes[id]).toBe(wanted);
			}
		}
		expect(told).toBeGreaterThan(5);
		// Of another time nothing is told.
		const [earlier, then] = await ask("helena", { seen: "2026-10-01", against: "2026-09-24" });
		const other = await readNotes(earlier, then, readChanges(earlier, then) as ChangesView);
		for (const id of Object.keys(other)) expect(steps.has(id) && other[id] === notes[id] && !last.has(id)).toBe(false);
	});
});

describe("the river of a company", () => {
	test("holds the deals that were in at some time, with their names and parts", async () => {
		const [context, viewpoint] = await ask("helena");
		const view = readRiver(context, viewpoint, undefined);
		if (!view) throw new Error("no river");
		expect([view.first, view.last, view.weeks.length]).toEqual(["2026-07-01", "2026-11-24", 22]);
		expect(view.columns.offsets).toHaveLength(view.deals.length + 1);
		expect(view.columns.offsets.at(-1)).toBe(view.columns.day.length);
		for (const { parts, of } of Object.values(view.slices)) {
			expect(of).toHaveLength(view.deals.length);
			expect(new Set(of).size).toBe(parts.length);
		}
		const ids = new Set(view.deals.map((deal) => deal.id));
		for (const row of readDeals(context, viewpoint).rows) expect(ids.has(row.id)).toBe(true);
		// Five working days end each month that the span holds whole.
		const { calendar } = context.organisation.company.rules;
		expect(view.monthEnds.filter((one) => one >= day("2026-10-01") && one <= day("2026-10-31"))).toEqual([26, 27, 28, 29, 30].map((n) => day(`2026-10-${n}`)));
		expect(view.monthEnds.every((one) => calendar.isWorking(one))).toBe(true);
	});
	test("takes the span that is asked, cut to what is known", async () => {
		const [context, viewpoint] = await ask("helena", { against: "2026-11-09" });
		const span = (key: string) => readRiver(context, viewpoint, key)?.first;
		expect([span("quarter"), span("year"), span("against")]).toEqual(["2026-10-01", "2025-11-25", "2026-11-10"]);
		expect((await faultOf(() => readRiver(context, viewpoint, "century"))).detail).toMatch(/“span” is century/);
		const [early, then] = await ask("helena", { seen: "2025-07-01" });
		expect(day(readRiver(early, then, "year")?.first ?? "2000-01-01")).toBeGreaterThanOrEqual(firstKnown(early.organisation));
		expect(readRiver(...(await ask("helena", { due: "none" })), undefined)).toBeNull();
	});
	test("of a rep holds that rep’s deals alone", async () => {
		const [context, viewpoint] = await ask("ines");
		const view = readRiver(context, viewpoint, undefined);
		expect(view?.scope).toEqual([context.actor.index]);
		const { history } = context.organisation.company;
		for (const { id } of view?.deals ?? []) {
			const deal = context.organisation.dealIndex.get(id) as number;
			const block = blockOf(history, deal);
			const owners = block.owner.slice(firstRow(block, deal), endRow(block, deal));
			expect([...owners]).toContain(context.actor.index);
		}
		expect(view?.deals.length).toBeLessThan((readRiver(...(await ask("helena")), undefined)?.deals.length ?? 0) / 2);
	});
	test("comes out of its text as it went in", async () => {
		const [context, viewpoint] = await ask("helena");
		expect(unpackRiver(packedRiver(context, viewpoint, "quarter").text)).toEqual(readRiver(context, viewpoint, "quarter"));
	});
});

describe("what is kept until something changes", () => {
	test("is the very same text, for whoever sees the same deals, and another one after a write", async () => {
		const [context, viewpoint] = await ask("helena");
		const text = packedDealsText(context, viewpoint);
		expect(unpackDeals(text)).toEqual(JSON.parse(JSON.stringify(readDeals(context, viewpoint))));
		const [ops, theirs] = await ask("arno");
		expect(packedDealsText(ops, theirs)).toBe(text);
		expect(packedDealsText(...(await ask("ruth")))).not.toBe(text);
		expect(packedDealsText(...(await ask("helena", { against: "2026-10-01" })))).not.toBe(text);
		const [row] = readDeals(context, viewpoint).rows;
		await editDeals(context, { targets: [{ id: row?.id ?? "", versionId: row?.versionId ?? 0 }], change: { nextStep: "Ring them tomorrow" } });
		const after = packedDealsText(...(await ask("helena")));
		expect(after).not.toBe(text);
		expect(after).toContain("Ring them tomorrow");
	});
	test("goes along with the page while it is short", async () => {
		const [context, viewpoint] = await ask("helena");
		expect(listedDeals(context, viewpoint).length).toBeLessThanOrEqual(500);
		expect(goesWithPage(context, viewpoint)).toBe(true);
	});
});

describe("the long part of a page", () => {
	const get = (route: typeof rowsRoute, path: string, person: string | null) =>
		route(
			new Request(`http://127.0.0.1${path}`, {
				headers: person ? { authorization: `Bearer ${tokens[person]}` } : { "sec-fetch-site": "none", authorization: "Bearer nobody" },
			}),
		);
	const text = async (answer: Response) => inflateRawSync(Buffer.from(await answer.arrayBuffer())).toString();
	test("is what the page would have carried, packed", async () => {
		const answer = await get(rowsRoute, "/deals/rows?due=any", "helena");
		expect([answer.status, answer.headers.get("content-type"), answer.headers.get("cache-control")]).toEqual([
			200,
			"application/octet-stream",
			"private, no-store",
		]);
		expect(await text(answer)).toBe(packedDealsText(...(await ask("helena", { due: "any" }))));
		const river = await get(riverRoute, "/changes/river?span=quarter", "helena");
		expect(await text(river)).toBe(packedRiver(...(await ask("helena")), "quarter").text);
		expect(await text(await get(riverRoute, "/changes/river?due=none", "helena"))).toBe("null");
	});
	test("sends a browser only the parts it hasn’t got, and these make up the whole", async () => {
		const fetched = async (known: Parts) => {
			const headers = { authorization: `Bearer ${tokens.helena}`, [KNOWN_PARTS]: namesOf(known) };
			const answer = await text(await rowsRoute(new Request("http://127.0.0.1/deals/rows?due=any", { headers })));
			return { answer, joined: joinParts(answer, known) };
		};
		const first = await fetched(new Map());
		const whole = packedDealsText(...(await ask("helena", { due: "any" })));
		expect(first.joined.text).toBe(whole);
		const again = await fetched(first.joined.parts);
		expect(again.joined).toEqual(first.joined);
		expect(again.answer.split("\n")).toHaveLength(1);
		for (const name of first.joined.parts.keys()) {
			const { joined, answer } = await fetched(new Map([...first.joined.parts].filter(([one]) => one !== name)));
			expect([joined.text, answer.split("\n").length]).toEqual([whole, 2]);
		}
	});
	test("gives a rep the rep’s own, and refuses a team out of reach, a stranger and an address that can’t be read", async () => {
		const own = unpackDeals(await text(await get(rowsRoute, "/deals/rows?due=any", "ines")));
		expect(new Set(own.rows.map((row) => row.ownerId))).toEqual(new Set(["ines"]));
		expect((await get(rowsRoute, "/deals/rows?whose=team:South", "ines")).status).toBe(403);
		expect((await get(rowsRoute, "/deals/rows", null)).status).toBe(401);
		expect((await get(rowsRoute, "/deals/rows?due=soon", "helena")).status).toBe(400);
		expect((await get(riverRoute, "/changes/river?span=century", "helena")).status).toBe(400);
	});
	test("has an address of its own for each revision", () => {
		const query = { whose: undefined, due: "2026-Q4", seen: undefined, against: "week" };
		expect(restAddress("/deals/rows", query, 7)).toBe("/deals/rows?revision=7&due=2026-Q4&against=week");
		expect(restAddress("/deals/rows", query, 8)).not.toBe(restAddress("/deals/rows", query, 7));
	});
});
