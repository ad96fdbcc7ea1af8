import { panel } from "@/platform/panel";
import { readSendings } from "../server/sendings";
import { SendingsPanel } from "../ui/SendingsPanel";

export const sendingsPanel = panel({
	key: "sendings",
	label: "Sent by itself",
	group: "mine",
	about: "Mails that are sent again and again: Period, changes, the outlook, closes, saved views and tasks, to whom and when.",
	right: "readDeals",
	show: async (context) => <SendingsPanel view={await readSendings(context)} />,
});
