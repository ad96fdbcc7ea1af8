import { periodFile, readPeriod } from "@/features/period";
import { letterKind } from "./letter";

/** Where the period stands, rep by rep. */
export const periodLetter = letterKind({
	key: "period",
	label: "Period: where it stands, rep by rep",
	async read(context, viewpoint) {
		const view = await readPeriod(context, viewpoint);
		if (!view) return null;
		const { sheets: _, ...content } = await periodFile.read(context, viewpoint, () => undefined);
		return { subject: view.headline, says: [`${view.headline}.`, view.beside], content, path: "/period" };
	},
});
