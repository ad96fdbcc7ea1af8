import type { Rest } from "./attention/rest";
import type { AttentionSettings, AttentionWas } from "./attention/settings";
import type { Activities } from "./contact/activities";
import type { DataKind, FlagSettings } from "./flags/settings";
import { BLOCK_SIZE, type Block, type History } from "./history/columns";
import type { Stage } from "./history/stage";
import type { Rates } from "./money/rates";
import type { Buyers } from "./people/buyers";
import type { Employment } from "./people/person";
import type { Answers } from "./qualification/answers";
import type { Edition } from "./qualification/edition";
import type { TaskFacts } from "./tasks/task";
import type { Calendar } from "./time/calendar";
import type { Day } from "./time/day";
import type { Fiscal } from "./time/fiscal";
import type { Zone } from "./time/zone";

/** The rules an organisation works by. */
export interface Rules {
	/** kinds of data that the organisation has none of at all, and isn't judged by; none where that isn't known */
	readonly absent?: ReadonlySet<DataKind>;
	readonly zone: Zone;
	readonly calendar: Calendar;
	readonly fiscal: Fiscal;
	readonly rates: Rates;
	/** in order of position; versions name them by index */
	readonly stages: readonly Stage[];
	/** currency codes; versions name them by index */
	readonly currencies: readonly string[];
	/** the questions, oldest edition first */
	readonly editions: readonly Edition[];
	/** position of the open stage to which a kind of activity belongs; 0 or absent: to none */
	readonly kindPositions: Readonly<Record<string, number>>;
	readonly flags: FlagSettings;
	readonly attention: AttentionSettings;
	/** how it was set for days before, the first first */
	readonly attentionWas?: readonly AttentionWas[];
}

/** An offer that was sent. Days are NO_DAY where there is none. */
export interface QuoteFacts {
	readonly id: string;
	readonly number: string | null;
	readonly sent: Day;
	readonly validUntil: Day;
	readonly answered: Day;
}

/** What isn't compared over time about a deal. */
export interface DealFacts {
	readonly id: string;
	readonly createdDay: Day;
	readonly hasAccountName: boolean;
	/** who of the buyer's was on the deal, and from when on: the first entry holds from the beginning */
	readonly buyers: readonly Buyers[];
	readonly activities: Activities;
	readonly answers: Answers;
	readonly tasks: readonly TaskFacts[];
	readonly quotes: readonly QuoteFacts[];
	/** the first first */
	readonly rests: readonly Rest[];
}

/** The columns that comparing moments reads. */
export type LedgerBlock = Pick<Block, "offsets" | "day" | "stage" | "amount" | "currency" | "close" | "owner">;

/** The least that comparing moments needs: what each deal was, when, and how to read it. A company is one. */
export interface Ledger {
	readonly rules: Pick<Rules, "stages" | "currencies" | "rates">;
	readonly deals: { readonly length: number };
	readonly people: { readonly length: number };
	readonly history: { readonly blocks: readonly LedgerBlock[] };
}

/** The deals of a block: their versions and all else of them. It never changes; what was worked out of it is kept with it. */
export interface DealBlock {
	/** index of the deal at its first place */
	readonly first: number;
	readonly versions: Block;
	readonly facts: readonly DealFacts[];
	/** the same object as in the blocks that this one took the place of */
	readonly place: object;
}

/** Everything the core computes from: plain data, deals by index. */
export interface Company {
	readonly rules: Rules;
	readonly deals: readonly DealFacts[];
	/** versions name owners by index */
	readonly people: readonly Employment[];
	readonly history: History;
	/** the same deals in blocks */
	readonly blocks: readonly DealBlock[];
}

/** Makes a company; the blocks in which nothing differs from those of one before are the same objects. */
export function companyOf(parts: Omit<Company, "blocks">, before?: Company): Company {
	const { deals, history } = parts;
	const blocks = history.blocks.map((versions, i): DealBlock => {
		const first = i * BLOCK_SIZE;
		const known = before?.blocks[i];
		const count = versions.offsets.length - 1;
		if (known && known.versions === versions) {
			let place = 0;
			while (place < count && known.facts[place] === deals[first + place]) place++;
			if (place === count) return known;
		}
		return { first, versions, facts: deals.slice(first, first + count), place: known?.place ?? {} };
	});
	return { ...parts, blocks };
}
