import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/platform/http/session";
import { formatDay } from "@/core/time/day";
import { DeskScreen } from "@/features/desk/ui/DeskScreen";
import { Frame } from "@/ui/frame/Frame";
import { readDeals } from "@/features/deals/server/readDeals";
import { readOwnTasks } from "@/features/tasks/server/readTasks";
import { may } from "@/platform/rights";
import { resolveSentence } from "@/platform/viewpoint";
import { readMentions } from "@/features/sheet/server/writeNote";

export const metadata = { title: "My desk" };

export default async function DeskPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/desk", searchParams));
	return faultScreen(context, async () => {
		const query = await sentenceQuery(searchParams);
		const sentence = resolveSentence(context, query);
		// A desk is one's own: all open deals of the person, whatever the period.
		const own = resolveSentence(context, { ...query, whose: `person:${context.actor.person.id}`, due: "any" });
		const dated = readDeals(context, own);
		const undated = readDeals(context, resolveSentence(context, { ...query, whose: own.whose.key, due: "none" }));
		const lit = [...dated.rows, ...undated.rows].filter((row) => row.level !== "calm").sort((a, b) => b.score - a.score || b.amount - a.amount);
		return (
			<Frame view={await frameView(context, sentence)} title={`${context.actor.person.name.split(" ")[0]}’s desk`}>
				<DeskScreen
					tasks={await readOwnTasks(context, sentence.seen.day)}
					lit={lit}
					mentions={await readMentions(context, sentence.seen.day)}
					open={dated.rows.length + undated.rows.length}
					currency={dated.currency}
					today={formatDay(sentence.seen.day)}
					mayChange={may(context.actor, "changeTask") && !sentence.seen.past}
				/>
			</Frame>
		);
	});
}
