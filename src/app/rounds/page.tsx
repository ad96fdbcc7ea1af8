import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery, wordsOf } from "@/app/server/query";
import { readPlans } from "@/features/rounds/server/plans";
import { readPrepared } from "@/features/rounds/server/preparation";
import { readHeld } from "@/features/rounds/server/readHeld";
import { readRests } from "@/features/rounds/server/readRests";
import { readRounds } from "@/features/rounds/server/readRounds";
import { readWalk } from "@/features/rounds/server/startWalk";
import { HeldScreen } from "@/features/rounds/ui/HeldScreen";
import { RestsScreen } from "@/features/rounds/ui/RestsScreen";
import { RoundsScreen } from "@/features/rounds/ui/RoundsScreen";
import { RoundsTabs } from "@/features/rounds/ui/RoundsTabs";
import { ROUND_SCREENS } from "@/features/rounds/ui/screens";
import { signedIn } from "@/platform/http/session";
import { resolveViewpoint, viewpointChoices } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Rounds" };

export default async function RoundsPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/rounds", searchParams));
	return faultScreen(context, async () => {
		const viewpoint = resolveViewpoint(context, await viewpointQuery(searchParams));
		const { show } = await wordsOf(searchParams, ["show"]);
		const screen = ROUND_SCREENS.find(({ key }) => key === show)?.key ?? "list";
		const choices = viewpointChoices(context, viewpoint.seen.day);
		const body =
			screen === "rests" ? (
				<RestsScreen {...(await readRests(context))} currency={context.organisation.company.rules.rates.base} />
			) : screen === "held" ? (
				<HeldScreen view={await readHeld(context)} />
			) : (
				<RoundsScreen
					list={await readRounds(context)}
					plans={await readPlans(context)}
					prepared={await readPrepared(context, viewpoint)}
					walk={await readWalk(context)}
					whose={viewpoint.whose}
					due={viewpoint.due}
					past={viewpoint.seen.past}
					choices={[...choices.teams, ...choices.people.map(({ key, label }) => ({ key, label }))]}
				/>
			);
		return (
			<Frame view={await frameView(context, viewpoint)}>
				<RoundsTabs current={screen} />
				{body}
			</Frame>
		);
	});
}
