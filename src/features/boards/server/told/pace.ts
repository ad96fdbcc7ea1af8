import { pacePicture, readPeriod } from "@/features/period";
import { noPeriod, teller } from "./teller";

/** What was won by working day. */
export const paceTold = teller({
	key: "pace",
	async tell(context, viewpoint) {
		const view = await readPeriod(context, viewpoint);
		if (!view) return noPeriod("Pace");
		return { title: "Pace", says: [view.headline], picture: pacePicture(view), path: "/period" };
	},
});
