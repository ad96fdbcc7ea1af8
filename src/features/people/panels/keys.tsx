import { panel } from "@/platform/panel";
import { listKeys } from "../server/keys";
import { KeysPanel } from "../ui/KeysPanel";

export const keysPanel = panel({
	key: "keys",
	label: "API keys",
	group: "mine",
	about: "Keys for programs that call the API in your name.",
	right: "ownKeys",
	show: async (context) => <KeysPanel keys={await listKeys(context)} zone={context.organisation.company.rules.zone.name} />,
});
