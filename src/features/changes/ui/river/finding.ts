import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import type { PartFigures, Picture } from "@/workers/riverModel";
import type { RiverView } from "../../server/readRiver";

/** What the river shows, in one sentence, and who pushes when, in another. */
export function finding(picture: Picture, reps: readonly PartFigures[], view: RiverView): { headline: string; pushes: string } {
	const last = picture.weeks.at(-1);
	const change = (last?.open ?? 0) - picture.start.open;
	const money = (amount: number) => shortMoney(Math.abs(amount), view.currency);
	const bands = picture.open.map((stage) => ({
		name: view.columns.stages[stage]?.name ?? "",
		by: (last?.bands[stage] ?? 0) - (picture.start.bands[stage] ?? 0),
	}));
	const most = bands.reduce((best, band) => (Math.abs(band.by) > Math.abs(best.by) ? band : best), { name: "", by: 0 });
	const weeks = plural(picture.weeks.length, "week");
	const moved = change === 0 ? `Open pipeline is unchanged from ${weeks} ago` : `Open pipeline ${change > 0 ? "grew" : "fell"} by ${money(change)} in ${weeks}`;
	const headline = most.by === 0 ? moved : `${moved}; ${most.name} ${most.by > 0 ? "swelled" : "shrank"} most, by ${money(most.by)}`;
	const pushes = reps.reduce((sum, rep) => sum + rep.pushes, 0);
	if (!pushes) return { headline, pushes: "No close date was moved later." };
	const late = reps.reduce((sum, rep) => sum + rep.atMonthEnd, 0);
	const told = `${plural(pushes, "push", "pushes")} of a close date, ${late} of them at a month’s end`;
	const who = reps.reduce<PartFigures | null>((best, rep) => (rep.atMonthEnd > (best?.atMonthEnd ?? 0) ? rep : best), null);
	// Worth a name only where somebody makes many of them, and more than their part among so many.
	const stands = who && reps.length > 1 && who.atMonthEnd >= WORTH_A_NAME && who.atMonthEnd * reps.length >= late * 2;
	return { headline, pushes: stands ? `${told}; ${who.atMonthEnd} of those by ${who.part}.` : `${told}.` };
}

/** So many pushes of one rep are no chance. */
const WORTH_A_NAME = 3;
