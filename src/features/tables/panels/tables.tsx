import { panel } from "@/platform/panel";
import { readKept } from "../server/keepTables";
import { listTables } from "../server/readTable";
import { TablesPanel } from "../ui/TablesPanel";

export const tablesPanel = panel({
	key: "tables",
	label: "Tables",
	group: "data",
	about: "Deals, flags, figures and tasks as tables that other programs read: as CSV, as Parquet, in the database.",
	right: "readTables",
	show: async (context) => (
		<TablesPanel
			tables={listTables(context)}
			kept={await readKept(context)}
			ops={context.actor.person.role === "ops"}
			zone={context.organisation.company.rules.zone.name}
		/>
	),
});
