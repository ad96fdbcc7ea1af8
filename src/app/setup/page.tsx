import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, askOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { PANELS } from "@/features/panels";
import { SetupPlaces } from "@/features/setup/ui/SetupPlaces";
import { signedIn } from "@/platform/http/session";
import { PANEL_GROUPS } from "@/platform/panel";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";
import { rowsAsked } from "@/ui/parts/rows";

export const metadata = { title: "Setup" };

export default async function SetupPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/setup", searchParams));
	return faultScreen(context, async () => {
		const ask = await askOf(searchParams);
		const open = PANELS.filter((panel) => may(context.actor, panel.right));
		const here = open.find((panel) => panel.key === ask("place")) ?? open[0];
		return (
			<Frame view={await frameView(context, resolveViewpoint(context, await viewpointQuery(searchParams)))} title="Setup">
				<SetupPlaces groups={PANEL_GROUPS} places={open.map(({ key, label, group, about }) => ({ key, label, group, about }))} current={here?.key ?? ""}>
					{await here?.show(context, { limit: rowsAsked(ask("limit")), ask })}
				</SetupPlaces>
			</Frame>
		);
	});
}
