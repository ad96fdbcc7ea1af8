import { dealsThat, lit, reasonOf } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** We owe the buyer a reply. */
export const replyOwed = happening({
	kind: "reply-owed",
	label: "a reply is owed",
	usual: NEVER,
	find: (scan) => dealsThat(scan, (was, is) => reasonOf(lit("reply-owed", was, is))),
	say: ({ deal, reason }) => `${deal}: ${reason}`,
});
