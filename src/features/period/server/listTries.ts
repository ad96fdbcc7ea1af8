import { and, desc, eq, inArray, or, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { tries } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";
import { MOST_SHOWN, sharingTeams } from "@/platform/sharing";
import type { SavedTry } from "./tryShape";

/** One's own tries and those shared with one's team, the newest first; of one period and people where they are named. */
export const listTries = query("period.tries", "keepTries", async (context: Context, of?: { whose: string; due: string }): Promise<SavedTry[]> => {
	const me = context.actor.person.id;
	const teams = sharingTeams(context);
	const rows = await connection()
		.db.select()
		.from(tries)
		.where(
			and(or(eq(tries.ownerId, me), teams.length ? inArray(tries.sharedWith, teams) : undefined), of && eq(tries.whose, of.whose), of && eq(tries.due, of.due)),
		)
		// Where others share too many, one's own are all there.
		.orderBy(sql`${tries.ownerId} <> ${me}`, desc(tries.createdAt), tries.id)
		.limit(MOST_SHOWN);
	rows.sort((a, b) => b.createdAt.getTime() - a.createdAt.getTime() || (a.id < b.id ? -1 : 1));
	return rows.map((row) => tryJson(context, row));
});

/** A stored try as screens and the API get it. */
export const tryJson = ({ organisation, actor }: Context, row: typeof tries.$inferSelect): SavedTry => ({
	id: row.id,
	name: row.name,
	whose: row.whose,
	due: row.due,
	madeOn: row.madeOn,
	moves: row.moves,
	own: row.ownerId === actor.person.id,
	by: personName(organisation, row.ownerId) ?? "Somebody",
	sharedWith: row.sharedWith,
});
