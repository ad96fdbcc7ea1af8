import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { nextOf, plansOf } from "@/features/rounds";
import { reaches } from "@/platform/reach";
import { resolveViewpoint } from "@/platform/viewpoint";
import { dayWords, type Found, happening } from "./happening";

/** A planned round is held on the next working day: told to whoever is asked in it, and to whoever holds it. */
export const roundTomorrow = happening({
	kind: "round-tomorrow",
	label: "a planned round over my deals is on the next working day",
	usual: { onScreen: true, mail: "now" },
	async find({ context, as, today }) {
		const { organisation } = context;
		const { calendar } = organisation.company.rules;
		const tomorrow = calendar.add(today, 1);
		const found: Found<{ plan: string; on: string; mine: boolean }>[] = [];
		for (const plan of await plansOf(connection().db)) {
			if (!calendar.isWorking(today) || nextOf(context, plan.weekday, today + 1) !== tomorrow) continue;
			const holder = as(plan.byId);
			if (!holder) continue;
			let scope: ReturnType<typeof resolveViewpoint>["whose"]["scope"];
			try {
				scope = resolveViewpoint(holder, { whose: plan.whose }).whose.scope;
			} catch {
				continue;
			}
			organisation.people.forEach((person, index) => {
				if (person.id !== plan.byId && !(person.role === "rep" && reaches(scope, index))) return;
				found.push({
					personId: person.id,
					key: `${plan.id} ${formatDay(tomorrow)}`,
					facts: { plan: plan.name, on: formatDay(tomorrow), mine: person.id === plan.byId },
					path: person.id === plan.byId ? "/rounds" : "/desk",
				});
			});
		}
		return found;
	},
	say: ({ plan, on, mine }) => `${plan} is on ${dayWords(on)}${mine ? "" : ": see what it will ask about"}`,
});
