import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { readDeals } from "@/features/deals/server/readDeals";
import { readLead } from "@/features/desk/server/readLead";
import { readMentions } from "@/features/desk/server/readMentions";
import { DeskScreen } from "@/features/desk/ui/DeskScreen";
import { readNews } from "@/features/reaching/server/wishes";
import { News } from "@/features/reaching/ui/News";
import { readPreparation } from "@/features/rounds/server/preparation";
import { readOwnTasks } from "@/features/tasks/server/readTasks";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "My desk" };

export default async function DeskPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/desk", searchParams));
	return faultScreen(context, async () => {
		const query = await viewpointQuery(searchParams);
		const viewpoint = resolveViewpoint(context, query);
		// A desk is one's own: all open deals of the person, whatever the period.
		const own = resolveViewpoint(context, { ...query, whose: `person:${context.actor.person.id}`, due: "any" });
		const dated = readDeals(context, own);
		const undated = readDeals(context, resolveViewpoint(context, { ...query, whose: own.whose.key, due: "none" }));
		const lit = [...dated.rows, ...undated.rows].filter((row) => row.level !== "calm").sort((a, b) => b.score - a.score || b.amount - a.amount);
		return (
			<Frame view={await frameView(context, viewpoint)} title={`${context.actor.person.name.split(" ")[0]}’s desk`} dated>
				<DeskScreen
					tasks={await readOwnTasks(context, viewpoint.seen.day)}
					lit={lit}
					news={<News {...(await readNews(context))} today={formatDay(viewpoint.seen.day)} />}
					mentions={await readMentions(context, viewpoint.seen.day)}
					open={dated.rows.length + undated.rows.length}
					currency={dated.currency}
					today={formatDay(viewpoint.seen.day)}
					preparation={context.actor.person.role === "rep" && !viewpoint.seen.past ? await readPreparation(context) : null}
					lead={viewpoint.seen.past ? null : await readLead(context, query)}
					mayChange={may(context.actor, "changeTask") && !viewpoint.seen.past}
				/>
			</Frame>
		);
	});
}
