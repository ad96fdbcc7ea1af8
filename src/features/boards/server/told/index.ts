import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import type { Told } from "@/platform/told";
import type { Viewpoint } from "@/platform/viewpoint";
import { type Board, listBoards } from "../boards";
import { bridgeTold } from "./bridge";
import { dealsTold } from "./deals";
import { figureTold } from "./figure";
import { flowTold } from "./flow";
import { groupsTold } from "./groups";
import { outlookTold } from "./outlook";
import { paceTold } from "./pace";
import { riverTold } from "./river";
import type { Teller } from "./teller";
import { textTold } from "./text";
import { trendTold } from "./trend";
import { turnsTold } from "./turns";
import { viewTold } from "./view";

/** What tells of tiles in mails, by kind. A new one is one file and one line here; a tile that nothing tells of is named with where it is. */
export const TELLERS: readonly Teller[] = [
	figureTold,
	dealsTold,
	viewTold,
	groupsTold,
	paceTold,
	outlookTold,
	bridgeTold,
	flowTold,
	riverTold,
	trendTold,
	turnsTold,
	textTold,
];

/** A board as it is read from top to bottom, tile by tile; null where the person asking doesn’t see it. */
export async function tellBoard(context: Context, viewpoint: Viewpoint, id: string): Promise<{ readonly board: Board; readonly parts: Told[] } | null> {
	const board = (await listBoards(context)).find((one) => one.id === id);
	if (!board) return null;
	const parts: Told[] = [];
	for (const { kind, title, settings } of [...board.tiles].sort((a, b) => a.y - b.y || a.x - b.x)) {
		const told = await tellTile(context, viewpoint, kind, settings);
		parts.push({ ...told, title: title || told.title });
	}
	return { board, parts };
}

/** What one tile says; what isn't theirs to see says so, and the others are told all the same. */
async function tellTile(context: Context, viewpoint: Viewpoint, kind: string, settings: Readonly<Record<string, string>>): Promise<Told> {
	try {
		const told = TELLERS.find(({ key }) => key === kind);
		return told ? await told.tell(context, viewpoint, settings) : { title: kind, says: ["Open the board to see this tile."], path: null };
	} catch (error) {
		if (error instanceof Fault) return { title: kind, says: [error.message], path: null };
		throw error;
	}
}
