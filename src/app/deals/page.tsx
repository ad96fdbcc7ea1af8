import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { viewsOf } from "@/app/server/openingView";
import { addressOf, restAddress, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { DealSlots } from "@/features/dealSlots";
import { editChoices } from "@/features/deals/server/editChoices";
import { goesWithPage, packedDealsText } from "@/features/deals/server/packedDeals";
import { statusAsked } from "@/features/deals/server/readDeals";
import { DealsScreen } from "@/features/deals/ui/DealsScreen";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Deals" };

export default async function DealsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/deals", searchParams));
	const views = await viewsOf(context, "deals", searchParams);
	return faultScreen(context, async () => {
		const query = await viewpointQuery(searchParams);
		const asked = await wordsOf(searchParams, ["status"]);
		const status = statusAsked(asked.status);
		const viewpoint = resolveViewpoint(context, query);
		const frame = await frameView(context, viewpoint);
		return (
			<Frame view={frame} limited>
				<DealSlots>
					<DealsScreen
						packed={goesWithPage(context, viewpoint) ? packedDealsText(context, viewpoint, status) : null}
						rest={restAddress("/deals/rows", { ...query, ...asked }, context.organisation.revision)}
						frame={frame.sentence}
						mayAssign={may(context.actor, "assignTasks") && !viewpoint.seen.past}
						choices={may(context.actor, "editDeals") && !viewpoint.seen.past ? editChoices(context) : null}
						views={views}
					/>
				</DealSlots>
			</Frame>
		);
	});
}
