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
				{ words: "Step", kind: "text" },
				{ words: "Deal number", kind: "text" },
				{ words: "Deal", kind: "text" },
				{ words: "Account", kind: "text" },
				{ words: "Rep", kind: "text" },
				{ words: `Adds to the step ${currency}`, kind: "amount" },
				{ words: `Amount before ${currency}`, kind: "amount" },
				{ words: `Amount after ${currency}`, kind: "amount" },
				{ words: "Close date before", kind: "day" },
				{ words: "Close date after", kind: "day" },
				{ words: "Stage before", kind: "text" },
				{ words: "Stage after", kind: "text" },
				{ words: "Also changed", kind: "text" },
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
