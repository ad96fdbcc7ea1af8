import { tableFile } from "@/platform/tableFile";
import { ACCOUNT_ORDERS, readAccounts } from "./readAccounts";

/** The accounts that fit, all of them. */
export const accountsFile = tableFile({
	key: "accounts",
	async read(context, viewpoint, ask) {
		const band = ask("band");
		const view = await readAccounts(context, viewpoint, {
			order: ACCOUNT_ORDERS.find((one) => one === ask("order")),
			band: band && /^\d$/.test(band) ? Number(band) : null,
			text: ask("text"),
			account: ask("account"),
			limit: Number.MAX_SAFE_INTEGER,
		});
		const [thisYear, lastYear] = view.years;
		return {
			currency: view.currency,
			columns: [
				{ label: "Account number", kind: "text" },
				{ label: "Account", kind: "text" },
				{ label: "Kind", kind: "text" },
				{ label: "Industry", kind: "text" },
				{ label: "Territory", kind: "text" },
				{ label: "Rep", kind: "text" },
				{ label: "Last contact", kind: "day" },
				{ label: "Open deals", kind: "count" },
				{ label: `Open ${view.currency}`, kind: "amount" },
				{ label: `Bought ${thisYear} ${view.currency}`, kind: "amount" },
				{ label: `Bought ${lastYear} ${view.currency}`, kind: "amount" },
			],
			rows: view.accounts.map((row) => [
				row.id,
				row.name,
				row.kind,
				row.industry,
				row.territory,
				row.owner,
				row.lastTouch,
				row.openCount,
				row.openAmount,
				row.thisYear,
				row.lastYear,
			]),
		};
	},
});
