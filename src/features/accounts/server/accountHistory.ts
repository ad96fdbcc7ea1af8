import { and, desc, eq, inArray, lt } from "drizzle-orm";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { audit } from "@/data/schema";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";

/** A change of an account, told in words. */
export interface AccountChanged {
	readonly id: number;
	readonly on: string;
	readonly by: string;
	readonly words: readonly string[];
}

const SHOWN = 50;

type Detail = Readonly<Record<string, unknown>>;
type Words = (detail: Detail, context: Context) => readonly string[];

const LABELS = { name: "name", kind: "kind", industry: "industry", territory: "territory", ownerId: "owner" } as const;

const textOf = (value: unknown) => (value === null || value === undefined || value === "" ? "none" : String(value));

const changed: Words = ({ before, after }, { organisation }) => {
	const [was, is] = [(before ?? {}) as Detail, (after ?? {}) as Detail];
	return (Object.keys(LABELS) as (keyof typeof LABELS)[]).flatMap((key) => {
		if (!(key in is) || is[key] === was[key]) return [];
		const said = (value: unknown) => (key === "ownerId" && value ? (personName(organisation, String(value)) ?? "somebody") : textOf(value));
		return [`${LABELS[key]}: ${said(was[key])} → ${said(is[key])}`];
	});
};

/** What is told of an account’s past, by what the audit calls it. */
const TOLD: Readonly<Record<string, Words>> = {
	"account created": () => ["created"],
	"account changed": changed,
	"accounts merged": ({ from }) => [`${textOf((from as Detail | undefined)?.name)} was merged into it`],
	"account merge undone": ({ from }) => [`merge with ${textOf(from)} undone`],
};

/** What was changed of an account itself up to a day, by whom, the newest first. */
export async function accountHistory(context: Context, id: string, day: Day): Promise<AccountChanged[]> {
	const { zone } = context.organisation.company.rules;
	const rows = await connection()
		.db.select()
		.from(audit)
		.where(and(eq(audit.subject, id), inArray(audit.action, Object.keys(TOLD)), lt(audit.at, new Date(zone.instantAt(day + 1, 0)))))
		.orderBy(desc(audit.id))
		.limit(SHOWN);
	return rows.flatMap(({ id: entry, at, personId, action, detail }) => {
		const words = TOLD[action]?.(detail, context) ?? [];
		return words.length ? [{ id: entry, on: formatDay(zone.dayOf(at.getTime())), by: personName(context.organisation, personId) ?? "the program", words }] : [];
	});
}
