import { and, desc, eq, gte, isNull, lt, or } from "drizzle-orm";
import { z } from "zod";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { attachments } from "@/data/schema";
import { readContent } from "@/data/store/contents";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { personName } from "@/platform/names";
import { dealsReached, reachAccount } from "@/platform/reachAccount";
import { reachDealOn } from "@/platform/reachDeal";

/** A file or link as it is shown and answered. */
export const attachmentSchema = z
	.object({
		id: z.string(),
		dealId: z.string().nullable(),
		accountId: z.string().nullable(),
		activityId: z.string().nullable(),
		name: z.string(),
		url: z.string().nullable().meta({ description: "of a link" }),
		type: z.string().nullable().meta({ description: "of a file: its media type by its content" }),
		size: z.number().int().nullable().meta({ description: "of a file, in bytes" }),
		sha256: z.string().nullable().meta({ description: "of a file’s bytes, in hexadecimal" }),
		addedAt: z.iso.datetime(),
		byId: z.string().nullable(),
	})
	.meta({ id: "Attachment" });
export type AttachmentJson = z.infer<typeof attachmentSchema>;

/** The same with what a screen says beside it. */
export interface AttachmentView extends AttachmentJson {
	readonly by: string | null;
	readonly on: string;
}

type Row = typeof attachments.$inferSelect;

function presentOn({ organisation }: Context, day: Day) {
	const until = new Date(organisation.company.rules.zone.instantAt(day + 1, 0));
	return and(lt(attachments.addedAt, until), or(isNull(attachments.removedAt), gte(attachments.removedAt, until)));
}

const jsonOf = ({ removedAt: _, addedAt, ...row }: Row): AttachmentJson => ({ ...row, addedAt: addedAt.toISOString() });

const viewOf = ({ organisation }: Context, row: Row): AttachmentView => ({
	...jsonOf(row),
	by: personName(organisation, row.byId),
	on: formatDay(organisation.company.rules.zone.dayOf(row.addedAt.getTime())),
});

const NEWEST = [desc(attachments.addedAt), desc(attachments.id)];

/** What is kept with a deal, as it stood on a day, the newest first. */
export const listOfDeal = query("attachments.ofDeal", "readDeals", async (context: Context, dealId: string, day: Day): Promise<AttachmentView[]> => {
	reachDealOn(context, dealId, day);
	const rows = await connection()
		.db.select()
		.from(attachments)
		.where(and(eq(attachments.dealId, dealId), presentOn(context, day)))
		.orderBy(...NEWEST);
	return rows.map((row) => viewOf(context, row));
});

/** Files and links of a deal by their ids, for what shows an answer: those removed since too. */
export type ProofFiles = ReadonlyMap<string, { readonly name: string; readonly href: string; readonly present: boolean }>;

/** The files and links that answers of a deal name as what shows them, for a reader who has reached the deal on that day. */
export async function proofFilesOf(
	{ now }: Context,
	proofs: readonly (string | null)[],
	present: readonly AttachmentView[],
	dealId: string,
	day: Day,
): Promise<ProofFiles> {
	const named = proofs.flatMap((proof) => (proof?.startsWith("attachment:") ? proof.slice("attachment:".length) : []));
	if (!named.length) return new Map();
	const rows = await connection()
		.db.select({ id: attachments.id, name: attachments.name, url: attachments.url })
		.from(attachments)
		.where(and(eq(attachments.dealId, dealId), isOneOf(attachments.id, named)));
	const there = new Set(present.map(({ id }) => id));
	return new Map(
		rows.map(({ id, name, url }) => [
			id,
			{ name, href: url ?? `/api/v1/files/${encodeURIComponent(id)}${day < now.day ? `?as_of=${formatDay(day)}` : ""}`, present: there.has(id) },
		]),
	);
}

/** What is kept with an account and with the deals of it that are reached, as it stood on a day, the newest first. */
export const listOfAccount = query(
	"attachments.ofAccount",
	"readAccounts",
	async (context: Context, accountId: string, day: Day): Promise<AttachmentView[]> => {
		reachAccount(context, accountId);
		const deals = dealsReached(context, accountId, day).flatMap((deal) => context.organisation.deals[deal]?.id ?? []);
		const rows = await connection()
			.db.select()
			.from(attachments)
			.where(and(or(eq(attachments.accountId, accountId), isOneOf(attachments.dealId, deals)), presentOn(context, day)))
			.orderBy(...NEWEST);
		return rows.map((row) => viewOf(context, row));
	},
);

/** A file’s bytes, for those who reach what it is kept with, on the day it is looked at. */
export const readFile = query(
	"attachments.read",
	"readDeals",
	async (context: Context, id: string, day: Day): Promise<AttachmentJson & { bytes: Uint8Array }> => {
		const { db } = connection();
		const [row] = await db
			.select()
			.from(attachments)
			.where(and(eq(attachments.id, id), presentOn(context, day)));
		if (!row?.sha256) throw notFound("file", id);
		if (row.dealId) reachDealOn(context, row.dealId, day);
		else reachAccount(context, row.accountId ?? "");
		const bytes = await readContent(db, row.sha256);
		if (!bytes) throw new Fault(404, "Its content is missing", `What ${row.name} held isn’t stored here. Tell the administrator of this server.`);
		return { ...jsonOf(row), bytes };
	},
);
