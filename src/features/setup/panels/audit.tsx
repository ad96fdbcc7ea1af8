import { panel } from "@/platform/panel";
import { readAudit } from "../server/readAudit";
import { AuditPanel } from "../ui/AuditPanel";

export const auditPanel = panel({
	key: "audit",
	label: "Audit",
	group: "company",
	about: "Who changed what, and when; exported as a table.",
	right: "readAudit",
	async show(context, { limit, ask }) {
		const asked = { text: ask("text"), kind: ask("kind"), by: ask("by"), of: ask("of") };
		return <AuditPanel view={await readAudit(context, { limit, ...asked })} asked={asked} zone={context.organisation.company.rules.zone.name} />;
	},
});
