import { panel } from "@/platform/panel";
import { readHooks } from "../server/hooks";
import { HooksPanel } from "../ui/HooksPanel";

export const webhooksPanel = panel({
	key: "webhooks",
	words: "Webhooks",
	right: "manageHooks",
	show: async (context) => (
		<HooksPanel view={await readHooks(context)} zone={context.organisation.company.rules.zone.name} receiver={process.env.PORCH_LAMP_MAILBOX ?? null} />
	),
});
