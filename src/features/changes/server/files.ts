import { tableFile } from "@/platform/tableFile";
import { readChanges } from "./readChanges";
import { sliceAsked } from "./slices";

/** The deals of every step of the bridge, as the address looks at it. */
export const changesFile = tableFile({
	key: "changes",
	read(context, viewpoint, ask) {
		const view = readChanges(context, viewpoint, { by: sliceAsked(ask("by")), part: ask("part"), all: true });
		const currency = view?.currency ?? context.organisation.company.rules.rates.base;
		const step = ask("step");
		const steps = (view?.steps ?? []).filter(({ kind }) => kind !== "opening" && kind !== "closing" && (!step || kind === step));
		return {
			currency,
			columns: [
				{ label: "Step", kind: "text" },
				{ label: "Deal number", kind: "text" },
				{ label: "Deal", kind: "text" },
				{ label: "Account", kind: "text" },
				{ label: "Rep", kind: "text" },
				{ label: `Adds to the step ${currency}`, kind: "amount" },
				{ label: `Amount before ${currency}`, kind: "amount" },
				{ label: `Amount after ${currency}`, kind: "amount" },
				{ label: "Close date before", kind: "day" },
				{ label: "Close date after", kind: "day" },
				{ label: "Stage before", kind: "text" },
				{ label: "Stage after", kind: "text" },
				{ label: "Also changed", kind: "text" },
			],
			rows: steps.flatMap(({ name, leaves, deals }) =>
				deals.map((deal) => [
					name,
					deal.id,
					deal.name,
					deal.account,
					deal.owner,
					leaves ? -deal.amount : deal.amount,
					deal.before,
					deal.after,
					deal.closeBefore,
					deal.closeAfter,
					deal.stageBefore,
					deal.stageAfter,
					deal.also.join("; "),
				]),
			),
		};
	},
});
