import { sql } from "drizzle-orm";
import { connection } from "@/data/db";

export const dynamic = "force-dynamic";

/** Whether this process can answer: the database is there and its tables are. */
export async function GET(): Promise<Response> {
	try {
		await connection().db.execute(sql`select 1 from organisation`);
		return Response.json({ state: "well" });
	} catch {
		return Response.json({ state: "the database doesn't answer" }, { status: 503 });
	}
}
