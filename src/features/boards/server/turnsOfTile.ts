import { plural } from "@/core/words/grammar";
import { readTurns } from "@/features/accounts";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";

const SHOWN = 12;

/** Whose turn it is, as a tile and its mail tell of it. */
export async function turnsOfTile(context: Context, viewpoint: Viewpoint) {
	const { rows, counts, seen, currency } = await readTurns(context, viewpoint, SHOWN);
	const { they, again, later } = counts;
	const says = [they && `${plural(they, "waits", "wait")} for us`, again && `${again} to ask again`, later && `we wait for ${later}`];
	return { title: "Whose turn", says: says.filter(Boolean).join(", ") || "Nobody waits", rows, seen, currency };
}
