import { countedWithout } from "@/core/statistics/toldApart";
import { readFollowThrough } from "@/features/tasks";
import { habit, shareRow } from "./habit";

const WINDOW = 365;

/** How many of the tasks given to them within a year were done on time, and of their flags cleared. */
export const tasks = habit({
	place: "tasks",
	rows({ context, personId, day }) {
		const all = readFollowThrough(context, null, { start: day - WINDOW + 1, end: day }, day);
		const own = all.people.find(({ id }) => id === personId);
		const onTime = (one: Omit<typeof all, "people" | "flags"> | undefined) =>
			one ? { k: one.onTime, n: one.onTime + one.late + one.dropped + one.overdue } : { k: 0, n: 0 };
		const cleared = (one: Pick<typeof all, "outcomes"> | undefined) => (one ? { k: one.outcomes.out, n: one.outcomes.out + one.outcomes.lit } : { k: 0, n: 0 });
		return [
			...shareRow("Tasks done on time", onTime(own), countedWithout(onTime(all), onTime(own))),
			...shareRow("Flags cleared by their tasks", cleared(own), countedWithout(cleared(all), cleared(own))),
		];
	},
});
