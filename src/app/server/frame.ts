import { asOf, blockOf } from "@/core/history/columns";
import { formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { awaySince } from "@/data/reach";
import { CAPABILITIES } from "@/features/registry";
import type { Capability } from "@/platform/capability";
import type { Context } from "@/platform/context";
import { diskFullLately } from "@/platform/databaseFault";
import { reaches, reachOf } from "@/platform/reach";
import { may } from "@/platform/rights";
import { type Viewpoint, viewpointChoices } from "@/platform/viewpoint";
import { orNothing } from "@/platform/whileAway";
import { instantWords } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";

const ROLE_WORDS = { manager: "Manager", rep: "Rep", ops: "Ops", viewer: "Viewer" } as const;
const ALL: readonly Capability[] = CAPABILITIES;
const RAIL = ALL.flatMap(({ rail }) => rail ?? []);
const PLACES = RAIL.flatMap(({ places = [] }) => places);
/** Rights that screens ask for where they offer something. */
const WRITING = [...new Set(ALL.flatMap(({ commands }) => commands.map(({ right }) => right)))];
const KEYS = ALL.flatMap(({ keys }) => keys);

/** What surrounds every screen: the rail with its counts, and the sentence with its choices. */
export async function frameView(context: Context, viewpoint: Viewpoint): Promise<FrameView> {
	const { person } = context.actor;
	const { whose, due, seen, against, workingDaysLeft, knownFrom } = viewpoint;
	const rail = await Promise.all(
		RAIL.map(async ({ path, label, key, count }) => ({
			path,
			label,
			key,
			count: count ? await orNothing(async () => count.value(context, viewpoint), 0) : 0,
			countLabel: count?.label ?? "",
		})),
	);
	const reach = reachOf(context.organisation, context.actor);
	const { history } = context.organisation.company;
	/** of the people whose deals are seen: missing from a weekly file, and open as far as anybody has said */
	const undecided = [...context.organisation.undecided].filter((id) => {
		const deal = context.organisation.dealIndex.get(id);
		const row = deal === undefined ? -1 : asOf(history, deal, seen.day);
		return row >= 0 && reaches(reach, blockOf(history, deal as number).owner[row] as number);
	}).length;
	const teamless = !person.team && (person.role === "manager" || person.role === "viewer");
	return {
		revision: context.organisation.revision,
		people: whose.scope && [person.id, ...[...whose.scope].flatMap((index) => context.organisation.people[index]?.id ?? [])],
		nothing: !context.organisation.dealIndex.size ? "no deals" : teamless ? "no team" : null,
		undecided,
		mayDecide: may(context.actor, "importBundle"),
		rights: WRITING.filter((right) => !seen.past && may(context.actor, right)),
		person: { name: person.name, place: `${ROLE_WORDS[person.role]}${person.team ? `, ${person.team}` : ""}`, role: person.role },
		rail,
		places: PLACES.flatMap(({ path, label, right }) => (!right || may(context.actor, right) ? { path, label } : [])),
		keys: KEYS,
		sentence: {
			whose: { key: whose.key, label: whose.label },
			due: { key: due.key, label: due.label, start: isoOrNull(due.period?.start ?? NO_DAY), end: isoOrNull(due.period?.end ?? NO_DAY) },
			seen: { day: formatDay(seen.day), label: seen.label, past: seen.past },
			against: { key: against.key, day: formatDay(against.day), label: against.label },
			workingDaysLeft,
			knownFrom: knownFrom === null ? null : formatDay(knownFrom),
		},
		choices: viewpointChoices(context, seen.day),
		today: formatDay(context.now.day),
		away: awaySince() !== null,
		trouble: troubleOf(context),
		heldToday: context.now.held ? shortDay(context.now.day) : null,
	};
}

/** What keeps from working, in words; null where nothing does. */
function troubleOf({ actor, organisation }: Context): string | null {
	const away = awaySince();
	if (away !== null) {
		const [, time] = instantWords(new Date(away).toISOString(), organisation.company.rules.zone.name).split(", ");
		return `The database can’t be reached. You see the figures as of ${time}; what isn’t kept in memory is missing. What you change waits a moment for it, and you are told if it wasn’t saved.`;
	}
	return actor.person.role === "ops" && diskFullLately(Date.now())
		? "The disk is full. You can read everything, but nothing can be saved until space is freed."
		: null;
}
