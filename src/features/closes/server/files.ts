import type { CloseGroup } from "@/core/period/closeAccount";
import { parseDay } from "@/core/time/day";
import type { Sheet } from "@/formats/table";
import { Fault } from "@/platform/fault";
import { tableFile } from "@/platform/tableFile";
import { readClose } from "./readClose";

/** How a period ended: result by rep, and beside it by team and family, where its deals went, what was said, and the words of reps. */
export const closeFile = tableFile({
	key: "close",
	async read(context, viewpoint, ask) {
		const view = await readClose(context, viewpoint, ask("close"));
		if (!view) throw new Fault(400, "No period", "Choose a period with a start and an end.");
		const { account } = view;
		const { currency } = account;
		const columns = (of: string): Sheet["columns"] => [
			{ label: of, kind: "text" },
			{ label: `Target ${currency}`, kind: "amount" },
			{ label: "Won", kind: "count" },
			{ label: `Won ${currency}`, kind: "amount" },
			{ label: "Lost", kind: "count" },
			{ label: `Lost ${currency}`, kind: "amount" },
			{ label: "Open", kind: "count" },
			{ label: `Open ${currency}`, kind: "amount" },
		];
		const row = ({ name, target, won, lost, open }: Omit<CloseGroup, "key">) => [
			name,
			target,
			won.count,
			won.amount,
			lost.count,
			lost.amount,
			open.count,
			open.amount,
		];
		const groups = (name: string, of: string, list: readonly CloseGroup[]): Sheet => ({ name, columns: columns(of), rows: list.map(row) });
		return {
			currency,
			columns: columns("Rep"),
			rows: [...account.reps.map(row), row({ ...account, name: "All" })],
			sheets: [
				groups("Teams", "Team", account.teams),
				groups("Families", "Family", account.families),
				wentSheet(account.went, currency),
				saidSheet(account, currency),
			],
		};
	},
});

const wentSheet = (went: NonNullable<Awaited<ReturnType<typeof readClose>>>["account"]["went"], currency: string): Sheet => ({
	name: "Where deals went",
	columns: [
		{ label: "Step", kind: "text" },
		{ label: "Deals", kind: "count" },
		{ label: `Amount ${currency}`, kind: "amount" },
		{ label: "Deal number", kind: "text" },
		{ label: "Deal", kind: "text" },
		{ label: "Account", kind: "text" },
		{ label: "Rep", kind: "text" },
		{ label: "Close date", kind: "day" },
		{ label: "Left on", kind: "day" },
		{ label: "Reason", kind: "text" },
	],
	rows: went.flatMap(({ name, leaves, count, amount, deals }) => [
		[name, count, leaves ? -amount : amount, null, null, null, null, null, null, null],
		...deals.map((deal) => [name, null, deal.amount, deal.id, deal.name, deal.account, deal.owner, deal.close, deal.leftOn, deal.reason]),
	]),
});

const saidSheet = ({ points, outlooks }: NonNullable<Awaited<ReturnType<typeof readClose>>>["account"], currency: string): Sheet => ({
	name: "What was said",
	columns: [
		{ label: "Day", kind: "day" },
		{ label: `Won ${currency}`, kind: "amount" },
		{ label: `Commit ${currency}`, kind: "amount" },
		{ label: `Outlook, low ${currency}`, kind: "amount" },
		{ label: `Outlook, middle ${currency}`, kind: "amount" },
		{ label: `Outlook, high ${currency}`, kind: "amount" },
	],
	rows: [
		...points.map(({ day, won, commit }) => [day, won, commit, null, null, null]),
		...outlooks.map(({ day, low, middle, high }) => [day, null, null, low, middle, high]),
	].sort((a, b) => (parseDay(String(a[0])) ?? 0) - (parseDay(String(b[0])) ?? 0)),
});
