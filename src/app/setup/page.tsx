import { faultScreen } from "@/app/server/faultScreen";
import { frameView } from "@/app/server/frame";
import { addressOf, type SearchParams, sentenceQuery } from "@/app/server/query";
import { signedIn } from "@/app/server/session";
import { formatDay } from "@/core/time/day";
import { Frame } from "@/ui/screens/frame/Frame";
import { SetupScreen } from "@/ui/screens/setup/SetupScreen";
import { readFlagSettings } from "@/usecases/flagSettings";
import { readHabits } from "@/usecases/habitSettings";
import { listImports } from "@/usecases/importBundle";
import { listKeys } from "@/usecases/keys";
import { readQuestions } from "@/usecases/questionSettings";
import { readAudit } from "@/usecases/readAudit";
import { readPeople } from "@/usecases/readPeople";
import { may } from "@/usecases/rights";
import { resolveSentence } from "@/usecases/sentence";
import { readStages } from "@/usecases/stageSettings";
import { listWeekly } from "@/usecases/weekly/missing";

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
					flags={await readFlagSettings(context)}
					questions={readQuestions(context)}
					stages={await readStages(context)}
					habits={readHabits(context)}
					audit={may(context.actor, "readAudit") ? await readAudit(context) : null}
					mayChange={may(context.actor, "changeRules")}
					currency={context.memory.company.rules.rates.base}
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
