import { config } from "@/config/config";
import { panel } from "@/platform/panel";
import { readHooks } from "../server/hooks";
import { HooksPanel } from "../ui/HooksPanel";

/** Where webhooks can be sent to be tried, and where what came is shown; null where none ships. */
function receiver() {
	const { PORCH_LAMP_RECEIVER: address, PORCH_LAMP_RECEIVED: shown } = config();
	return address && shown ? { address, shown } : null;
}

export const webhooksPanel = panel({
	key: "webhooks",
	label: "Webhooks",
	group: "data",
	about: "Addresses that are called when tasks are given or change.",
	right: "manageHooks",
	show: async (context) => <HooksPanel view={await readHooks(context)} zone={context.organisation.company.rules.zone.name} receiver={receiver()} />,
});
