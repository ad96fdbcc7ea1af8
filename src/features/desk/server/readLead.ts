import { surveyOn } from "@/core/survey";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { readDeals } from "@/features/deals";
import { readPlans, readPrepared, readRests } from "@/features/rounds";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealPath } from "@/platform/paths";
import { resolveViewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { handedBackPart, latePart, repliesPart } from "./leadTasks";
import type { LeadDesk, LeadItem, LeadPart } from "./leadView";

const dayWords = (iso: string) => shortDay(parseDay(iso) ?? 0);
const SHOWN = 8;
const WEEK = 7;

/** What waits for a manager: answers asked for, tasks handed back, replies, deals that came to act, late tasks, rounds, and deals due this week. */
export const readLead = query("desk.lead", "readDesk", async (context: Context, asked: ViewpointQuery): Promise<LeadDesk | null> => {
	if (context.actor.person.role !== "manager") return null;
	const team = resolveViewpoint(context, { ...asked, whose: undefined, due: "any" });
	const { rows, currency } = readDeals(context, team);
	const { day } = team.seen;
	const before = context.organisation.company.rules.calendar.lastOnOrBefore(day - 1);
	const parts = [
		await wordPart(context),
		await handedBackPart(context),
		await repliesPart(context, before),
		litPart(context, rows, day),
		await latePart(context),
		await roundsPart(context),
		duePart(rows, day),
	];
	return { parts: parts.filter(({ count }) => count > 0), currency };
});

type Rows = ReturnType<typeof readDeals>["rows"];

async function wordPart(context: Context): Promise<LeadPart> {
	const { rests } = await readRests(context);
	const asked = rests.filter(({ state }) => state === "asked");
	return {
		key: "word",
		heading: "Waits for my word",
		items: asked.slice(0, SHOWN).map((rest) => ({
			id: rest.id,
			words: rest.deal,
			about: `${rest.askedBy ?? "Somebody"} asks to leave it alone until ${dayWords(rest.until)}: ${rest.reason}`,
			path: "/rounds?show=rests",
			level: null,
			amount: rest.amount,
		})),
		count: asked.length,
		path: "/rounds?show=rests",
	};
}

async function roundsPart(context: Context): Promise<LeadPart> {
	const soon = formatDay(context.now.day + WEEK);
	const plans = (await readPlans(context)).filter(({ next, mayHold }) => mayHold && next <= soon);
	const items: LeadItem[] = [];
	for (const { id, name, next, whoseKey, due } of plans.slice(0, SHOWN)) {
		const prepared = await readPrepared(context, resolveViewpoint(context, { whose: whoseKey }));
		const of = prepared.reduce((sum, one) => sum + one.deals, 0);
		const ready = prepared.reduce((sum, one) => sum + one.ready, 0);
		items.push({
			id,
			words: name,
			about: `${due ? "today" : dayWords(next)}; ${ready} of ${plural(of, "deal")} prepared`,
			path: "/rounds",
			level: null,
			amount: null,
		});
	}
	return { key: "rounds", heading: "Rounds of the coming week", items, count: plans.length, path: "/rounds" };
}

/** Deals that are at act and weren’t on the working day before. */
function litPart({ organisation }: Context, rows: Rows, day: Day): LeadPart {
	const { company, dealIndex } = organisation;
	const before = surveyOn(company, company.rules.calendar.lastOnOrBefore(day - 1)).deals;
	const lit = rows.filter(({ id, level }) => level === "act" && before[dealIndex.get(id) ?? -1]?.attention.level !== "act").sort((a, b) => b.score - a.score);
	return {
		...dealsPart(lit, (row) =>
			row.flags
				.map(({ label }) => label)
				.slice(0, 2)
				.join(", "),
		),
		key: "lit",
		heading: "Came to act since the last working day",
	};
}

function duePart(rows: Rows, day: Day): LeadPart {
	const [from, to] = [formatDay(day), formatDay(day + WEEK)];
	const due = rows.filter(({ close }) => close !== null && close >= from && close <= to).sort((a, b) => b.amount - a.amount);
	return { ...dealsPart(due, ({ stage, close }) => `${stage}, closes ${dayWords(close ?? "")}`), key: "due", heading: "Due within a week" };
}

const dealsPart = (rows: Rows, about: (row: Rows[number]) => string) => ({
	items: rows
		.slice(0, SHOWN)
		.map((row) => ({ id: row.id, words: row.name, about: `${row.ownerShort} · ${about(row)}`, path: dealPath(row.id), level: row.level, amount: row.amount })),
	count: rows.length,
	path: "/deals",
});
