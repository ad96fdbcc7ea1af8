import { sql } from "drizzle-orm";
import { connection } from "@/data/db";

/** Forgets files of messages that were handed in a week ago, or whose reading ended with its process. */
export const forgetIntakes = {
	name: "forget-intakes",
	run: async (): Promise<readonly string[]> => {
		const gone = await connection().db.execute(
			sql`delete from intakes where really < now() - interval '7 days' or (state = 'reading' and really < now() - interval '1 day')`,
		);
		return gone.rowCount ? [`${gone.rowCount} files of messages`] : [];
	},
};
