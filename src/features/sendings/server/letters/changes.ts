import { bridgePicture, changesFile, readChanges } from "@/features/changes";
import { letterKind } from "./letter";

/** What moved since the earlier day, deal by deal. */
export const changesLetter = letterKind({
	key: "changes",
	label: "Changes: what moved, deal by deal",
	async read(context, viewpoint) {
		const view = readChanges(context, viewpoint, { limit: 1 });
		if (!view) return null;
		const content = await changesFile.read(context, viewpoint, () => undefined);
		return {
			subject: view.headline,
			says: [`${view.headline}.`],
			parts: [{ title: "", says: [], picture: bridgePicture(view), content, path: null }],
			path: "/changes",
		};
	},
});
