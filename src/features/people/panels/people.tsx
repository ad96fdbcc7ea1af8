import { panel } from "@/platform/panel";
import { readPeople } from "../server/readPeople";
import { PeoplePanel } from "../ui/PeoplePanel";

export const peoplePanel = panel({
	key: "people",
	words: "People and teams",
	right: "readPeople",
	show: (context) => <PeoplePanel view={readPeople(context)} />,
});
