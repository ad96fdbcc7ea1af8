import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { readTaskPage, TASK_VIEWS } from "@/features/tasks/server/readTasks";
import { TasksScreen } from "@/features/tasks/ui/TasksScreen";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Tasks" };

export default async function TasksPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/tasks", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { state, limit } = await wordsOf(searchParams, ["state", "limit"]);
		const view = TASK_VIEWS.find((one) => one === state) ?? "open";
		const page = await readTaskPage(context, viewpoint.whose.scope, viewpoint.seen.day, { view, limit: rowsAsked(limit) });
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<TasksScreen
					page={page}
					today={formatDay(viewpoint.seen.day)}
					whose={viewpoint.whose.words}
					me={context.actor.person.id}
					mayChange={may(context.actor, "changeTask") && !viewpoint.seen.past}
					onlyOwn={context.actor.person.role === "rep"}
				/>
			</Frame>
		);
	});
}
