import { turnsOfTile } from "../turnsOfTile";
import { teller } from "./teller";

/** Whose turn it is. */
export const turnsTold = teller({
	key: "turns",
	async tell(context, viewpoint) {
		const { title, says, rows, currency } = await turnsOfTile(context, viewpoint);
		return {
			title,
			says: [`${says}.`],
			content: {
				currency,
				columns: [
					{ label: "Who waits", kind: "text" },
					{ label: "Deal or account", kind: "text" },
					{ label: "Account", kind: "text" },
					{ label: "Rep", kind: "text" },
					{ label: "Since", kind: "day" },
					{ label: "Working days", kind: "count" },
				],
				rows: rows.map(({ side, name, account, owner, since, workingDays }) => [side === "they" ? "they" : "we", name, account, owner, since, workingDays]),
			},
			path: "/accounts/turns",
		};
	},
});
