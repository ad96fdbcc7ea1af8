import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { formatDay } from "@/core/time/day";
import { Frame } from "@/ui/screens/frame/Frame";
import { TasksScreen } from "@/ui/screens/tasks/TasksScreen";
import { readTasks } from "@/usecases/readTasks";
import { may } from "@/usecases/rights";
import { resolveSentence } from "@/usecases/sentence";

export const metadata = { title: "Tasks" };

export default async function TasksPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/tasks", searchParams));
	return faultScreen(context, async () => {
		const sentence = resolveSentence(context, await sentenceQuery(searchParams));
		const rows = await readTasks(context, sentence.whose.scope, sentence.seen.day);
		return (
			<Frame view={await frameView(context, sentence)}>
				<TasksScreen
					rows={rows}
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
