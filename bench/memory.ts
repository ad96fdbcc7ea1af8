import { deserialize, serialize } from "node:v8";
import { companyOf, type DealFacts } from "../src/core/company";
import { BLOCK_SIZE, type Block, versionCount } from "../src/core/history/columns";
import { surveyOn } from "../src/core/survey";
import type { Day } from "../src/core/time/day";
import { type PackedBlock, packBlock, unpackBlock } from "../src/data/organisation/packedBlock";
import type { DealAttributes, OrganisationState } from "../src/data/organisation/state";
import type { Line } from "./measure";

const AIM = 400;
const MB = 1e6;

interface Copied {
	readonly versions: Block;
	readonly deals: readonly DealAttributes[];
	readonly facts: readonly DealFacts[];
}

/** What objects take once all is collected that nobody holds, in bytes. Needs --expose-gc. */
async function objects(): Promise<number> {
	for (let i = 0; i < 4; i++) {
		globalThis.gc?.();
		await new Promise((resolve) => setTimeout(resolve, 50));
	}
	return process.memoryUsage().heapUsed;
}

/** Something of each block of an organisation, again and again, each a copy of its own, until there are so many deals. */
function multiplied<T>({ company, deals }: OrganisationState, many: number, pick: (copy: Copied) => T): T[] {
	const whole = company.blocks.filter(({ facts }) => facts.length === BLOCK_SIZE);
	return Array.from({ length: Math.ceil(many / BLOCK_SIZE) }, (_, i) => {
		const block = whole[i % whole.length] as (typeof whole)[number];
		return pick(unpackBlock(deserialize(serialize(packBlock(block, deals.slice(block.first, block.first + BLOCK_SIZE)))) as PackedBlock));
	});
}

/** What some work adds to the objects that are held, and what it made. */
async function adds<T>(work: () => T): Promise<{ readonly made: T; readonly bytes: number }> {
	const before = await objects();
	const made = work();
	return { made, bytes: (await objects()) - before };
}

/** Bytes of all arrays of numbers in an object. */
const bytesOf = (columns: object) => Object.values(columns).reduce((sum: number, one) => sum + (ArrayBuffer.isView(one) ? one.byteLength : 0), 0);

/** What a process keeps of so many deals, kind by kind: an organisation's own, as many times over as it takes. */
export async function benchMemory(organisation: OrganisationState, day: Day, many: number): Promise<Line[]> {
	const names = await adds(() => multiplied(organisation, many, ({ deals }) => deals));
	names.made.length = 0;
	const { made: blocks, bytes: facts } = await adds(() => multiplied(organisation, many, ({ versions, facts }) => ({ versions, facts })));
	const history = { deals: blocks.length * BLOCK_SIZE, blocks: blocks.map(({ versions }) => versions) };
	const company = companyOf({ ...organisation.company, history, deals: blocks.flatMap((block) => block.facts) });
	const columns = (kind: "activities" | "answers") => blocks.reduce((sum, block) => sum + bytesOf(block.facts[0]?.[kind].columns ?? {}), 0);
	const versions = history.blocks.reduce((sum, block) => sum + bytesOf(block), 0);
	const surveys = await adds(() => [surveyOn(company, day), surveyOn(company, day - 8)]);
	const kinds: [string, number][] = [
		["versions", versions],
		["activities", columns("activities")],
		["answers", columns("answers")],
		["names and attributes", names.bytes],
		["tasks, quotes, people, next steps in words", facts],
		["what was found of them on two days", surveys.bytes],
	];
	const total = kinds.reduce((sum, [, bytes]) => sum + bytes, 0);
	return [
		{
			what: `memory of ${company.deals.length.toLocaleString("en")} deals with ${versionCount(history).toLocaleString("en")} versions`,
			measured: `${Math.round(total / MB)} MB: ${kinds.map(([kind, bytes]) => `${kind} ${Math.round(bytes / MB)}`).join(", ")}`,
			aim: `${AIM} MB`,
			met: total <= AIM * MB,
		},
	];
}
