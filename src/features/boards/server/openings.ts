import { eq, inArray } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { connection, type Tx } from "@/data/db";
import type { Person } from "@/data/organisation/state";
import { boardOpenings, boards } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reaches, reachOf } from "@/platform/reach";
import { sharingTeamsOf } from "@/platform/sharing";
import { listBoards, seenBoard } from "./boards";

type Row = Pick<typeof boards.$inferSelect, "ownerId" | "sharedWith">;

/** The id of the board that somebody opens the program with; null where there is none, or they don't see it any more. */
export const openingBoard = query("boards.opening", "keepBoards", async (context: Context): Promise<string | null> => {
	return (await listBoards(context)).find(({ opening }) => opening)?.id ?? null;
});

/** Makes a board the one the program opens with, for oneself; null: none. */
export const openWithBoard = command({
	name: "boards.openWith",
	right: "keepBoards",
	input: z.object({ id: idSchema.nullable() }),
	async run({ context, input: { id }, tx }) {
		if (id !== null) await seenBoard(tx, context, id);
		await setOpening(tx, context.actor.person.id, id);
		return { result: {}, touched: "nothing", audit: [] };
	},
});

/** Somebody who sees a board, and what the program opens with for them. */
export interface BoardReader {
	readonly id: string;
	readonly name: string;
	/** `other`: a board that whoever asks doesn't see; it is their own business */
	readonly opens: "this" | "usual" | "shared" | "other";
}

/** People whom one may have opening with a board, as they see it too: those within reach who work here. */
export const boardReaders = query("boards.readers", "openBoardsFor", async (context: Context, id: string): Promise<BoardReader[]> => {
	const { db } = connection();
	const [board] = await db.select().from(boards).where(eq(boards.id, id));
	const seen = new Set((await listBoards(context)).map((one) => one.id));
	if (!board || !seen.has(id)) throw notFound("board", id);
	const openings = new Map((await db.select().from(boardOpenings)).map((one) => [one.personId, one.boardId]));
	return othersReached(context)
		.filter((person) => seesBoard(context, person, board))
		.map((person) => {
			const opening = openings.get(person.id);
			const opens = opening === undefined ? "usual" : opening === id ? "this" : seen.has(opening) ? "shared" : "other";
			return { id: person.id, name: person.name, opens };
		});
});

/**
 * Has the program open with a board for others within reach, or as usual (null). A board of their own choosing that
 * whoever does this doesn't see is left alone.
 *
 * @throws Fault 404 for somebody out of reach, 422 for somebody who doesn't see the board or has chosen one of their own
 */
export const openBoardsFor = command({
	name: "boards.openFor",
	right: "openBoardsFor",
	input: z.object({
		openings: z
			.array(z.object({ person: idSchema, board: idSchema.nullable() }))
			.min(1)
			.max(500),
	}),
	async run({ context, input: { openings }, tx }) {
		const people = new Map(othersReached(context).map((person) => [person.id, person]));
		const named = [...new Set(openings.flatMap(({ board }) => board ?? []))];
		const rows = new Map<string, Awaited<ReturnType<typeof seenBoard>>>();
		for (const id of named) rows.set(id, await seenBoard(tx, context, id));
		const ids = openings.map(({ person }) => person);
		const standing = new Map((await tx.select().from(boardOpenings).where(inArray(boardOpenings.personId, ids))).map((one) => [one.personId, one.boardId]));
		const before = [];
		for (const { person: id, board } of openings) {
			const person = people.get(id);
			if (!person) throw notFound("person", id);
			const row = board === null ? null : rows.get(board);
			if (row && !seesBoard(context, person, row))
				throw new Fault(422, "They can’t see it", `${person.name} can’t see this board; share it with a team they belong to first.`);
			const own = standing.get(id) ?? null;
			if (own !== null) await leaveAlone(tx, context, own, person.name);
			before.push({ person: id, board: own });
			await setOpening(tx, id, board);
		}
		const nameOf = (board: string | null) => (board === null ? null : (rows.get(board)?.name ?? board));
		const audit = before.map(({ person, board }, i) => ({
			action: "opening board set",
			subject: person,
			detail: { before: nameOf(board), after: nameOf(openings[i]?.board ?? null) },
		}));
		return { result: { before }, touched: "nothing", audit };
	},
});

async function leaveAlone(tx: Tx, context: Context, board: string, name: string): Promise<void> {
	try {
		await seenBoard(tx, context, board);
	} catch (error) {
		if (!(error instanceof Fault)) throw error;
		throw new Fault(422, "Their own choice", `${name} has chosen another board to open with; ask them.`);
	}
}

async function setOpening(tx: Tx, personId: string, boardId: string | null): Promise<void> {
	await tx.delete(boardOpenings).where(eq(boardOpenings.personId, personId));
	if (boardId !== null) await tx.insert(boardOpenings).values({ personId, boardId });
}

const seesBoard = ({ organisation }: Context, person: Person, board: Row) =>
	board.ownerId === person.id || (board.sharedWith !== null && sharingTeamsOf(organisation, person).includes(board.sharedWith));

const othersReached = (context: Context) => {
	const reach = reachOf(context.organisation, context.actor);
	return context.organisation.people.filter((person, i) => i !== context.actor.index && reaches(reach, i) && worksOn(person, context.now.day));
};
