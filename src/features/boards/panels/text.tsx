import { TextTile } from "../ui/Tiles";
import { tile } from "./tile";

/** Words of one's own. */
export const textTile = tile({
	key: "text",
	label: "Text",
	about: "A text of your own",
	size: { w: 4, h: 4 },
	settings: () => [{ name: "text", label: "Text", long: true }],
	show: (_, __, settings) => ({ title: "", opens: null, node: <TextTile text={settings.text ?? ""} /> }),
});
