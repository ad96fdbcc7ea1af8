import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { readPerson } from "@/features/desk/server/readPerson";
import { PersonScreen } from "@/features/desk/ui/PersonScreen";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

interface Props {
	readonly params: Promise<{ id: string }>;
	readonly searchParams: SearchParams;
}

export const metadata = { title: "One of ours" };

export default async function PersonPage({ params, searchParams }: Props) {
	const id = decodeURIComponent((await params).id);
	const context = await signedIn(await addressOf(`/people/${encodeURIComponent(id)}`, searchParams));
	return faultScreen(context, async () => {
		const query = await viewpointQuery(searchParams);
		const view = await readPerson(context, query, id);
		return (
			<Frame view={await frameView(context, resolveViewpoint(context, query))} title={view.name} dated>
				<PersonScreen view={view} />
			</Frame>
		);
	});
}
