import { sql } from "drizzle-orm";
import type { Edition } from "@/core/qualification/edition";
import type { Question } from "@/core/qualification/score";
import { NO_DAY } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";
import type { Sql } from "../db";

type Stored = Record<string, unknown>;

/** The questions in all their editions; before the first change there is one, the questions themselves. */
export async function readEditions(db: Sql, zone: Zone): Promise<{ editions: Edition[]; help: Map<string, string> }> {
	const all = async (query: ReturnType<typeof sql>) => (await db.execute(query)).rows as Stored[];
	const rows = await all(sql`select id, area, prompt, help, weight, due_stage_position, key from questions order by ordinal, id`);
	const kept = await all(sql`
		select (extract(epoch from at) * 1000)::float8 as at, question_id as id, area, prompt, help, weight, due_stage_position, key
		from question_editions order by at, place, question_id`);
	const slots = new Map(rows.map((row, i) => [String(row.id), i]));
	const questionOf = (row: Stored): Question => ({
		id: String(row.id),
		slot: slots.get(String(row.id)) ?? -1,
		area: String(row.area),
		prompt: String(row.prompt),
		weight: Number(row.weight),
		due: Number(row.due_stage_position),
		key: Boolean(row.key),
	});
	const groups = new Map<number, Stored[]>();
	for (const row of kept) groups.set(Number(row.at), [...(groups.get(Number(row.at)) ?? []), row]);
	const editions = groups.size
		? [...groups].map(([at, list]): Edition => ({ from: zone.dayOf(at), questions: list.map(questionOf) }))
		: [{ from: NO_DAY, questions: rows.map(questionOf) }];
	return { editions, help: new Map(rows.flatMap((row) => (row.help ? [[String(row.id), String(row.help)] as const] : []))) };
}
