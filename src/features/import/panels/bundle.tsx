import { panel } from "@/platform/panel";
import { listImports } from "../server/importBundle";
import { readNewest } from "../server/takeOutBundle";
import { ImportPanel } from "../ui/ImportPanel";

export const bundlePanel = panel({
	key: "import",
	label: "Import and export",
	group: "data",
	about: "Import a bundle with full history, undo an import, export everything.",
	right: "importBundle",
	show: async (context) => (
		<ImportPanel past={await listImports(context)} newest={await readNewest(context)} zone={context.organisation.company.rules.zone.name} />
	),
});
