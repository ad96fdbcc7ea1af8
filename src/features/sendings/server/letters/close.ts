import { closeFile, closePicture, closeWords, readClose } from "@/features/closes";
import { letterKind } from "./letter";

/** How the last period ended. */
export const closeLetter = letterKind({
	key: "close",
	label: "How the last period ended",
	async read(context, viewpoint) {
		const view = await readClose(context, viewpoint);
		if (!view) return null;
		const { headline, sentences } = closeWords(view);
		const { sheets: _, ...content } = await closeFile.read(context, viewpoint, () => undefined);
		return {
			subject: `${view.label}: ${headline}`,
			says: [`${view.label}: ${headline}.`, ...sentences],
			parts: [{ title: "", says: [], picture: closePicture(view), content, path: null }],
			path: "/period/closed",
		};
	},
});
