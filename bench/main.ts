import { currentOrganisation } from "@/data/organisation/follow";
import { loadOrganisation } from "@/data/organisation/load";
import { type Company, companyOf } from "../src/core/company";
import { BLOCK_SIZE, type Block, blockOf, blockSpans, HISTORY_COLUMNS, versionCount } from "../src/core/history/columns";
import { nothingCounted } from "../src/core/period/counted";
import { applyMoves, type Move, type TriedDeal } from "../src/core/period/try";
import { parseDay } from "../src/core/time/day";
import { quarterOf } from "../src/core/time/period";
import { connection } from "../src/data/db";
import { benchAccounts } from "./accounts";
import { benchBridge, bridgeTime } from "./bridge";
import { bigCompany } from "./company";
import { benchInspection, inspectionTime } from "./inspection";
import { type Line, linesTable, median, ms, tableOf } from "./measure";
import { benchMemory } from "./memory";
import { benchOrganisation, benchPages } from "./pages";
import { benchPast, pastTime } from "./past";
import { machine, report } from "./report";

// Run by scripts/bench.mjs, which starts the databases and bundles this. Prints one table, the aim beside each figure.
const LARGE = Number(process.env.BENCH_DEALS ?? 200_000);
const { DATABASE_URL: url = "", BENCH_DEMO_URL: demoUrl = "", BENCH_FOLDER: folder = "" } = process.env;
const FRAME = 16;
const PAST = 40_000;
const today = parseDay("2026-11-24") as number;
const say = (words: string) => process.stderr.write(`  ${words} …\n`);

const lines: Line[] = [];
// Before anything large is in memory, whose clearing away would be counted.
lines.push(tryTime());
say("a company of about 10 000 open deals: loading, following, pages");
lines.push(...(await benchOrganisation(url)));
lines.push(...(await benchPages(url, say)));
say("accounts");
lines.push(...(await benchAccounts(url)));
say(`the memory of ${LARGE.toLocaleString("en")} deals`);
lines.push(...(await benchMemory(await currentOrganisation(connection().db), today, LARGE)));

say("reading the demo company's rules");
const frame = await loadOrganisation(connection().db, 0);
say(`making ${LARGE.toLocaleString("en")} deals with their history (about two minutes)`);
const { company } = bigCompany(frame, today, LARGE);
const question = { a: today - 15, b: today, period: quarterOf(today, 1) };
say("the whole past of 40 000 deals");
lines.push(...benchPast(first(company, Math.min(PAST, LARGE))));
lines.unshift(...(await benchInspection(company, today)));
lines.unshift(...(await benchBridge(company, question, demoUrl, `${folder}/versions.csv`, say)));

say("how it grows");
const growth: string[][] = [];
for (const count of [10_000, 40_000, 200_000, 1_000_000].filter((n) => n <= LARGE * 5)) {
	const some = count <= company.deals.length ? first(company, count) : copies(company, Math.round(count / company.deals.length));
	const bridge = await bridgeTime(some, question);
	const { time, open } = count <= LARGE ? await inspectionTime(some, today) : { time: Number.NaN, open: 0 };
	const nanos = (value: number, n: number) => `${Math.round((value * 1e6) / n)} ns`;
	growth.push([
		some.deals.length.toLocaleString("en"),
		versionCount(some.history).toLocaleString("en"),
		ms(bridge),
		nanos(bridge, some.deals.length),
		open ? ms(time) : "–",
		open ? nanos(time, open) : "–",
		count <= LARGE ? ms(pastTime(first(some, some.deals.length), today)) : "–",
	]);
}
const head = ["deals", "versions", "bridge", "a deal", "inspection of the open ones", "an open deal", "the whole past"];
report("table", `${machine()}\n\n${linesTable(lines)}\n\n${tableOf(head, growth)}\n`);
await connection().close();
process.exit(0);

/** What a try costs whose moves meet most of 2 000 deals: less than a frame leaves room for. */
function tryTime(): Line {
	const categories = ["commit", "best_case", "pipeline", "left_out"] as const;
	const deals = Array.from(
		{ length: 2000 },
		(_, i): TriedDeal => ({
			id: String(i),
			amount: 10_000_00 + i,
			category: categories[i % 4] as (typeof categories)[number],
			probability: { units: 4, scale: 1 },
			stage: "Trial",
			owner: `rep ${i % 14}`,
			level: "calm",
			flags: i % 3 ? [] : ["no-signatory"],
		}),
	);
	const moves: Move[] = [
		{ whom: { field: "category", value: "best_case" }, what: "win", percent: 40 },
		{ whom: { field: "flag", value: "no-signatory" }, what: "drop", percent: 100 },
		{ whom: { field: "stage", value: "Trial" }, what: "price", percent: 95 },
		{ whom: { field: "owner", value: "rep 3" }, what: "push", percent: 100 },
	];
	const times = Array.from({ length: 50 }, () => {
		const start = performance.now();
		applyMoves(nothingCounted(), deals, moves);
		return performance.now() - start;
	}).sort((a, b) => a - b);
	const time = median(times);
	return { what: "a try of four moves over 2 000 deals", measured: ms(time), aim: `within a frame, ${FRAME} ms`, met: time < FRAME };
}

/** The first deals of a company. */
function first(whole: Company, count: number): Company {
	const { history } = whole;
	const blocks = Array.from(blockSpans(count), ([from, end]) => cut(blockOf(history, from), end - from));
	return companyOf({ rules: whole.rules, people: whole.people, deals: whole.deals.slice(0, count), history: { deals: count, blocks } });
}

/** A block of its first deals only. */
function cut(block: Block, deals: number): Block {
	if (block.offsets.length === deals + 1) return block;
	const rows = block.offsets[deals] as number;
	const columns = Object.fromEntries(HISTORY_COLUMNS.map((name) => [name, block[name].subarray(0, rows)]));
	return { ...block, ...columns, offsets: block.offsets.subarray(0, deals + 1) };
}

/** The same deals several times over, as far as they fill blocks, for sizes that would take long to make. */
function copies(whole: Company, times: number): Company {
	const full = first(whole, whole.deals.length - (whole.deals.length % BLOCK_SIZE));
	const repeated = <T>(list: readonly T[]): T[] => Array.from({ length: times }, () => list).flat();
	const { deals, blocks } = full.history;
	// Copies of their own: what is kept with a block isn't shared with its likes.
	const own = repeated(blocks).map((block) => ({ ...block }));
	return companyOf({ rules: full.rules, people: full.people, deals: repeated(full.deals), history: { deals: deals * times, blocks: own } });
}
