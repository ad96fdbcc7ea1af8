import type { Company } from "../company";
import { byId } from "../deal/order";
import { asOf, blockOf, dayEnds } from "../history/columns";
import { pathOf } from "../history/path";
import { restrictedMean, type Survival, survivalOf } from "../statistics/survival";
import { LEAST } from "../statistics/wilson";
import type { Day } from "../time/day";

/** How long deals of a group stay in a stage, in working days. Of fewer than five visits nothing is said. */
export interface StageTime {
	/** index of the stage */
	readonly stage: number;
	readonly group: string;
	readonly finished: number;
	readonly unfinished: number;
	/** of the finished visits */
	readonly mean: number | null;
	/** of all visits up to so many days as at least five visits of every group that is said lasted, each counted up to there */
	readonly restrictedMean: number | null;
	readonly upTo: number | null;
	/** visits that changed their owner, left out of it */
	readonly handedOn: number;
	readonly median: number | null;
	/** where the median lies at 95% */
	readonly interval: Survival["interval"];
	/** each visit: its deal, whose it was on the last day of it, and whether it is finished */
	readonly visits: readonly { readonly deal: number; readonly owner: number; readonly length: number; readonly finished: boolean }[];
	readonly curve: Survival["curve"];
}

const WINDOW = 365;

interface Found {
	readonly stage: number;
	readonly group: string;
	handedOn: number;
	readonly visits: StageTime["visits"][number][];
}

/** By stage the greatest length that at least five visits of every group of it lasted; groups of fewer than five aren’t said, and left out. */
function reachOf(groups: readonly Found[]): Map<number, number> {
	const reach = new Map<number, number>();
	for (const { stage, visits } of groups) {
		if (visits.length < LEAST) continue;
		const lengths = visits.map(({ length }) => length).sort((a, b) => b - a);
		reach.set(stage, Math.min(reach.get(stage) ?? Number.POSITIVE_INFINITY, lengths[LEAST - 1] as number));
	}
	return reach;
}

/**
 * Time in stage by group over the visits begun in the 365 days up to a day: mean of the finished ones, Kaplan–Meier median
 * of all, and restricted mean. A deal may belong to several groups (its product families), or to none.
 *
 * @param groupsOf the groups of a deal, by its index and its owner on the visit's last day
 * @param ofOneOwner whether a group is of one owner, so that visits that changed theirs are left out of it
 */
export function timeInStage(
	company: Company,
	seen: Day,
	groupsOf: (deal: number, owner: number) => readonly string[],
	ofOneOwner: (group: string) => boolean = () => false,
): StageTime[] {
	const { history, rules } = company;
	const found = new Map<string, Found>();
	for (let deal = 0; deal < company.deals.length; deal++) {
		const ends = dayEnds(history, deal, seen);
		if (!ends.length) continue;
		const block = blockOf(history, deal);
		for (const visit of pathOf(block, ends, rules.stages, rules.calendar, seen).visits) {
			if (visit.from <= seen - WINDOW || visit.from > seen) continue;
			const last = visit.finished ? visit.to - 1 : seen;
			const owner = block.owner[asOf(history, deal, last)] as number;
			const handedOn =
				ends.some((row) => (block.day[row] as number) > visit.from && (block.day[row] as number) <= last && block.owner[row] !== owner) ||
				block.owner[asOf(history, deal, visit.from)] !== owner;
			for (const group of groupsOf(deal, owner)) {
				const key = `${visit.stage} ${group}`;
				const own = found.get(key) ?? { stage: visit.stage, group, handedOn: 0, visits: [] };
				found.set(key, own);
				if (handedOn && ofOneOwner(group)) own.handedOn++;
				else own.visits.push({ deal, owner, length: visit.length, finished: visit.finished });
			}
		}
	}
	const order = byId(company);
	for (const { visits } of found.values()) visits.sort((a, b) => order(a.deal, b.deal));
	const groups = [...found.values()].filter(({ visits }) => visits.length);
	const upTo = reachOf(groups);
	return groups
		.map(({ stage, group, handedOn, visits }): StageTime => {
			const lengths = (ended: boolean) => visits.flatMap((visit) => (visit.finished === ended ? [visit.length] : []));
			const [finished, unfinished] = [lengths(true), lengths(false)];
			const said = finished.length + unfinished.length >= LEAST;
			const { median, curve, interval } = survivalOf(finished, unfinished);
			const end = said ? (upTo.get(stage) ?? null) : null;
			return {
				stage,
				group,
				finished: finished.length,
				unfinished: unfinished.length,
				mean: said && finished.length ? finished.reduce((sum, length) => sum + length, 0) / finished.length : null,
				restrictedMean: end === null ? null : restrictedMean(curve, end),
				upTo: end,
				handedOn,
				median: said ? median : null,
				interval: said ? interval : { low: null, high: null },
				visits,
				curve: said ? curve : [],
			};
		})
		.sort((a, b) => a.stage - b.stage || (a.group < b.group ? -1 : 1));
}
