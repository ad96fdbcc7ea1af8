import pg from "pg";
import { type Bridge, bridge } from "../src/core/bridge/bridge";
import type { Company } from "../src/core/company";
import { NONE, sizeOf, versionCount } from "../src/core/history/columns";
import type { Day } from "../src/core/time/day";
import type { Period } from "../src/core/time/period";
import { type Line, medianOf, ms, times } from "./measure";
import { bridgeSql, fillColumnar, fillPostgres, type SqlStep, stepsOf } from "./sql";

export interface Question {
	readonly a: Day;
	readonly b: Day;
	readonly period: Period;
}

const ours = (company: Company, { a, b, period }: Question) => bridge(company, a, b, period, null);

/** Who has deals, in their order. */
const sellers = ({ history }: Company) =>
	[...new Set(history.blocks.flatMap(({ owner }) => [...new Set(owner)]))].filter((one) => one !== NONE).sort((a, b) => a - b);

/** So many of those who have deals, one here and there. */
function teamOf(company: Company, many: number): ReadonlySet<number> {
	const all = sellers(company);
	return new Set(Array.from({ length: many }, (_, i) => all[Math.floor((i * all.length) / many)] as number));
}

/** Every deal of every step, opening and closing as an object of its own. */
function spelt(result: Bridge): number {
	let count = 0;
	for (const list of [result.opening.deals, result.closing.deals, ...result.steps.map((step) => step.deals)]) count += [...list].length;
	return count;
}

function summed(result: Bridge): SqlStep[] {
	const ends = [
		{ kind: "opening", ...result.opening },
		{ kind: "closing", ...result.closing },
	];
	return [...ends, ...result.steps]
		.filter(({ deals }) => deals.length)
		.map(({ kind, amount, deals }) => ({ kind: kind as string, count: deals.length, amount }))
		.sort((x, y) => (x.kind < y.kind ? -1 : 1));
}

/** A pass over all versions that does next to nothing: what reading the columns costs at least. */
function pass({ history }: Company, { a, b }: Question): number {
	let sum = 0;
	for (const { day, stage, amount, close } of history.blocks) {
		for (let row = 0; row < day.length; row++) {
			const on = day[row] as number;
			if (on > a && on <= b && (stage[row] as number) >= 0 && (close[row] as number) > 0) sum += amount[row] || 0;
		}
	}
	return sum;
}

/** The bridge against the same question in two SQL engines, over the same versions in one run. */
export async function benchBridge(company: Company, question: Question, url: string, file: string, say: (words: string) => void): Promise<Line[]> {
	const versions = versionCount(company.history);
	const label = `${company.deals.length.toLocaleString("en")} deals, ${versions.toLocaleString("en")} versions`;
	const sql = bridgeSql(question.a, question.b, question.period);

	say("filling PostgreSQL with the same versions");
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	await fillPostgres(client, company, question.b);
	say("filling the columnar engine");
	const columnar = await fillColumnar(file, company, question.b);

	const mine = summed(ours(company, question));
	const theirs = [stepsOf((await client.query(sql)).rows), stepsOf(await columnar(sql))];
	for (const answer of theirs) {
		if (JSON.stringify(answer) !== JSON.stringify(mine)) throw new Error(`the engines disagree:\n${JSON.stringify(mine)}\n${JSON.stringify(answer)}`);
	}
	say("measuring");
	const own = await medianOf(() => ours(company, question), 25, 12);
	const ten = teamOf(company, 10);
	const team = await medianOf(() => bridge(company, question.a, question.b, question.period, ten), 25, 6);
	const full = await medianOf(() => spelt(ours(company, question)), 25, 6);
	const plain = await medianOf(() => pass(company, question));
	const row = await medianOf(() => client.query(sql), 7, 2);
	const column = await medianOf(() => columnar(sql), 9, 3);
	await client.query("drop table bench_versions, bench_stages, bench_rates");
	await client.end();
	const bytes = sizeOf(company.history) / versions;
	return [
		{
			what: `bridge, warm: steps and deal lists complete (${label})`,
			measured: ms(own),
			aim: `a fifteenth of (b): ${ms(column / 15)}`,
			met: own <= column / 15,
		},
		{
			what: `the same for a team of ${ten.size} of ${sellers(company).length} people`,
			measured: `${ms(team)}, ${times(team / own)} everyone’s`,
			aim: "at most 0.3 × everyone’s",
			met: team <= own * 0.3,
		},
		{ what: "the same, each deal of each list made an object besides", measured: ms(full), aim: "", met: null },
		{ what: "(a) one SQL statement, indexed, in the same PostgreSQL", measured: `${ms(row)}, ${times(row / own)} ours`, aim: "", met: null },
		{ what: "(b) the same in an embedded columnar engine", measured: `${ms(column)}, ${times(column / own)} ours`, aim: "", met: null },
		{ what: "a plain pass over the typed arrays", measured: `${ms(plain)}, ${times(plain / own)} ours`, aim: "", met: null },
		{ what: "memory a version", measured: `${bytes.toFixed(1)} bytes`, aim: "under 64 bytes", met: bytes < 64 },
	];
}

/** How the cost of the bridge grows with the number of deals. */
export const bridgeTime = (company: Company, question: Question) => medianOf(() => ours(company, question), 15, 40);
