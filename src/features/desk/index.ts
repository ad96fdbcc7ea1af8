import { countDue } from "@/features/tasks";
import { capability } from "@/platform/capability";
import { lookAtDesk, setAside } from "./server/looks";
import { readLead } from "./server/readLead";
import { readMentions } from "./server/readMentions";
import { readPerson } from "./server/readPerson";
import { addTalkPoint, strikeTalkPoint } from "./server/talkPoints";

/** One's own page: what is due, what is lit and why, who called on them. */
export const desk = capability({
	key: "desk",
	commands: [addTalkPoint, strikeTalkPoint, lookAtDesk, setAside],
	queries: [readMentions, readLead, readPerson],
	keys: [
		{ key: "J and K", label: "next and previous of what waits", on: "/desk", where: "On my desk" },
		{ key: "O", label: "open it", on: "/desk", where: "On my desk" },
		{ key: "E", label: "set it aside until something about it changes", on: "/desk", where: "On my desk" },
	],
	rail: { path: "/desk", label: "My desk", key: "m", count: { label: "due", value: countDue } },
});
