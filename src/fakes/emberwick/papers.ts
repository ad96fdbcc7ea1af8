import { createHash } from "node:crypto";
import type { Value } from "../../formats/bundle/model";
import type { BundleFile } from "../../formats/bundle/spec";
import { Chance } from "./almanac";
import type { Ledger } from "./ledger";

type Fields = Record<string, Value>;

/** What is measured on a visit, and how a trial bake went, in the words of those who were there. */
const MEASURES = [
	"Door to the hall: 1.32 m wide, 2.10 m high; the oven comes in two parts.",
	"Gas at the back wall, 50 mbar; the meter is old, ask the supplier.",
	"Floor carries 900 kg a square metre; the plinth stays.",
	"Power: 63 A free in the small board, none in the large one.",
	"Flue through the roof, 6 m; the neighbour has to agree.",
	"Water is hard: 19 °dH, a softener is needed for the steam.",
];
const TRIALS = [
	"Rye 70%, 1.1 kg, 58 minutes falling from 260 °C: crust right, crumb a little wet.",
	"Rolls, 60 g, 17 minutes at 225 °C with steam: even over all four decks.",
	"Croissants, 12 minutes at 205 °C: the left side browns first; fan turned down to 60%.",
	"Their own sourdough, two loads: the second as good as the first.",
	"Their baker wants the door slower; the latch can be set.",
];
const AGREEMENT = [
	"Two visits a year, before Easter and before Christmas.",
	"Parts that wear are in the price, glass isn’t.",
	"Answered within four hours on days they bake.",
];

const isDone = ({ state, direction }: Fields) => state === "done" && direction === "both";

/**
 * Papers that lie with deals and accounts: what was measured, how a trial went, agreements, drawings elsewhere. Adds their rows
 * and gives what they hold, by the names of a bundle’s files.
 */
export function addPapers(ledger: Ledger, seed: string): Map<string, Uint8Array> {
	const rows = (file: BundleFile) => (ledger.rows.get(file) ?? []).map((row) => row.fields as Fields);
	const contents = new Map<string, Uint8Array>();
	const talks = new Map<Value | undefined, Fields[]>();
	for (const activity of rows("activities.csv")) if (isDone(activity)) talks.set(activity.deal_id, [...(talks.get(activity.deal_id) ?? []), activity]);
	const last = new Map(rows("deal_versions.csv").map((version) => [version.deal_id, version]));
	const paper = (of: Fields, name: string, lines: readonly string[]) => {
		const bytes = new TextEncoder().encode(`${name}\n\n${lines.join("\n")}\n`);
		const sum = createHash("sha256").update(bytes).digest("hex");
		contents.set(`files/${sum}`, bytes);
		ledger.add("attachments.csv", { ...of, name: `${name}.txt`, type: "text/plain", size: bytes.length, sha256: sum });
	};
	for (const deal of rows("deals.csv")) {
		const id = String(deal.id);
		const chance = new Chance(`${seed} ${id} papers`);
		const { stage, owner_id: by = null } = last.get(id) ?? {};
		const talk = talks.get(id)?.at(-1);
		if (!talk || (stage !== "Trial bake" && stage !== "Proposal" && stage !== "Terms") || !(id.startsWith("story") || chance.yes(0.5))) continue;
		const of = { deal_id: id, by_id: by, added_at: talk.at ?? null };
		const some = (list: readonly string[], n: number) => [...new Set(Array.from({ length: n }, () => chance.pick(list)))];
		if (stage === "Trial bake") paper({ ...of, id: `f-${id}-site`, activity_id: talk.id ?? null }, "Site measures", some(MEASURES, 3));
		else paper({ ...of, id: `f-${id}-trial`, activity_id: talk.id ?? null }, "Trial bake record", some(TRIALS, 3));
		if (stage === "Terms")
			ledger.add("attachments.csv", { ...of, id: `f-${id}-hall`, name: "Drawing of the hall", url: `https://drawings.emberwick.example/${id}` });
	}
	const asked = new Set<Value | undefined>();
	for (const { account_id: account, date } of rows("orders.csv")) {
		if (asked.has(account)) continue;
		asked.add(account);
		if (!new Chance(`${seed} ${account} papers`).yes(0.3)) continue;
		paper({ account_id: account ?? null, id: `f-${account}-service`, by_id: null, added_at: `${date}T09:00:00Z` }, "Service agreement", AGREEMENT);
	}
	return contents;
}
