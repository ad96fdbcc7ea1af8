import type { Differences, PeriodFigures } from "@/core/period/figures";

/** What is known of some people in a period beside the figures of their deals. */
export interface TeamMetrics {
	/** open deals of the period whose close date has passed */
	readonly overdue: number;
	readonly lateTasks: number;
	/** done touches, and planned activities that were left undone; null where they aren't told apart */
	readonly contacts: { readonly done: number; readonly aDay: number | null; readonly undone: number } | null;
}

/** Where what is around the deals isn't counted. */
export const NO_TEAM_METRICS: TeamMetrics = { overdue: 0, lateTasks: 0, contacts: null };

export type FigureUnit = "amount" | "count" | "times" | "share" | "days" | "perDay";

/** Which deals a figure opens: what stands in the address of Deals, SEEN for the seen day. `due` is a range by the period's own days. */
export interface Opens {
	readonly status?: "won" | "lost" | "closed";
	readonly f?: string;
	readonly due?: "before" | "after" | "none";
}

/** What a figure can be made of besides deals. */
export const MADE = ["target", "gap", "contacts", "undone"] as const;
export type Made = (typeof MADE)[number];

/** A figure of the period by its name: the page, thresholds, tiles and files take it from here. */
export interface Figure {
	readonly key: string;
	readonly label: string;
	readonly unit: FigureUnit;
	/** the side on which it is still all right, where somebody sets a mark for it */
	readonly side: "most" | "least";
	readonly value: (figures: PeriodFigures, metrics: TeamMetrics) => number | null;
	readonly opens?: Opens;
	/** it is made of what isn't deals: it opens what it is made of */
	readonly made?: Made;
	/** tasks it opens rather than deals */
	readonly tasks?: true;
	/** it is of the team, not of its deals: it has no change */
	readonly ofTeam?: true;
}

const PIPELINE = "category.in.pipeline|(blank)";

/** Every figure of a period, in the order of choosers. A new one is one line here. */
export const FIGURES: readonly Figure[] = [
	{ key: "won", label: "won", unit: "amount", side: "least", value: (f) => f.won.amount, opens: { status: "won" } },
	{ key: "target", label: "target", unit: "amount", side: "least", value: (f) => f.target, made: "target" },
	{ key: "gap", label: "gap to the target", unit: "amount", side: "most", value: (f) => f.gap, made: "gap" },
	{ key: "open", label: "open", unit: "amount", side: "least", value: (f) => f.open.amount, opens: {} },
	{ key: "openCount", label: "open deals", unit: "count", side: "most", value: (f) => f.open.count, opens: {} },
	{ key: "commit", label: "commit", unit: "amount", side: "least", value: (f) => f.categories.commit.amount, opens: { f: "category.in.commit" } },
	{ key: "bestCase", label: "best case", unit: "amount", side: "least", value: (f) => f.categories.best_case.amount, opens: { f: "category.in.best case" } },
	{ key: "pipeline", label: "pipeline", unit: "amount", side: "least", value: (f) => f.categories.pipeline.amount, opens: { f: PIPELINE } },
	{ key: "leftOut", label: "left out", unit: "amount", side: "most", value: (f) => f.categories.left_out.amount, opens: { f: "category.in.left out" } },
	{ key: "weighted", label: "weighted", unit: "amount", side: "least", value: (f) => f.weighted, opens: {} },
	{ key: "cover", label: "cover", unit: "times", side: "least", value: (f) => f.cover, opens: {} },
	{ key: "commitCover", label: "cover by commit", unit: "times", side: "least", value: (f) => f.commitCover, opens: { f: "category.in.commit" } },
	{ key: "needed", label: "share of open that must be won", unit: "share", side: "most", value: (f) => f.needed, opens: {} },
	{ key: "winRate", label: "win rate, by count", unit: "share", side: "least", value: (f) => f.winRate.count, opens: { status: "closed" } },
	{ key: "winRateAmount", label: "win rate, by amount", unit: "share", side: "least", value: (f) => f.winRate.amount, opens: { status: "closed" } },
	{ key: "averageWon", label: "average won deal", unit: "amount", side: "least", value: (f) => f.averageWon, opens: { status: "won" } },
	{ key: "averageCycle", label: "average age when won", unit: "days", side: "most", value: (f) => f.averageCycle, opens: { status: "won" } },
	{ key: "lost", label: "lost", unit: "amount", side: "most", value: (f) => f.lost.amount, opens: { status: "lost" } },
	{ key: "act", label: "deals at act", unit: "count", side: "most", value: (f) => f.attention.act, opens: { f: "level.in.act" } },
	{ key: "watch", label: "deals at watch", unit: "count", side: "most", value: (f) => f.attention.watch, opens: { f: "level.in.watch" } },
	{ key: "overdue", label: "overdue", unit: "count", side: "most", ofTeam: true, value: (_, metrics) => metrics.overdue, opens: { f: "close.before.SEEN" } },
	{ key: "leftBehind", label: "left behind", unit: "amount", side: "most", value: (f) => f.leftBehind.amount, opens: { due: "before" } },
	{ key: "undated", label: "without a date", unit: "count", side: "most", value: (f) => f.undated.count, opens: { due: "none" } },
	{ key: "later", label: "due later", unit: "amount", side: "least", value: (f) => f.later.amount, opens: { due: "after" } },
	{ key: "lateTasks", label: "tasks late", unit: "count", side: "most", ofTeam: true, value: (_, metrics) => metrics.lateTasks, tasks: true },
	{
		key: "contactsADay",
		label: "contacts a working day",
		unit: "perDay",
		side: "least",
		ofTeam: true,
		value: (_, metrics) => metrics.contacts?.aDay ?? null,
		made: "contacts",
	},
	{
		key: "undone",
		label: "planned activities not done",
		unit: "count",
		side: "most",
		ofTeam: true,
		value: (_, metrics) => metrics.contacts?.undone ?? null,
		made: "undone",
	},
];

const BY_KEY: ReadonlyMap<string, Figure> = new Map(FIGURES.map((figure) => [figure.key, figure]));
/** A figure of the period by its key; undefined for one there is none of. */
export const figureOf = (key: string): Figure | undefined => BY_KEY.get(key);

/** What a figure changed by between two moments; null where it has no change. Differences have the shape of what they are of. */
export const changeOf = (figure: Figure, change: Differences<PeriodFigures>): number | null =>
	figure.ofTeam ? null : figure.value(change as unknown as PeriodFigures, NO_TEAM_METRICS);
