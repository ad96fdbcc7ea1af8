import { connection } from "@/data/db";
import { forgetUnnamed } from "@/data/store/contents";

/** Forgets what no file names any more. */
export const forgetContents = {
	name: "forget-files",
	run: async (): Promise<readonly string[]> => {
		const gone = await forgetUnnamed(connection().db);
		return gone ? [`${gone} contents of files that nothing names`] : [];
	},
};
