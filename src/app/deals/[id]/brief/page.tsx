import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams } from "@/app/server/query";
import { readBrief } from "@/features/rounds/server/readBrief";
import { BriefScreen } from "@/features/rounds/ui/BriefScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "Brief" };

export default async function BriefPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/deals/${encodeURIComponent(id)}/brief`, searchParams));
	return faultScreen(context, async () => {
		const view = await readBrief(context, id);
		return (
			<Frame view={await frameView(context, resolveViewpoint(context, {}))} title={`Brief: ${view.title}`}>
				<BriefScreen view={view} />
			</Frame>
		);
	});
}
