import { FIELDS } from "@/core/deal/fields";
import { type Day, parseDay } from "@/core/time/day";
import { inForce, versionsFrom } from "@/core/weekly/versions";
import { byCount, plural, someOf } from "@/core/words/grammar";
import type { Sql } from "@/data/db";
import type { weeklyFiles } from "@/data/schema";
import type { DateOrder } from "@/formats/weekly/dates";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import type { WeeklyRead } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { changesOf, editedAfter, JUMP } from "./changesOf";
import type { Names } from "./people";
import { dealsIn, vanishingWithout } from "./rebuild";
import type { Ask, SaidRow, Sums, WeeklyChange } from "./shapes";
import { dealsLastIn, fileBefore, fileInstant, importOf, isWeekly, statementsOf, versionsOf } from "./store";
import { compareSums } from "./sums";

interface Given {
	readonly day: string;
	readonly covers: string;
	readonly read: readonly SaidRow[];
	readonly names: Names;
	readonly files: readonly (typeof weeklyFiles.$inferSelect)[];
	/** lines that look like totals, headings or notes */
	readonly below: readonly number[];
	readonly plan: WeeklyPlan;
	/** deals of rows that can't be read: they are in the file, so they aren't missing */
	readonly badDeals: readonly string[];
	readonly rounded: WeeklyRead["rounded"];
	/** the order in which dates were read before, where that can't read these */
	readonly datesBefore: DateOrder | null;
	/** the file that was imported with the very same bytes */
	readonly sameFile: typeof weeklyFiles.$inferSelect | undefined;
}

/** so many names are told; of more, how many */
const NAMED = 8;

const listed = (names: readonly string[]) => someOf(names, NAMED);

/** What taking a file in would do: how many deals are new, changed and missing, what they come to, and what has to be confirmed first. */
export async function effectOf(db: Sql, context: Context, given: Given) {
	const { day, covers, read, names, files } = given;
	const at = fileInstant(context, parseDay(day) ?? 0);
	const ofDay = files.find((file) => file.day === day && file.covers === covers);
	const before = await fileBefore(db, day, covers);
	const earlier = before ? await dealsLastIn(db, before.id, day) : [];
	const ids = [...new Set([...read.map((row) => row.id), ...earlier])];
	const versions = await versionsOf(db, ids);
	const adds = given.plan.adds && ofDay ? ofDay : null;
	const statements = await statementsOf(db, context, ids, adds ? null : (ofDay?.id ?? null));
	/** what holds at the file's instant without it */
	const holds = (id: string) => {
		const fixed = (versions.get(id) ?? []).filter((version) => !isWeekly(version.importId));
		return inForce([...fixed, ...versionsFrom(statements.get(id) ?? [], fixed)], at);
	};
	const isEdited = editedAfter(context, versions, at, before ?? null, ofDay ? importOf(ofDay.id) : null);
	const { fresh, changed, editedHere, counts, jumps, blanked } = await changesOf(read, holds, isEdited);
	const kinds = new Map(context.organisation.company.rules.stages.map((stage) => [stage.name, stage.kind]));
	const open = earlier.filter((id) => kinds.get(holds(id)?.stage ?? "") === "open");
	const here = new Set([...read.map((row) => row.id), ...given.badDeals, ...(adds ? await dealsIn(db, adds.id) : [])]);
	const missing = open.filter((id) => !here.has(id));
	const sums = await compareSums(db, context, read, before ?? null);
	const vanishing = ofDay && !adds ? await vanishingWithout(db, context, ofDay.id, here) : [];
	const had = ofDay && !adds ? await dealsIn(db, ofDay.id) : [];
	const asks = [
		sameAsk(given.sameFile, day),
		belowAsk(given),
		datesAsk(given),
		adds ? null : missingAsk(before ?? null, missing, open),
		adds ? null : replaceAsk(ofDay, vanishing, had.length > 0 && !had.some((id) => here.has(id))),
		jumpAsk(jumps),
		blankAsk(blanked),
		roundedAsk(given.rounded.thousands),
		adds ? null : totalAsk(sums.total),
		farAsk(read, parseDay(day) ?? 0),
	].filter((ask) => ask !== null);
	const change: WeeklyChange = {
		fresh,
		changed,
		same: read.length - fresh - changed,
		missing: missing.length,
		fields: FIELDS.flatMap(({ key, label }) => {
			const count = counts.get(key) ?? 0;
			return count ? [{ label, count }] : [];
		}),
		newPeople: [...names.newPeople.keys()],
		newAccounts: names.newAccounts.size,
		editedHere,
		leftOut: given.badDeals.length,
		rounded: given.rounded.count,
		sums,
	};
	return { change, missing, asks, before: before && { name: before.name, day: before.day } };
}

