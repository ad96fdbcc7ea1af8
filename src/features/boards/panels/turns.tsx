import { turnsOfTile } from "../server/turnsOfTile";
import { TurnsTile } from "../ui/Tiles";
import { tile } from "./tile";

/** Whose turn it is, those who wait longest first. */
export const turnsTile = tile({
	key: "turns",
	label: "Whose turn",
	about: "Deals and accounts on which somebody waits, in the order of work",
	size: { w: 6, h: 8 },
	settings: () => [],
	async show(context, viewpoint) {
		const { title, says, rows, seen } = await turnsOfTile(context, viewpoint);
		return { title, opens: { path: "/accounts/turns" }, node: <TurnsTile says={says} rows={rows} seen={seen} /> };
	},
});
