import { parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { organisationSettings } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { demand } from "@/platform/rights";

/** Holds the organisation's day, or (null) lets it pass with the calendar. */
export async function changeClock(context: Context, day: string | null): Promise<void> {
	demand(context.actor, "changeClock");
	if (day !== null && parseDay(day) === null) throw new Fault(422, "No such day", `${day} isn't a day that exists.`);
	await connection().db.transaction(async (tx) => {
		await tx
			.insert(organisationSettings)
			.values({ id: 1, today: day })
			.onConflictDoUpdate({ target: organisationSettings.id, set: { today: day } });
		await record(tx, context, "clock set", day);
		await touch(tx, "settings");
	});
}