function jumpAsk(jumps: readonly string[]): Ask | null {
	if (!jumps.length) return null;
	return {
		key: "jumps",
		words: `${plural(jumps.length, "deal")} became ten times as large as before, or a tenth: ${listed(jumps)}. Are the amounts read correctly?`,
		yes: "Yes, these amounts are right",
	};
}

function totalAsk({ before, now }: Sums["total"]): Ask | null {
	if (!before?.amount || !now.amount) return null;
	const times = Math.abs(now.amount / before.amount);
	if (times < JUMP && times > 1 / JUMP) return null;
	return {
		key: "total",
		words: `The total of all deals is ${times >= JUMP ? "ten times what they were, or more" : "a tenth of what they were, or less"}.`,
		yes: "Yes, the total is right",
	};
}

function missingAsk(before: { name: string; day: string } | null, missing: readonly string[], open: readonly string[]): Ask | null {
	const all = missing.length === open.length;
	if (!before || !missing.length || !(all || (missing.length >= 2 && missing.length * 3 >= open.length))) return null;
	const here = open.length - missing.length;
	return {
		key: "missing",
		words: `${all ? "None" : `Only ${here}`} of the ${open.length} open deals in ${before.name} (${before.day}) ${all ? "is" : byCount(here, "is", "are")} in this file. Is this the whole pipeline, with the same deal numbers? Nothing closes automatically: each missing deal waits for your decision. If the file covers another part of the pipeline, enter it under “Covers”.`,
		yes: "Yes, this is the whole pipeline",
	};
}

function replaceAsk(ofDay: { name: string; covers: string } | undefined, vanishing: readonly { id: string; name: string }[], apart: boolean): Ask | null {
	if (!ofDay || !(vanishing.length || apart)) return null;
	return {
		key: "replace",
		words: `${ofDay.name} is from the same day, and this file would replace it. ${
			vanishing.length
				? `${plural(vanishing.length, "deal")} that only this file has would be deleted: ${listed(vanishing.map((deal) => deal.name || deal.id))}`
				: "None of its deals is in this file"
		}. If these rows were left out of it, add them to it instead. If the files cover different parts of the pipeline, enter each part under “Covers”; both are then kept.`,
		yes: `Yes, replace ${ofDay.name}`,
	};
}

function belowAsk({ below, plan }: Given): Ask | null {
	if (!below.length || !plan.leaveBelow) return null;
	const lines = byCount(below.length, `Line ${below[0]} looks`, `Lines ${listed(below.map(String))} look`);
	return {
		key: "below",
		words: `${lines} like totals, headings or notes, not like deals, and ${byCount(below.length, "is", "are")} left out.`,
		yes: "Yes, skip them",
	};
}

const DATE_WORDS: Readonly<Record<DateOrder, string>> = {
	ymd: "year, month, day",
	dmy: "day, month, year",
	mdy: "month, day, year",
	serial: "as a spreadsheet’s count of days",
};

function datesAsk({ datesBefore, plan }: Given): Ask | null {
	if (!datesBefore) return null;
	return {
		key: "dates",
		words: `Dates were read as ${DATE_WORDS[datesBefore]} before; these can only be read as ${DATE_WORDS[plan.dates]}.`,
		yes: `Yes, this file’s dates are ${DATE_WORDS[plan.dates]}`,
	};
}

function sameAsk(same: Given["sameFile"], day: string): Ask | null {
	if (!same || same.day === day) return null;
	return {
		key: "same",
		words: `This exact file was imported for ${same.day} already. For ${day} it would mean that nothing has changed since.`,
		yes: `Yes, the pipeline of ${day} is the same`,
	};
}

function blankAsk(blanked: readonly string[]): Ask | null {
	if (!blanked.length) return null;
	return {
		key: "blanks",
		words: `${plural(blanked.length, "deal")} had an amount and ${byCount(blanked.length, "has", "have")} none in this file: ${listed(blanked)}. Deals without an amount count as 0.`,
		yes: "Yes, these amounts are blank",
	};
}

function roundedAsk(amounts: WeeklyRead["rounded"]["thousands"]): Ask | null {
	if (!amounts.length) return null;
	return {
		key: "rounded",
		words: `${plural(amounts.length, "amount")} could be thousands, and ${byCount(amounts.length, "is", "are")} read with decimals and rounded: ${listed(amounts.map(({ line, text }) => `${text} in line ${line}`))}.`,
		yes: "Yes, these are decimals",
	};
}

const FAR = 10 * 366;
function farAsk(read: readonly SaidRow[], day: Day): Ask | null {
	const far = read.filter((row) => row.closeDate !== null && Math.abs((parseDay(row.closeDate) ?? day) - day) > FAR);
	if (!far.length) return null;
	return {
		key: "far",
		words: `${plural(far.length, "close date")} lie${byCount(far.length, "s", "")} more than ten years from the file’s date: ${listed(far.map((row) => `${row.name || row.id} (${row.closeDate})`))}.`,
		yes: "Yes, these days are right",
	};
}
