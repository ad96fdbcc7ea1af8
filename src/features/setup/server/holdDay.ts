import { z } from "zod";
import { parseDay } from "@/core/time/day";
import { organisationSettings } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault } from "@/platform/fault";

const held = (day: string | null) => day ?? "it follows the calendar";

/** Holds the organisation's day, or (null) lets it pass with the calendar. */
export const holdDay = command({
	name: "setup.holdDay",
	right: "changeClock",
	input: z.object({ day: z.string().max(10).nullable() }),
	async run({ input: { day }, tx }) {
		if (day !== null && parseDay(day) === null) throw new Fault(422, "No such day", `${day} isn’t a valid day.`);
		const [was] = await tx.select({ today: organisationSettings.today }).from(organisationSettings);
		await tx
			.insert(organisationSettings)
			.values({ id: 1, today: day })
			.onConflictDoUpdate({ target: organisationSettings.id, set: { today: day } });
		return { result: {}, touched: "settings", audit: { action: "clock set", detail: { before: held(was?.today ?? null), after: held(day) } } };
	},
});
