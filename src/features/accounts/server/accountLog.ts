import { sql } from "drizzle-orm";
import { z } from "zod";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dealsReached, reachAccount } from "@/platform/reachAccount";
import { type LogFilter, narrowed } from "./logFilter";

/** Something that was said, done or planned at an account. */
export const logSchema = z
	.object({
		id: z.string(),
		dealId: z.string().nullable(),
		kind: z.string(),
		direction: z.enum(["in", "out", "both", "none"]),
		state: z.enum(["done", "planned"]),
		at: z.iso.datetime(),
		byId: z.string().nullable(),
		contactIds: z.array(z.string()),
		subject: z.string().nullable(),
		body: z.string().nullable(),
	})
	.meta({ id: "LogEntry" });
export type LogEntry = z.infer<typeof logSchema>;

const place = z.tuple([z.string(), z.string()]);

function placeAsked(cursor: string | undefined): readonly [string, string] | null {
	if (cursor === undefined) return null;
	try {
		return place.parse(JSON.parse(Buffer.from(cursor, "base64url").toString("utf8")));
	} catch {
		throw new Fault(400, "Bad request", "This cursor isn’t one of this list. Start again without it.");
	}
}

/** What was said, done and planned at an account and on the deals of it that the actor reaches, as known at the end of a day, the newest first. */
export const readAccountLog = query(
	"accounts.readLog",
	"readAccounts",
	async (
		context: Context,
		id: string,
		day: Day,
		filter: LogFilter,
		{ cursor, limit }: { cursor?: string | undefined; limit: number },
	): Promise<{ items: LogEntry[]; next: string | null }> => {
		const { organisation } = context;
		reachAccount(context, id);
		const deals = dealsReached(context, id, day).flatMap((deal) => organisation.deals[deal]?.id ?? []);
		const until = new Date(organisation.company.rules.zone.instantAt(day + 1, 0)).toISOString();
		const after = placeAsked(cursor);
		const { rows } = await connection().db.execute(sql`
			select * from (
				select a.id, a.deal_id, a.kind, a.direction, a.by_id, a.contact_ids, a.subject, a.body,
					-- What is said to be done later was still planned then, for the day it was planned for.
					case when a.settled_at >= ${until} then 'planned' else a.state end as state,
					case when a.settled_at >= ${until} then a.planned_for else a.at end as at
				from activities a
				where (a.deal_id = any(${sql.param(deals)}::text[]) or (a.deal_id is null and a.account_id = ${id}))
					and (a.recorded_at is null or a.recorded_at < ${until})
			) log
			where (state = 'planned' or at < ${until})
				${narrowed(filter)}
				${after ? sql`and (at, id collate "C") < (${after[0]}::timestamptz, ${after[1]} collate "C")` : sql``}
			order by at desc, id collate "C" desc limit ${limit + 1}`);
		const items = rows.slice(0, limit).map(entryOf);
		const last = items.at(-1);
		return { items, next: last && rows.length > limit ? Buffer.from(JSON.stringify([last.at, last.id])).toString("base64url") : null };
	},
);

const entryOf = (row: Record<string, unknown>): LogEntry => ({
	id: String(row.id),
	dealId: (row.deal_id as string | null) ?? null,
	kind: String(row.kind),
	direction: row.direction as LogEntry["direction"],
	state: row.state as LogEntry["state"],
	at: new Date(String(row.at)).toISOString(),
	byId: (row.by_id as string | null) ?? null,
	contactIds: row.contact_ids as string[],
	subject: (row.subject as string | null) ?? null,
	body: (row.body as string | null) ?? null,
});
