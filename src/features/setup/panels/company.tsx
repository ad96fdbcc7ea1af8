import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readCompany } from "../server/company";
import { CompanyPanel } from "../ui/CompanyPanel";

export const companyPanel = panel({
	key: "company",
	label: "Company",
	group: "company",
	about: "Name, currency, time zone, fiscal year, working week and holidays; the demo company.",
	right: "readRules",
	show: async (context) => <CompanyPanel view={await readCompany(context)} mayChange={may(context.actor, "changeRules")} />,
});
