import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, viewpointQuery } from "@/app/server/query";
import { formatDay } from "@/core/time/day";
import { listImports } from "@/features/import/server/importBundle";
import { listWeekly } from "@/features/import/server/weekly/missing";
import { listKeys } from "@/features/people/server/keys";
import { readPeople } from "@/features/people/server/readPeople";
import { readFlagSettings } from "@/features/setup/server/flagSettings";
import { readHabits } from "@/features/setup/server/habitSettings";
import { readQuestions } from "@/features/setup/server/questionSettings";
import { readAudit } from "@/features/setup/server/readAudit";
import { readStages } from "@/features/setup/server/stageSettings";
import { SetupScreen } from "@/features/setup/ui/SetupScreen";
import { signedIn } from "@/platform/http/session";
import { may } from "@/platform/rights";
import { resolveViewpoint } from "@/platform/viewpoint";
import { Frame } from "@/ui/frame/Frame";

export const metadata = { title: "Setup" };

export default async function SetupPage({ searchParams }: { searchParams: SearchParams }) {
	const context = await signedIn(await addressOf("/setup", searchParams));
	return faultScreen(context, async () => {
		const ops = may(context.actor, "importBundle");
		return (
			<Frame view={await frameView(context, resolveViewpoint(context, await viewpointQuery(searchParams)))} title="Setup">
				<SetupScreen
					people={readPeople(context)}
					keys={await listKeys(context)}
					flags={await readFlagSettings(context)}
					questions={readQuestions(context)}
					stages={await readStages(context)}
					habits={readHabits(context)}
					audit={may(context.actor, "readAudit") ? await readAudit(context) : null}
					mayChange={may(context.actor, "changeRules")}
					currency={context.organisation.company.rules.rates.base}
					imports={ops ? await listImports(context) : null}
					weekly={await listWeekly(context)}
					today={formatDay(context.now.day)}
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
