import type { DealRow } from "../server/readDeals";

/** A value of a deal as a table shows it: amounts in base minor units, days ISO. */
export type Cell = string | number | null;
export type ColumnKind = "text" | "amount" | "count" | "day" | "percent";

export interface Column {
	readonly key: string;
	readonly words: string;
	readonly kind: ColumnKind;
	/** the first click sorts so */
	readonly order: "ascending" | "descending";
	value(row: DealRow): Cell;
}

const column = (
	key: string,
	words: string,
	kind: ColumnKind,
	value: (row: DealRow) => Cell,
	order: Column["order"] = kind === "text" || kind === "day" ? "ascending" : "descending",
): Column => ({
	key,
	words,
	kind,
	order,
	value,
});

/** Every column a table of deals can show, sort by and export. The first ones are drawn; the rest are figures and words. */
export const COLUMNS: readonly Column[] = [
	column("attention", "Need", "count", (row) => row.score),
	column("name", "Deal", "text", (row) => row.name),
	column("account", "Account", "text", (row) => row.account),
	column("owner", "Rep", "text", (row) => row.owner),
	column("stage", "Stage · days in it", "text", (row) => row.stage, "descending"),
	column("stageAge", "Days in stage", "count", (row) => row.stageAge),
	column("amount", "Amount", "amount", (row) => (row.amountBlank ? null : row.amount)),
	column("change", "Change", "amount", (row) => row.change),
	column("weighted", "Weighted", "amount", (row) => row.weighted),
	column("probability", "Chance", "percent", (row) => Math.round(row.probability * 100)),
	column("close", "Close date trail", "day", (row) => row.close),
	column("runway", "Runway", "count", (row) => row.runway, "ascending"),
	column("pushes", "Pushes", "count", (row) => row.pushes),
	column("evidence", "Evidence", "count", (row) => row.strength - row.expected, "ascending"),
	column("strength", "Strength", "count", (row) => row.strength, "ascending"),
	column("coverage", "Coverage", "count", (row) => row.coverage, "ascending"),
	column("gaps", "Gaps", "count", (row) => row.gaps),
	column("flags", "Flags", "text", (row) => row.flags.map((flag) => flag.label).join(", ")),
	column("category", "Category", "text", (row) => row.category?.replaceAll("_", " ") ?? null),
	column("nextStep", "Next step", "text", (row) => row.nextStep),
	column("nextStepDate", "Next step’s day", "day", (row) => row.nextStepDate),
	column("lastTouch", "Last contact", "day", (row) => row.lastTouch),
	column("dealAge", "Deal age", "count", (row) => row.dealAge),
	column("created", "Opened", "day", (row) => row.created),
	column("source", "Source", "text", (row) => row.source),
	column("competitor", "Competitor", "text", (row) => row.competitor),
	column("customer", "Customer or prospect", "text", (row) => row.customer),
	column("territory", "Territory", "text", (row) => row.territory),
	column("industry", "Industry", "text", (row) => row.industry),
	column("products", "Products", "text", (row) => row.products.join(", ") || null),
	column("tags", "Tags", "text", (row) => row.tags.join(", ") || null),
];

/** What a table shows unless columns are chosen. */
export const STANDARD_COLUMNS = ["attention", "name", "owner", "stage", "amount", "close", "evidence", "flags"] as const;

export const columnOf = (key: string): Column | undefined => COLUMNS.find((c) => c.key === key);
