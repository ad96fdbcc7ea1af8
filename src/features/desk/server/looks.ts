import { and, eq, lt, sql } from "drizzle-orm";
import { z } from "zod";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { deskAsides, deskLooks } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import type { LeadItem } from "./leadView";

/** calendar days: who was away for longer is told what happened in so many */
const FURTHEST = 30;
/** calendar days after which what they set aside is forgotten */
const KEPT = 90;

/** What is said of something on a desk; said otherwise it waits again. */
export const saidOf = ({ words, about }: Pick<LeadItem, "words" | "about">): string => `${words}: ${about}`.slice(0, 500);

/** Since the end of which day they are told what happened (the day they last looked before today, else the last working day), and what they set aside, by item. */
export async function readLooks({ organisation, actor, now }: Context): Promise<{ readonly since: Day; readonly asides: ReadonlyMap<string, string> }> {
	const { db } = connection();
	const own = actor.person.id;
	const [look] = await db.select().from(deskLooks).where(eq(deskLooks.personId, own));
	const rows = await db.select({ item: deskAsides.item, said: deskAsides.said }).from(deskAsides).where(eq(deskAsides.personId, own));
	const last = look && (look.day < formatDay(now.day) ? look.day : look.before);
	const usual = organisation.company.rules.calendar.lastOnOrBefore(now.day - 1);
	// A day that is fixed may lie before the one they looked on.
	const since = last && last < formatDay(now.day) ? (parseDay(last) ?? usual) : usual;
	return { since: Math.max(now.day - FURTHEST, since), asides: new Map(rows.map(({ item, said }) => [item, said])) };
}

/** Whether they looked at their desk today already. */
export async function hasLooked({ actor, now }: Context): Promise<boolean> {
	const [look] = await connection().db.select({ day: deskLooks.day }).from(deskLooks).where(eq(deskLooks.personId, actor.person.id));
	return look?.day === formatDay(now.day);
}

/** Keeps that the person looks at their desk today. */
export const lookAtDesk = command({
	name: "desk.look",
	right: "readDesk",
	input: z.object({}),
	async run({ context: { actor, now }, tx }) {
		const today = formatDay(now.day);
		await tx
			.insert(deskLooks)
			.values({ personId: actor.person.id, day: today, before: null })
			.onConflictDoUpdate({ target: deskLooks.personId, set: { day: today, before: sql`${deskLooks.day}` }, setWhere: sql`${deskLooks.day} <> ${today}` });
		return { result: {}, touched: "nothing", audit: [] };
	},
});

/** Sets something on one’s desk aside as it is said now, or (`aside` false) puts it back. */
export const setAside = command({
	name: "desk.setAside",
	right: "readDesk",
	input: z.object({ item: z.string().min(1).max(300), words: z.string().max(2000), about: z.string().max(5000), aside: z.boolean().default(true) }),
	async run({ context: { actor, now }, input: { item, aside, ...words }, tx }) {
		const own = eq(deskAsides.personId, actor.person.id);
		const at = new Date(now.instant);
		await tx.delete(deskAsides).where(and(own, lt(deskAsides.at, new Date(now.instant - KEPT * 86_400_000))));
		if (aside) {
			const said = saidOf(words);
			await tx
				.insert(deskAsides)
				.values({ personId: actor.person.id, item, said, at })
				.onConflictDoUpdate({ target: [deskAsides.personId, deskAsides.item], set: { said, at } });
		} else await tx.delete(deskAsides).where(and(own, eq(deskAsides.item, item)));
		return { result: {}, touched: "nothing", audit: [] };
	},
});
