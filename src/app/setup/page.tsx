import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { formatDay } from "@/core/time/day";
import { Frame } from "@/ui/screens/frame/Frame";
import { SetupScreen } from "@/ui/screens/setup/SetupScreen";
import { listImports } from "@/usecases/importBundle";
import { listKeys } from "@/usecases/keys";
import { readPeople } from "@/usecases/readPeople";
import { may } from "@/usecases/rights";
import { resolveSentence } from "@/usecases/sentence";

export const metadata = { title: "Setup" };

export default async function SetupPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/setup", searchParams));
	return faultScreen(context, async () => {
		const ops = may(context.actor, "importBundle");
		return (
			<Frame view={await frameView(context, resolveSentence(context, await sentenceQuery(searchParams)))} title="Setup">
				<SetupScreen
					people={readPeople(context)}
					keys={await listKeys(context)}
					imports={ops ? await listImports(context) : null}
					clock={
						may(context.actor, "changeClock")
							? { today: formatDay(context.now.day), held: context.now.held, byEnvironment: Boolean(process.env.PORCH_LAMP_TODAY) }
							: null
					}
				/>
			</Frame>
		);
	});
}
