import type { SendingView } from "../server/sendings";

/** The days of the week from Monday on. */
export const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

const isWorkingWeek = (days: readonly number[]) => days.length === 5 && days.every((day) => day <= 5);

/** When something comes, in words. */
export function rhythmWords({ rhythm, round, at }: Pick<SendingView, "rhythm" | "round" | "at">): string {
	switch (rhythm.kind) {
		case "month":
			return `each month’s first working day at ${at}`;
		case "round":
			return round ? `before each ${round}, at ${at}` : "not sent: the round it comes before is no longer planned";
		case "weekdays":
			return isWorkingWeek(rhythm.days) ? `each working day at ${at}` : `${rhythm.days.map((day) => DAYS[day - 1]).join(", ")} at ${at}`;
	}
}
