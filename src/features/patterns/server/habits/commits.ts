import { accuracyOf } from "@/core/patterns/records";
import { countedWithout } from "@/core/statistics/toldApart";
import { habit, quartersOf, shareRow } from "./habit";

const NONE = { k: 0, n: 0 };

/** How many of the deals they had in commit, and in best case, were won in time. */
export const commits = habit({
	place: "commits",
	rows(ground) {
		const { company } = ground.context.organisation;
		const list = quartersOf(ground);
		return (["commit", "best_case"] as const).flatMap((category) => {
			const all = accuracyOf(company, list, category, null);
			const own = all.people.find(({ owner }) => owner === ground.owner)?.count ?? NONE;
			return shareRow(`In ${category.replace("_", " ")}, won in time`, own, countedWithout(all.count, own));
		});
	},
});
