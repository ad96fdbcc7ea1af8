import { panel } from "@/platform/panel";
import { readAudit } from "../server/readAudit";
import { AuditPanel } from "../ui/AuditPanel";

export const auditPanel = panel({
	key: "audit",
	words: "Who changed what",
	right: "readAudit",
	show: async (context, { limit, text }) => (
		<AuditPanel view={await readAudit(context, { limit, text })} text={text ?? ""} zone={context.organisation.company.rules.zone.name} />
	),
});
