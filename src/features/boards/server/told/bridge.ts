import { bridgePicture, readChanges } from "@/features/changes";
import { noPeriod, teller } from "./teller";

/** The bridge between the two days. */
export const bridgeTold = teller({
	key: "bridge",
	tell(context, viewpoint) {
		const view = readChanges(context, viewpoint, { limit: 1 });
		if (!view) return noPeriod("Bridge");
		return { title: "Bridge", says: [`${view.headline}.`], picture: bridgePicture(view), path: "/changes" };
	},
});
