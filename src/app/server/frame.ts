import { formatDay, isoOrNull } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { countLit } from "@/features/deals/server/readDeals";
import { countTasks } from "@/features/tasks/server/readTasks";
import type { Context } from "@/platform/context";
import { type Viewpoint, viewpointChoices } from "@/platform/viewpoint";
import type { FrameView } from "@/ui/frame/view";

const ROLE_WORDS = { manager: "Manager", rep: "Rep", ops: "Ops", viewer: "Viewer" } as const;

/** What surrounds every screen: the rail with its counts, and the viewpoint with its choices. */
export async function frameView(context: Context, viewpoint: Viewpoint): Promise<FrameView> {
	const { person } = context.actor;
	const tasks = await countTasks(context, viewpoint.whose.scope, viewpoint.seen.day);
	const today = formatDay(viewpoint.seen.day);
	return {
		person: { name: person.name, place: `${ROLE_WORDS[person.role]}${person.team ? `, ${person.team}` : ""}`, role: person.role },
		counts: {
			deals: countLit(context, viewpoint),
			tasks: tasks.open,
			desk: tasks.due,
		},
		sentence: {
			whose: { key: viewpoint.whose.key, words: viewpoint.whose.words },
			due: {
				key: viewpoint.due.key,
				words: viewpoint.due.words,
				start: isoOrNull(viewpoint.due.period?.start ?? -(2 ** 31)),
				end: isoOrNull(viewpoint.due.period?.end ?? -(2 ** 31)),
			},
			seen: { day: today, words: viewpoint.seen.words, past: viewpoint.seen.past },
			against: { key: viewpoint.against.key, day: formatDay(viewpoint.against.day), words: viewpoint.against.words },
			workingDaysLeft: viewpoint.workingDaysLeft,
			knownFrom: viewpoint.knownFrom === null ? null : formatDay(viewpoint.knownFrom),
		},
		choices: viewpointChoices(context, viewpoint.seen.day),
		today: formatDay(context.now.day),
		heldToday: context.now.held ? shortDay(context.now.day) : null,
	};
}
