import { beamsPicture, pacePicture, periodFile, readPeriod } from "@/features/period";
import { columnsOf, letterKind } from "./letter";

/** so many columns a mail has room for */
const BRIEF = ["Rep", "Target", "Won", "Commit", "Best case", "Pipeline", "Open"];

/** Where the period stands, rep by rep. */
export const periodLetter = letterKind({
	key: "period",
	label: "Period: where it stands, rep by rep",
	async read(context, viewpoint) {
		const view = await readPeriod(context, viewpoint);
		if (!view) return null;
		const { sheets: _, ...content } = await periodFile.read(context, viewpoint, () => undefined);
		return {
			subject: view.headline,
			says: [`${view.headline}.`, view.beside],
			parts: [
				{ title: "", says: [], picture: pacePicture(view), path: null },
				{ title: "By rep", says: [], picture: beamsPicture(view.groups, view.currency), content, brief: columnsOf(content, BRIEF), path: null },
			],
			path: "/period",
		};
	},
});
