import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readSignIns } from "../server/managePeople";
import { readPeople } from "../server/readPeople";
import { PeoplePanel } from "../ui/PeoplePanel";

export const peoplePanel = panel({
	key: "people",
	label: "People and teams",
	group: "people",
	about: "Who is with the company, in which team, with which role; links to set a password; handing over.",
	right: "readPeople",
	show: async (context) => {
		const mayChange = may(context.actor, "managePeople");
		return (
			<PeoplePanel view={readPeople(context)} signIns={mayChange ? await readSignIns(context) : null} zone={context.organisation.company.rules.zone.name} />
		);
	},
});
