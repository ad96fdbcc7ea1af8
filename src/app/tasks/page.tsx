import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery, wordsOf } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { formatDay } from "@/core/time/day";
import { rowsAsked } from "@/ui/parts/rows";
import { Frame } from "@/ui/frame/Frame";
import { TasksScreen } from "@/features/tasks/ui/TasksScreen";
import { readTaskPage, TASK_VIEWS } from "@/features/tasks/server/readTasks";
import { may } from "@/platform/rights";
import { resolveSentence } from "@/platform/viewpoint";

export const metadata = { title: "Tasks" };

export default async function TasksPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/tasks", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const { state, most } = await wordsOf(searchParams, ["state", "most"]);
		const view = TASK_VIEWS.find((one) => one === state) ?? "open";
		const page = await readTaskPage(context, sentence.whose.scope, sentence.seen.day, { view, most: rowsAsked(most) });
		return (
			<Frame view={await frameView(context, sentence)}>
				<TasksScreen
					page={page}
					today={formatDay(sentence.seen.day)}
					whose={sentence.whose.words}
					me={context.actor.person.id}
					mayChange={may(context.actor, "changeTask") && !sentence.seen.past}
					onlyOwn={context.actor.person.role === "rep"}
				/>
			</Frame>
		);
	});
}
