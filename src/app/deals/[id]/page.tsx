import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { SheetSlots } from "@/features/dealSlots";
import { readSheet } from "@/features/sheet/server/readSheet";
import { SheetPage } from "@/features/sheet/ui/SheetPage";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "Deal" };

export default async function DealPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/deals/${encodeURIComponent(id)}`, searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const view = await readSheet(context, id, formatDay(viewpoint.seen.day), formatDay(viewpoint.against.day));
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<SheetSlots>
					<SheetPage view={view} />
				</SheetSlots>
			</Frame>
		);
	});
}
