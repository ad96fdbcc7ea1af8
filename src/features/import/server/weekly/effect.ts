import { differing, FIELD_KEYS, FIELDS } from "@/core/deal/fields";
import type { DealState } from "@/core/deal/state";
import { exactAmount } from "@/core/money/words";
import { type Day, parseDay } from "@/core/time/day";
import { plural } from "@/core/time/words";
import { inForce, overlay, versionsFrom } from "@/core/weekly/versions";
import type { Sql } from "@/data/db";
import type { weeklyFiles } from "@/data/schema";
import type { WeeklyPlan } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { breathe } from "@/platform/threads";
import type { Ask, SaidRow } from "./look";
import type { Names } from "./people";
import { vanishingWithout } from "./rebuild";
import { dealsLastIn, fileBefore, fileInstant, importOf, isWeekly, statementsOf, versionsOf } from "./store";
import { compareSums, type Sums } from "./sums";

export interface WeeklyChange {
	readonly fresh: number;
	readonly changed: number;
	readonly same: number;
	/** deals of the file before that are open and not in this one; decided later, one by one */
	readonly missing: number;
	/** how many deals change in a field */
	readonly fields: readonly { readonly words: string; readonly count: number }[];
	readonly newPeople: readonly string[];
	readonly newAccounts: number;
	/** of the changed ones, those that somebody changed here since the file before: the file's word is taken */
	readonly editedHere: number;
	/** count and total of the file against those of the file before */
	readonly sums: Sums;
}

interface Given {
	readonly day: string;
	readonly covers: string;
	readonly read: readonly SaidRow[];
	readonly names: Names;
	readonly files: readonly (typeof weeklyFiles.$inferSelect)[];
	/** lines that look like totals or notes */
	readonly below: readonly number[];
	readonly plan: WeeklyPlan;
}

/** An amount this many times what it was, or this part of it, is asked about. */
const JUMP = 10;
/** so many names are told; of more, how many */
const NAMED = 8;

const listed = (names: readonly string[]) => `${names.slice(0, NAMED).join(", ")}${names.length > NAMED ? ` and ${names.length - NAMED} more` : ""}`;

/** What taking a file in would do: how many deals are new, changed and missing, what they come to, and what has to be confirmed first. */
export async function effectOf(db: Sql, context: Context, given: Given) {
	const { day, covers, read, names, files } = given;
	const at = fileInstant(context, parseDay(day) ?? 0);
	const ofDay = files.find((file) => file.day === day && file.covers === covers);
	const before = await fileBefore(db, day, covers);
	const earlier = before ? await dealsLastIn(db, before.id, day) : [];
	const ids = [...new Set([...read.map((row) => row.id), ...earlier])];
	const versions = await versionsOf(db, ids);
	const statements = await statementsOf(db, context, ids, ofDay?.id ?? null);
	/** what holds at the file's instant without it */
	const holds = (id: string) => {
		const fixed = (versions.get(id) ?? []).filter((version) => !isWeekly(version.importId));
		return inForce([...fixed, ...versionsFrom(statements.get(id) ?? [], fixed)], at);
	};
	const counts = new Map(FIELD_KEYS.map((field) => [field, 0]));
	const jumps: string[] = [];
	let [fresh, changed, editedHere] = [0, 0, 0];
	for (const [i, row] of read.entries()) {
		await breathe(i);
		const state = holds(row.id);
		const fields = state ? differing(state, overlay(state, row.said)) : [];
		if (!state) fresh++;
		else if (fields.length) {
			changed++;
			for (const field of fields) counts.set(field, (counts.get(field) ?? 0) + 1);
			const jump = jumpOf(row, state);
			if (jump) jumps.push(jump);
			const last = (versions.get(row.id) ?? []).filter((version) => version.at <= at && version.importId !== (ofDay ? importOf(ofDay.id) : null)).at(-1);
			if (before && last && !isWeekly(last.importId) && last.at > fileInstant(context, parseDay(before.day) ?? 0)) editedHere++;
		}
	}
	const kinds = new Map(context.organisation.company.rules.stages.map((stage) => [stage.name, stage.kind]));
	const open = earlier.filter((id) => kinds.get(holds(id)?.stage ?? "") === "open");
	const here = new Set(read.map((row) => row.id));
	const missing = open.filter((id) => !here.has(id));
	const sums = await compareSums(db, context, read, before ?? null);
	const vanishing = ofDay ? await vanishingWithout(db, context, ofDay.id, here) : [];
	const ends = { total: sums.total, known: read.length - fresh };
	const asks = [
		belowAsk(given),
		missingAsk(before ?? null, missing, open),
		replaceAsk(ofDay, vanishing),
		jumpAsk(jumps),
		totalAsk(ends.total),
		farAsk(read, parseDay(day) ?? 0),
	].filter((ask) => ask !== null);
	const change: WeeklyChange = {
		fresh,
		changed,
		same: read.length - fresh - changed,
		missing: missing.length,
		fields: FIELDS.flatMap(({ key, words }) => {
			const count = counts.get(key) ?? 0;
			return count ? [{ words, count }] : [];
		}),
		newPeople: [...names.newPeople.keys()],
		newAccounts: names.newAccounts.size,
		editedHere,
		sums,
	};
	return { change, missing, asks, before: before && { name: before.name, day: before.day } };
}

