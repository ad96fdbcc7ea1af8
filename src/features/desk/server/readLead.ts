import { surveyOn } from "@/core/survey";
import { type Day, formatDay, NO_DAY, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { type DealRow, someDeals } from "@/features/deals";
import { readPlans, readPrepared, readRests } from "@/features/rounds";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dealPath } from "@/platform/paths";
import { resolveViewpoint, type Viewpoint, type ViewpointQuery } from "@/platform/viewpoint";
import { handedBackPart, latePart, mentionsPart, repliesPart } from "./leadTasks";
import type { AllOfPart, LeadDesk, LeadItem, LeadPart } from "./leadView";
import { hasLooked, readLooks, saidOf } from "./looks";

const dayWords = (iso: string) => shortDay(parseDay(iso) ?? 0);
const SHOWN = 8;
const WEEK = 7;

/** What waits for a manager and hasn’t been set aside: answers asked for, tasks handed back, mentions, replies, deals that came to act, late tasks, rounds, and deals due this week. */
export const readLead = query("desk.lead", "readDesk", async (context: Context, asked: ViewpointQuery): Promise<LeadDesk | null> => {
	if (context.actor.person.role !== "manager") return null;
	const team = resolveViewpoint(context, { ...asked, whose: undefined, due: "any" });
	const { day } = team.seen;
	const { since, asides } = await readLooks(context);
	const parts = [
		await wordPart(context),
		await handedBackPart(context),
		await mentionsPart(context, day),
		await repliesPart(context, since),
		litPart(context, team, since),
		await latePart(context),
		await roundsPart(context),
		duePart(context, team),
	];
	return {
		parts: parts.map((part) => waiting(part, asides)).filter(({ count }) => count > 0),
		aside: parts.reduce((sum, part) => sum + part.items.length - waiting(part, asides).count, 0),
		looked: await hasLooked(context),
		currency: context.organisation.company.rules.rates.base,
	};
});

/** A part without what the person set aside, as far as it is still said as it was then. */
function waiting({ items, ...part }: AllOfPart, asides: ReadonlyMap<string, string>): LeadPart {
	const left = items.map((item) => ({ ...item, id: `${part.key} ${item.id}` })).filter(({ id, words, about }) => asides.get(id) !== saidOf({ words, about }));
	return { ...part, items: left.slice(0, SHOWN), count: left.length };
}

async function wordPart(context: Context): Promise<AllOfPart> {
	const { rests } = await readRests(context);
	const asked = rests.filter(({ state }) => state === "asked");
	return {
		key: "word",
		heading: "Waits for my word",
		items: asked.map((rest) => ({
			id: rest.id,
			words: rest.deal,
			about: `${rest.askedBy ?? "Somebody"} asks to leave it alone until ${dayWords(rest.until)}: ${rest.reason}`,
			path: "/rounds?show=rests",
			level: null,
			amount: rest.amount,
		})),
		path: "/rounds?show=rests",
	};
}

async function roundsPart(context: Context): Promise<AllOfPart> {
	const soon = formatDay(context.now.day + WEEK);
	const plans = (await readPlans(context)).filter(({ next, mayHold }) => mayHold && next <= soon);
	const items: LeadItem[] = [];
	for (const { id, name, next, whoseKey, due } of plans) {
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
	return { key: "rounds", heading: "Rounds of the coming week", items, path: "/rounds" };
}

/** Deals that are at act and weren’t at the end of a day. */
function litPart(context: Context, team: Viewpoint, since: Day): AllOfPart {
	const before = surveyOn(context.organisation.company, since).deals;
	const lit = someDeals(context, team, ({ deal, attention: { level } }) => level === "act" && before[deal]?.attention.level !== "act");
	return {
		...dealsPart(lit, (row) =>
			row.flags
				.map(({ label }) => label)
				.slice(0, 2)
				.join(", "),
		),
		key: "lit",
		heading: `Came to act since ${shortDay(since)}`,
	};
}

function duePart(context: Context, team: Viewpoint): AllOfPart {
	const { day } = team.seen;
	const due = someDeals(context, team, ({ close }) => close !== NO_DAY && close >= day && close <= day + WEEK).sort((a, b) => b.amount - a.amount);
	return { ...dealsPart(due, ({ stage, close }) => `${stage}, closes ${dayWords(close ?? "")}`), key: "due", heading: "Due within a week" };
}

const dealsPart = (rows: readonly DealRow[], about: (row: DealRow) => string) => ({
	items: rows.map((row) => ({
		id: row.id,
		words: row.name,
		about: `${row.ownerShort} · ${about(row)}`,
		path: dealPath(row.id),
		level: row.level,
		amount: row.amount,
	})),
	path: "/deals",
});
