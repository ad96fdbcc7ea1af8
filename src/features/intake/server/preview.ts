import { asc, eq } from "drizzle-orm";
import { z } from "zod";
import { type Fate, fatesOf, type LeftWhy, strangersOf } from "@/core/contact/intake";
import { formatDay } from "@/core/time/day";
import { connection, type Sql } from "@/data/db";
import { intakeItems, intakes } from "@/data/schema";
import { lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { idSchema } from "@/platform/input";
import { aroundOf, contactsAt, type Intake, ownIntake, placeOf } from "./around";

const WHY: Readonly<Record<LeftWhy, string>> = {
	date: "has no date that can be right",
	future: "is dated after today",
	automatic: "was sent automatically",
	cancelled: "was cancelled",
	ours: "was neither written by one of us nor to one of us",
	theirs: "nobody known of theirs has part in it",
	twice: "is in the file twice",
};
const SHOWN = 200;
const MOST_STRANGERS = 30;

export const adding = z.array(z.string().trim().toLowerCase().min(3).max(300)).max(200).default([]);

/** Everything of an intake but what was written in it. */
export async function itemsOf(db: Sql, id: string) {
	const { ordinal, sort, key, at, fromAddress, fromName, others, subject, automatic, cancelled, files, activityId } = intakeItems;
	return db
		.select({ ordinal, sort, key, at, fromAddress, fromName, others, subject, automatic, cancelled, files, activityId })
		.from(intakeItems)
		.where(eq(intakeItems.intakeId, id))
		.orderBy(asc(ordinal));
}
export type Item = Awaited<ReturnType<typeof itemsOf>>[number];

/** What becomes of each message and meeting, were these people of theirs known. */
export async function judged(db: Sql, context: Context, intake: Intake, items: readonly Item[], adding: readonly string[]) {
	const found = items.flatMap(({ sort, key, at, fromAddress, others, automatic, cancelled }) =>
		sort === "card" ? [] : [{ sort, key, at: at?.getTime() ?? null, from: fromAddress, to: others.map(({ address }) => address), automatic, cancelled }],
	);
	const around = await aroundOf(
		db,
		context,
		intake,
		found.map(({ key }) => key),
		adding,
	);
	const fates = fatesOf(found, around);
	return { around, lines: items.filter(({ sort }) => sort !== "card").map((item, i) => ({ item, fate: fates[i] as Fate })) };
}

/** People on cards: who is new, and who is known by address or, without one, by name. */
export async function judgedCards(db: Sql, context: Context, intake: Intake, items: readonly Item[]) {
	const known = await contactsAt(db, placeOf(context, intake));
	const seen = new Set<string>();
	return items.flatMap((item) => {
		if (item.sort !== "card") return [];
		const same = known.find(({ email, name }) => (item.fromAddress && email ? email.toLowerCase() === item.fromAddress : name === item.fromName));
		const again = seen.has(item.key);
		seen.add(item.key);
		return [{ item, same: same ?? null, again }];
	});
}

/** What a file holds and what would be logged of it. Nothing is written. */
export const previewIntake = lookup({
	name: "intake.preview",
	right: "writeNotes",
	input: z.object({ id: idSchema, adding }),
	async run({ context, input }) {
		const { db } = connection();
		const [row] = await db.select().from(intakes).where(eq(intakes.id, input.id));
		const intake = ownIntake(context, row);
		const { name, state, done, total, problems } = intake;
		const about = { id: intake.id, name, state, done, total, problems: [...problems] };
		if (state === "reading") return { ...about, counts: null, lines: [], more: 0, strangers: [], cards: [] };
		const items = await itemsOf(db, intake.id);
		const { around, lines } = await judged(db, context, intake, items, input.adding);
		const cards = await judgedCards(db, context, intake, items);
		const before = input.adding.length ? { ...around, theirs: new Map([...around.theirs].filter(([, id]) => !id.startsWith("new "))) } : around;
		const talks = items.filter(({ sort }) => sort !== "card");
		const strangers = strangersOf(
			talks.map(({ fromAddress, fromName, others }) => ({ people: [{ address: fromAddress, name: fromName }, ...others] })),
			before,
		);
		const count = (fate: Fate["fate"]) => lines.filter((line) => line.fate.fate === fate).length;
		return {
			...about,
			counts: { new: count("new"), there: count("there"), left: count("left"), cards: cards.filter(({ same, again }) => !same && !again).length },
			lines: lines.slice(0, SHOWN).map((line) => lineOf(context, line)),
			more: Math.max(0, lines.length - SHOWN),
			strangers: strangers.slice(0, MOST_STRANGERS),
			cards: cards.slice(0, SHOWN).map(({ item, same, again }) => ({
				ordinal: item.ordinal,
				name: item.fromName,
				email: item.fromAddress || null,
				title: item.subject || null,
				fate: same
					? same.title || !item.subject
						? "is here already"
						: `is here already, and gets the title ${item.subject}`
					: again
						? "is in the file twice"
						: null,
			})),
		};
	},
});

function lineOf({ organisation }: Context, { item, fate }: { item: Item; fate: Fate }) {
	const { zone } = organisation.company.rules;
	const named = (address: string, name: string) => name || address;
	return {
		ordinal: item.ordinal,
		sort: item.sort,
		day: item.at ? formatDay(zone.dayOf(item.at.getTime())) : null,
		direction: fate.fate === "new" ? fate.direction : null,
		planned: fate.fate === "new" && fate.planned,
		from: named(item.fromAddress, item.fromName),
		to: item.others.map(({ address, name }) => named(address, name)),
		subject: item.subject,
		files: item.files.map(({ name }) => name),
		fate: fate.fate,
		why: fate.fate === "there" ? "is logged already" : fate.fate === "left" ? WHY[fate.why] : null,
	};
}
