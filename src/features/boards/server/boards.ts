import { and, eq, inArray, isNotNull, or, sql } from "drizzle-orm";
import { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { type BoardTile, boardOpenings, boards } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { keptName, MOST_SHOWN, oneLine, shareIn, sharingTeams } from "@/platform/sharing";
import { COLUMNS, MOST_ROWS, MOST_TILES, settle } from "../table/layout";

const whole = (most: number) => z.number().int().min(0).max(most);
const tile = z
	.object({
		id: z.string().min(1).max(60),
		kind: z.string().min(1).max(40),
		x: whole(COLUMNS - 1),
		y: whole(MOST_ROWS),
		w: z.number().int().min(1).max(COLUMNS),
		h: z.number().int().min(1).max(40),
		title: z.string().trim().max(80, "A tile’s title has at most 80 letters.").refine(oneLine, "A tile’s title is one line of text."),
		settings: z.record(z.string().max(40), z.string().max(4000, "This text is too long for a tile.")),
	})
	.meta({ id: "Tile" });

const tiles = z
	.array(tile)
	.max(MOST_TILES, `A board has at most ${MOST_TILES} tiles; remove one first.`)
	.refine((list) => new Set(list.map(({ id }) => id)).size === list.length, "A tile appears twice.");

export const boardSchema = z
	.object({
		id: z.string(),
		name: z.string(),
		tiles: z.array(tile),
		version: z.number().int(),
		own: z.boolean(),
		by: z.string(),
		sharedWith: z.string().nullable(),
		opening: z.boolean().meta({ description: "the program opens with it, for the person asking" }),
	})
	.meta({ id: "Board" });
export type Board = z.infer<typeof boardSchema>;

const MOST_OWN = 50;

/** One's own boards and those shared with one's team, by name. */
export const listBoards = query("boards.list", "keepBoards", async (context: Context): Promise<Board[]> => {
	const me = context.actor.person.id;
	const teams = sharingTeams(context);
	const { db } = connection();
	const [opening] = await db.select().from(boardOpenings).where(eq(boardOpenings.personId, me));
	const rows = await db
		.select()
		.from(boards)
		.where(or(eq(boards.ownerId, me), teams.length ? inArray(boards.sharedWith, teams) : undefined))
		// Where others share too many, one's own are all there.
		.orderBy(sql`${boards.ownerId} <> ${me}`, boards.name, boards.id)
		.limit(MOST_SHOWN);
	rows.sort((a, b) => a.name.localeCompare(b.name) || (a.id < b.id ? -1 : 1));
	return rows.map((row) => boardJson(context, row, opening?.boardId === row.id));
});

const boardJson = ({ organisation, actor }: Context, row: typeof boards.$inferSelect, opening: boolean): Board => ({
	id: row.id,
	name: row.name,
	tiles: [...row.tiles].map((one) => ({ ...one, settings: { ...one.settings } })),
	version: row.version,
	own: row.ownerId === actor.person.id,
	by: personName(organisation, row.ownerId) ?? "Somebody",
	sharedWith: row.sharedWith,
	opening,
});

/** Makes a board of one's own. */
export const makeBoard = command({
	name: "boards.make",
	right: "keepBoards",
	input: z.object({ name: keptName("board"), tiles: tiles.default([]), shared: z.boolean().default(false) }),
	async run({ context, input, tx }) {
		const ownerId = context.actor.person.id;
		if ((await tx.$count(boards, eq(boards.ownerId, ownerId))) >= MOST_OWN)
			throw new Fault(422, "Too many boards", `You have ${MOST_OWN} boards; delete one first.`);
		const values = {
			id: newId(),
			ownerId,
			name: input.name,
			tiles: settle(input.tiles) as BoardTile[],
			sharedWith: await shareIn(tx, context, boards, input.shared, "boards"),
		};
		const [row] = await tx.insert(boards).values(values).returning();
		if (!row) throw notFound("board", values.id);
		return {
			result: boardJson(context, row, false),
			touched: "nothing",
			audit: { action: "board created", subject: row.id, detail: { name: row.name, shared: input.shared } },
		};
	},
});

/**
 * Changes a board one sees: its name, its tiles, and (its owner) whom it is shared with. It needs the version that was seen.
 *
 * @throws Fault 412 when somebody has changed it since, and says who
 */
export const changeBoard = command({
	name: "boards.change",
	right: "keepBoards",
	input: z.object({ id: idSchema, version: z.number().int(), name: keptName("board").optional(), tiles: tiles.optional(), shared: z.boolean().optional() }),
	async run({ context, input: { id, version, name, tiles: next, shared }, tx }) {
		const row = await seenBoard(tx, context, id);
		if (row.version !== version) {
			const who = personName(context.organisation, row.changedBy) ?? "Somebody";
			throw new Fault(
				412,
				"Changed by someone else",
				`${who} changed this board after you opened it. Reload the page to continue; nothing of theirs was overwritten.`,
			);
		}
		const mine = row.ownerId === context.actor.person.id;
		if (shared !== undefined && !mine) throw new Fault(403, "Not allowed", "Only the person who made a board can share it or make it private.");
		const set = {
			...(name === undefined ? {} : { name }),
			...(next === undefined ? {} : { tiles: settle(next) as BoardTile[] }),
			...(shared === undefined ? {} : { sharedWith: await shareIn(tx, context, boards, shared, "boards") }),
		};
		await tx
			.update(boards)
			.set({ ...set, version: version + 1, changedBy: context.actor.person.id })
			.where(eq(boards.id, id));
		return {
			result: { version: version + 1 },
			touched: "nothing",
			audit: { action: "board changed", subject: id, detail: { name: row.name, before: tilesByName(row), after: tilesByName(set) } },
		};
	},
});

/** A board's name, whom it is shared with and its tiles, as the audit says them. */
const tilesByName = ({ tiles: all, name, sharedWith }: Partial<Pick<typeof boards.$inferSelect, "tiles" | "name" | "sharedWith">>) => ({
	...(name === undefined ? {} : { name }),
	...(sharedWith === undefined ? {} : { sharedWith }),
	...(all === undefined ? {} : { tiles: all.map((tile) => `${tile.title || tile.kind} at ${tile.x}/${tile.y}`) }),
});

/** Takes a board of one's own away; one that is shared ops may take away too. */
export const removeBoard = command({
	name: "boards.remove",
	right: "keepBoards",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const row = await seenBoard(tx, context, id);
		const ops = context.actor.person.role === "ops" && row.sharedWith !== null;
		if (row.ownerId !== context.actor.person.id && !ops) throw notFound("board of yours", id);
		await tx.delete(boards).where(eq(boards.id, id));
		return { result: {}, touched: "nothing", audit: { action: "board deleted", subject: id, detail: { name: row.name } } };
	},
});

/** A board that one sees, held until the commit; throws a 404 for any other. */
export async function seenBoard(tx: Tx, context: Context, id: string): Promise<typeof boards.$inferSelect> {
	const teams = sharingTeams(context);
	const mine = eq(boards.ownerId, context.actor.person.id);
	const [row] = await tx
		.select()
		.from(boards)
		.where(and(eq(boards.id, id), teams.length ? or(mine, and(isNotNull(boards.sharedWith), inArray(boards.sharedWith, teams))) : mine))
		.for("update");
	if (!row) throw notFound("board", id);
	return row;
}
