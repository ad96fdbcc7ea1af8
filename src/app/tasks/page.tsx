import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { monthOf, quarterOf } from "@/core/time/period";
import { longDay, periodWords, shortDay } from "@/core/time/words";
import type { SavedView } from "@/features/deals/server/views";
import { readFollowedTasks, readFollowThrough, readTooLate } from "@/features/tasks/server/followThrough";
import { readTaskDays } from "@/features/tasks/server/taskDays";
import { TASK_GROUPS, TASK_VIEWS } from "@/features/tasks/server/taskGroups";
import { readTaskPage } from "@/features/tasks/server/taskPage";
import { DaysScreen } from "@/features/tasks/ui/DaysScreen";
import { FollowScreen } from "@/features/tasks/ui/FollowScreen";
import { TASK_SCREENS } from "@/features/tasks/ui/screens";
import { TasksPacked } from "@/features/tasks/ui/TasksScreen";
import { TasksTabs } from "@/features/tasks/ui/TasksTabs";
import type { Context } from "@/platform/context";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { pack } from "@/ui/packed";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Tasks" };

export default async function TasksPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/tasks", searchParams));
	const views = await viewsOf(context, "tasks", searchParams);
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { show } = await wordsOf(searchParams, ["show"]);
		const screen = TASK_SCREENS.find(({ key }) => key === show)?.key ?? "list";
		const body =
			screen === "list"
				? await listed(context, viewpoint, searchParams, views)
				: screen === "follow"
					? await followed(context, viewpoint, searchParams)
					: await byDays(context, viewpoint, searchParams, screen);
		return (
			<Frame view={await frameView(context, viewpoint)} limited>
				<TasksTabs current={screen} />
				{body}
			</Frame>
		);
	});
}

const mayChange = (context: Context, { seen }: Viewpoint) => may(context.actor, "changeTask") && !seen.past;

async function listed(context: Context, viewpoint: Viewpoint, searchParams: SearchParams, views: readonly SavedView[]) {
	const { state, limit, by, ...wanted } = await wordsOf(searchParams, ["state", "limit", "by", "who", "flag", "importance", "text"]);
	const page = await readTaskPage(context, viewpoint.whose.scope, viewpoint.seen.day, {
		...wanted,
		view: TASK_VIEWS.find((one) => one === state) ?? "open",
		by: TASK_GROUPS.find((one) => one === by) ?? "due",
		limit: rowsAsked(limit),
	});
	return (
		<TasksPacked
			packed={pack({
				page,
				today: formatDay(viewpoint.seen.day),
				whose: viewpoint.whose.label,
				me: context.actor.person.id,
				mayChange: mayChange(context, viewpoint),
				onlyOwn: context.actor.person.role === "rep",
				views,
			})}
		/>
	);
}

async function followed(context: Context, viewpoint: Viewpoint, searchParams: SearchParams) {
	const asked = await wordsOf(searchParams, ["of", "became", "flag", "outcome"]);
	const { company, people } = context.organisation;
	const seen = viewpoint.seen.day;
	const period = viewpoint.due.period ?? quarterOf(seen, company.rules.fiscal);
	const within = { start: Math.max(period.start, seen - 800), end: Math.min(period.end, seen + 800) };
	return (
		<FollowScreen
			view={readFollowThrough(context, viewpoint.whose.scope, within, seen)}
			behind={await readFollowedTasks(context, viewpoint.whose.scope, within, seen, asked)}
			late={await readTooLate(context, viewpoint, within)}
			period={periodWords(within)}
			whose={viewpoint.whose.label}
			today={formatDay(seen)}
			mayChange={mayChange(context, viewpoint)}
			people={people.filter(({ role }) => role === "rep" || role === "manager").map(({ id, name }) => ({ id, name }))}
		/>
	);
}

const MONDAY = 4;
/** The Monday on or before a day: the first of 1970 was a Thursday. */
const mondayOf = (day: Day) => day - ((((day + 7 - MONDAY) % 7) + 7) % 7);

async function byDays(context: Context, viewpoint: Viewpoint, searchParams: SearchParams, span: "week" | "month") {
	const { at } = await wordsOf(searchParams, ["at"]);
	const seen = viewpoint.seen.day;
	const day = parseDay(at ?? "") ?? seen;
	const month = monthOf(day);
	const first = span === "week" ? mondayOf(day) : mondayOf(month.start);
	const last = span === "week" ? first + 6 : mondayOf(month.end) + 6;
	return (
		<DaysScreen
			view={await readTaskDays(context, viewpoint, first, last)}
			span={span}
			title={span === "week" ? `${shortDay(first)} to ${shortDay(last)}` : longDay(month.start).replace(/^\d+ /, "")}
			before={formatDay(span === "week" ? first - 7 : month.start - 1)}
			after={formatDay(span === "week" ? first + 7 : month.end + 1)}
			today={formatDay(seen)}
		/>
	);
}
