import { and, eq } from "drizzle-orm";
import { currencySign, fullAmount } from "@/core/money/words";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { news } from "@/data/schema";
import { type MinutesView, readMinutes, roundsEndedSince, totalsHeading } from "@/features/rounds";
import { reaches, reachOf } from "@/platform/reach";
import { dayWords, type Found, happening } from "./happening";

/** What it comes to, as far as its reader sees those people's figures. */
function totalsPart(minutes: MinutesView, money: (amount: number) => string) {
	const { before, after } = minutes;
	if (!before || !after) return [];
	return [
		{
			heading: totalsHeading(minutes),
			lines: [{ words: `By the reps: ${money(before.byWord)}, now ${money(after.byWord)}` }, { words: `By the calls: ${money(after.byCalls)}` }],
		},
	];
}

const BACK = 24 * 3_600_000;

/** A round over somebody's deals, or which they lead, has ended: its minutes go to all whom it concerns. */
export const roundEnded = happening({
	kind: "round-ended",
	label: "a round over my deals ends, with its minutes",
	usual: { onScreen: true, mail: "now" },
	async find({ context, as, is }) {
		const found: Found<{ round: string; on: string; called: number; deals: number }>[] = [];
		const { organisation } = context;
		for (const { round, deals, promised } of await roundsEndedSince(connection().db, new Date(Date.now() - BACK))) {
			if (round.kind !== "round") continue;
			const owners = new Set(deals.flatMap((id) => is.deals[organisation.dealIndex.get(id) ?? -1]?.owner ?? []));
			const concerned = organisation.people.filter(
				(person, index) =>
					person.id === round.startedById ||
					owners.has(index) ||
					promised.includes(person.id) ||
					(person.role === "manager" && [...owners].every((owner) => reaches(reachOf(organisation, { person, index }), owner)) && person.team !== null),
			);
			const key = `${round.id} ${round.endedReally?.toISOString()}`;
			// Minutes are long to put together, and are told once.
			const told = new Set(
				(
					await connection()
						.db.select({ id: news.personId })
						.from(news)
						.where(and(eq(news.kind, "round-ended"), eq(news.key, key)))
				).map(({ id }) => id),
			);
			for (const { id } of concerned) {
				if (told.has(id)) continue;
				const reader = as(id);
				const minutes = reader && (await readMinutes(reader, round.id).catch(() => null));
				if (!minutes || (!minutes.deals.length && !minutes.promises.length)) continue;
				const money = (amount: number) => `${currencySign(minutes.currency)}${fullAmount(amount, minutes.currency)}`;
				found.push({
					personId: id,
					key,
					facts: { round: round.name, on: formatDay(context.now.day), called: minutes.deals.length - minutes.uncalled, deals: minutes.deals.length },
					path: `/rounds/${round.id}`,
					parts: [
						{ heading: "Promised", lines: minutes.promises.map(({ title, who, due }) => ({ words: `${title} (${who}${due ? `, by ${due}` : ""})` })) },
						{
							heading: "Calls",
							lines: minutes.deals.map(({ id: deal, name, amount, said, note }) => ({
								words: `${name}, ${money(amount)}: ${said}${note ? ` (${note})` : ""}`,
								path: `/deals/${encodeURIComponent(deal)}`,
							})),
						},
						...totalsPart(minutes, money),
					],
				});
			}
		}
		return found;
	},
	say: ({ round, on, called, deals }) => `${round} ended on ${dayWords(on)}: ${called} of ${deals} deals called`,
});
