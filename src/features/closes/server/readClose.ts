import type { CloseAccount } from "@/core/period/closeAccount";
import { countedOf } from "@/core/period/countByOwner";
import { periodBefore } from "@/core/period/pace";
import { formatDay } from "@/core/time/day";
import { bounded, formatRange, type Period } from "@/core/time/period";
import { longDay, periodWords } from "@/core/time/words";
import { connection } from "@/data/db";
import { countedOn } from "@/features/period";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { personName } from "@/platform/names";
import { may } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { accountSoFar } from "./account";
import type { OutlooksProgress, Patience } from "./foretold";
import { sealOf } from "./seal";
import { type Close, closable, closeById, closesOf, periodOf, reachedCloses } from "./stored";

/** A close or a correction, without what it tells. */
export interface KeptClose {
	readonly id: string;
	/** 0: the close itself */
	readonly correction: number;
	readonly on: string;
	/** null: it closed by itself */
	readonly by: string | null;
	readonly why: string | null;
	/** SHA-256 */
	readonly seal: string;
	/** whether it still reads as it was sealed */
	readonly whole: boolean;
	readonly note: string;
	readonly noteBy: string | null;
}

export interface CloseView {
	readonly label: string;
	/** whose, as the sentence says it */
	readonly whose: { readonly key: string; readonly label: string };
	readonly account: CloseAccount;
	/** how far the outlooks are that it tells of; null: all are in it */
	readonly progress: OutlooksProgress;
	/** the close and its corrections; none while it isn’t closed */
	readonly kept: readonly KeptClose[];
	/** which of them is shown; null: how it stands now */
	readonly shown: KeptClose | null;
	/** what reads otherwise now than in the newest of them, base minor units; null where nothing does */
	readonly since: { readonly won: number; readonly lost: number; readonly open: number } | null;
	readonly mayClose: boolean;
	readonly mayReopen: boolean;
	/** the days of the period in an address */
	readonly due: string;
}

const keptOf = ({ organisation }: Context, row: Close): KeptClose => ({
	id: row.id,
	correction: row.correction,
	on: longDay(organisation.company.rules.zone.dayOf(row.at.getTime())),
	by: row.byId && (personName(organisation, row.byId) ?? row.byId),
	why: row.why,
	seal: row.seal,
	whole: sealOf(row) === row.seal,
	note: row.note,
	noteBy: row.noteById && (personName(organisation, row.noteById) ?? row.noteById),
});

/** The period of a sentence if it is over, else the one before it; null where there is none that begins and ends. */
export function periodToClose({ organisation, now }: Context, { due }: Viewpoint): Period | null {
	let period = bounded(due.period);
	while (period && period.end >= now.day) period = periodBefore(period, organisation.company.rules.fiscal);
	return period;
}

/** How the last period of a sentence ended: as it was kept, or as it stands while nobody has closed it. Null where there is no period that begins and ends. */
export const readClose = query(
	"closes.read",
	"readPeriod",
	async (context: Context, viewpoint: Viewpoint, asked?: string, patience: Patience = "waits"): Promise<CloseView | null> => {
		const period = periodToClose(context, viewpoint);
		if (!period) return null;
		const { key, label } = viewpoint.whose;
		const scope = closable(context, key);
		const rows = scope === undefined ? [] : await closesOf(connection().db, key, formatDay(period.start), formatDay(period.end));
		const row = asked ? rows.find(({ id }) => id === asked) : rows.at(-1);
		if (asked && !row) throw notFound("close", asked);
		const kept = rows.map((one) => keptOf(context, one));
		const { account, progress } = row ? { account: row.account, progress: null } : await accountSoFar(context, period, viewpoint.whose.scope, patience);
		return {
			label: periodWords(period),
			whose: { key, label },
			account,
			progress,
			kept,
			shown: kept.find(({ id }) => id === row?.id) ?? null,
			since: rows.length ? sinceOf(context, rows.at(-1) as Close) : null,
			mayClose: scope !== undefined && may(context.actor, "closePeriods"),
			mayReopen: rows.length > 0 && may(context.actor, "changeRules"),
			due: formatRange(period),
		};
	},
);

/** What of a close reads otherwise now: the past was written to since. */
function sinceOf(context: Context, close: Close): CloseView["since"] {
	const period = periodOf(close);
	const scope = closable(context, close.whose);
	if (scope === undefined) return null;
	const now = countedOf(countedOn(context, period, period.end, period.end), scope);
	const by = (kind: "won" | "lost" | "open") => now[kind].amount - close.account[kind].amount;
	const same = (["won", "lost", "open"] as const).every((kind) => by(kind) === 0 && now[kind].count === close.account[kind].count);
	return same ? null : { won: by("won"), lost: by("lost"), open: by("open") };
}

/** A close as a list tells of it. */
export interface CloseLine extends Omit<KeptClose, "note" | "noteBy" | "on"> {
	readonly whose: string;
	readonly from: string;
	readonly to: string;
	readonly at: string;
	readonly reopened: boolean;
	/** by id; null: it closed by itself */
	readonly byId: string | null;
}

function lineOf(context: Context, row: Close): CloseLine {
	const { on: _, note: __, noteBy: ___, ...kept } = keptOf(context, row);
	const { whose, start: from, end: to, byId } = row;
	return { ...kept, whose, from, to, at: row.at.toISOString(), byId, reopened: row.reopenedAt !== null };
}

/** All closes and corrections that somebody reaches, the newest period first. */
export const listCloses = query(
	"closes.list",
	"readPeriod",
	async (context: Context): Promise<CloseLine[]> => (await reachedCloses(context)).map((row) => lineOf(context, row)),
);

/** One of them, with what it tells. Throws a 404 for one that isn't reached. */
export const readCloseById = query("closes.one", "readPeriod", async (context: Context, id: string) => {
	const row = await closeById(connection().db, context, id);
	return { ...lineOf(context, row), account: row.account, note: row.note };
});
