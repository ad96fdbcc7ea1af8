import { config } from "@/config/config";
import { panel } from "@/platform/panel";
import { readMailLog } from "../server/mailLog";
import { MailPanel } from "../ui/MailPanel";

export const mailPanel = panel({
	key: "mail",
	label: "Mail",
	group: "data",
	about: "Mails that were sent, wait or were refused.",
	right: "readMail",
	show: async (context) => (
		<MailPanel view={await readMailLog(context)} zone={context.organisation.company.rules.zone.name} mailbox={config().PORCH_LAMP_MAILBOX ?? null} />
	),
});