const money = (amount: number, currency: string | null) => (currency ? `${currency} ${exactAmount(amount, currency)}` : "");

/** A deal's amount that is ten times what it was, or a tenth, in words; null where it isn't. */
function jumpOf(row: SaidRow, state: DealState): string | null {
	const [was, is] = [state.amount ?? 0, row.said.amount ?? 0];
	if (!was || !is || state.currency !== row.said.currency) return null;
	const times = Math.abs(is / was);
	if (times < JUMP && times > 1 / JUMP) return null;
	return `${row.name || row.id} (${money(was, state.currency)}, now ${money(is, row.said.currency ?? null)})`;
}

function jumpAsk(jumps: readonly string[]): Ask | null {
	if (!jumps.length) return null;
	return {
		key: "jumps",
		words: `${plural(jumps.length, "deal")} became ten times as large as before, or a tenth: ${listed(jumps)}. Are amounts read as they are meant?`,
		yes: "Yes, these amounts are right",
	};
}

function totalAsk({ before, now }: Sums["total"]): Ask | null {
	if (!before?.amount || !now.amount) return null;
	const times = Math.abs(now.amount / before.amount);
	if (times < JUMP && times > 1 / JUMP) return null;
	return {
		key: "total",
		words: `All deals together come to ${times >= JUMP ? "ten times what they were, or more" : "a tenth of what they were, or less"}.`,
		yes: "Yes, the total is right",
	};
}

function missingAsk(before: { name: string; day: string } | null, missing: readonly string[], open: readonly string[]): Ask | null {
	const all = missing.length === open.length;
	if (!before || !missing.length || !(all || (missing.length >= 2 && missing.length * 3 >= open.length))) return null;
	const here = open.length - missing.length;
	return {
		key: "missing",
		words: `${all ? "None" : `Only ${here}`} of the ${open.length} open deals in ${before.name} (${before.day}) ${all || here === 1 ? "is" : "are"} in this file. Is it the whole pipeline, with the same deal numbers? Nothing is closed by itself: each missing deal waits for your decision. If it is about another part of the pipeline, say which under “It covers”.`,
		yes: "Yes, this is the whole pipeline",
	};
}

function replaceAsk(ofDay: { name: string; covers: string } | undefined, vanishing: readonly { id: string; name: string }[]): Ask | null {
	if (!ofDay || !vanishing.length) return null;
	return {
		key: "replace",
		words: `${ofDay.name} is of the same day, and this file would take its place. ${plural(vanishing.length, "deal")} that only it knows would be gone: ${listed(vanishing.map((deal) => deal.name || deal.id))}. If the two are about two parts of the pipeline, say which under “It covers”; both then stay.`,
		yes: `Yes, take the place of ${ofDay.name}`,
	};
}

function belowAsk({ below, plan }: Given): Ask | null {
	if (!below.length || !plan.leaveBelow) return null;
	const lines = below.length === 1 ? `Line ${below[0]} looks` : `Lines ${below[0]} to ${below.at(-1)} look`;
	return {
		key: "below",
		words: `${lines} like totals or notes below the table, and ${below.length === 1 ? "is" : "are"} left out.`,
		yes: "Yes, leave them out",
	};
}

const FAR = 10 * 366;
function farAsk(read: readonly SaidRow[], day: Day): Ask | null {
	const far = read.filter((row) => row.closeDate !== null && Math.abs((parseDay(row.closeDate) ?? day) - day) > FAR);
	if (!far.length) return null;
	return {
		key: "far",
		words: `${plural(far.length, "close date")} lie${far.length === 1 ? "s" : ""} more than ten years from the file’s day: ${listed(far.map((row) => `${row.name || row.id} (${row.closeDate})`))}.`,
		yes: "Yes, these days are right",
	};
}
