import { formatDay, isoOrNull } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import type { FrameView } from "@/ui/frame/view";
import type { Context } from "@/platform/context";
import { countLit } from "@/features/deals/server/readDeals";
import { countTasks } from "@/features/tasks/server/readTasks";
import { type Sentence, sentenceChoices } from "@/platform/viewpoint";

const ROLE_WORDS = { manager: "Manager", rep: "Rep", ops: "Ops", viewer: "Viewer" } as const;

/** What surrounds every screen: the rail with its counts, and the sentence with its choices. */
export async function frameView(context: Context, sentence: Sentence): Promise<FrameView> {
	const { person } = context.actor;
	const tasks = await countTasks(context, sentence.whose.scope, sentence.seen.day);
	const today = formatDay(sentence.seen.day);
	return {
		person: { name: person.name, place: `${ROLE_WORDS[person.role]}${person.team ? `, ${person.team}` : ""}`, role: person.role },
		counts: {
			deals: countLit(context, sentence),
			tasks: tasks.open,
			desk: tasks.due,
		},
		sentence: {
			whose: { key: sentence.whose.key, words: sentence.whose.words },
			due: {
				key: sentence.due.key,
				words: sentence.due.words,
				start: isoOrNull(sentence.due.period?.start ?? -(2 ** 31)),
				end: isoOrNull(sentence.due.period?.end ?? -(2 ** 31)),
			},
			seen: { day: today, words: sentence.seen.words, past: sentence.seen.past },
			against: { key: sentence.against.key, day: formatDay(sentence.against.day), words: sentence.against.words },
			workingDaysLeft: sentence.workingDaysLeft,
			knownFrom: sentence.knownFrom === null ? null : formatDay(sentence.knownFrom),
		},
		choices: sentenceChoices(context, sentence.seen.day),
		today: formatDay(context.now.day),
		heldToday: context.now.held ? shortDay(context.now.day) : null,
	};
}
