import { and, gte, isNull } from "drizzle-orm";
import { formatRange } from "@/core/time/period";
import { periodWords } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { connection } from "@/data/db";
import { closes } from "@/data/schema";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";
import { closeHeadline, closeSentences, differenceWords, gained, short } from "../table/words";
import type { CloseView } from "./readClose";
import { type Close, closable, periodOf } from "./stored";

/** What of a close is told to somebody who sees all whom it tells of. */
interface Told {
	readonly label: string;
	readonly whose: string;
	readonly headline: string;
	/** null: it closed by itself */
	readonly by: string | null;
	readonly path: string;
	readonly parts: readonly { readonly heading: string; readonly lines: readonly { readonly words: string; readonly path?: string }[] }[];
}

/** What is told of a close in words: its headline, and the sentences after it. */
export const closeWords = ({ account }: Pick<CloseView, "account">): { headline: string; sentences: string[] } => ({
	headline: closeHeadline(account),
	sentences: closeSentences(account),
});

/** Closes and corrections made since an instant of the server's own time, each with what a reader is told of it; null for who doesn’t see it in full. */
export async function closedSince(since: Date): Promise<{ id: string; byId: string | null; correction: number; toldTo: (context: Context) => Told | null }[]> {
	const rows = await connection()
		.db.select()
		.from(closes)
		.where(and(gte(closes.really, since), isNull(closes.reopenedAt)));
	return rows.map((row) => ({
		id: row.id,
		byId: row.byId,
		correction: row.correction,
		toldTo: (context) => (closable(context, row.whose) === undefined ? null : toldOf(context, row)),
	}));
}

function toldOf({ organisation }: Context, row: Close): Told {
	const { account } = row;
	const period = periodOf(row);
	const deal = (id: string) => `/deals/${encodeURIComponent(id)}`;
	const went = account.went.filter(({ count, kind }) => count > 0 && kind !== "opening");
	return {
		label: periodWords(period),
		whose: row.whose === "all" ? "everyone" : `${row.whose.slice("team:".length)} team`,
		headline: closeHeadline(account),
		by: row.byId && personName(organisation, row.byId),
		path: `/period/closed?${new URLSearchParams({ whose: row.whose, due: formatRange(period) })}`,
		parts: [
			...(row.why ? [{ heading: "Why it was corrected", lines: [{ words: row.why }] }] : []),
			{ heading: "How it ended", lines: closeSentences(account).map((words) => ({ words })) },
			{
				heading: "Where the open deals went",
				lines: went.map(({ name, count, amount, leaves }) => ({ words: `${name}: ${plural(count, "deal")}, ${leaves ? "−" : ""}${short(account, amount)}` })),
			},
			{
				heading: "By rep",
				lines: account.reps.map(({ name, won, target }) => ({
					words: `${name}: ${short(account, won.amount)}${target ? ` of ${short(account, target)}, ${Math.round((100 * won.amount) / target)}%` : ""}`,
				})),
			},
			{
				heading: "What made the difference",
				lines: account.differences.map((one) => ({
					words: `${one.name}: ${gained(account, one.amount)} (${differenceWords(account, one)})`,
					path: deal(one.id),
				})),
			},
			...(row.note ? [{ heading: "In their own words", lines: [{ words: row.note }] }] : []),
		],
	};
}
