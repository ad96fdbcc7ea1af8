import { eq } from "drizzle-orm";
import { z } from "zod";
import { fileName, MOST_FILE } from "@/core/words/fileWords";
import { connection, type Tx } from "@/data/db";
import { attachments } from "@/data/schema";
import { keepContent, sumOf } from "@/data/store/contents";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { log } from "@/platform/log";
import { mediaTypeOf } from "./mediaType";
import { type Kept, placeSchema, reachKept, reachPlace } from "./place";

/** rows that are written by one statement */
const CHUNK = 2000;

const nameSchema = z.string().max(1000, "A name has at most 200 letters.").transform(fileName);
/** What is read again after a write: the deal; an account’s page reads its own. */
const touchedBy = ({ dealId }: Pick<Kept, "dealId">) => (dealId ? [dealId] : ("nothing" as const));

/** Keeps a file with a deal, an account or an activity. What it is is told by its content, not by its name. */
export const attachFile = command({
	name: "attachments.addFile",
	right: "writeNotes",
	server: true,
	input: z.object({
		place: placeSchema,
		name: nameSchema,
		bytes: z
			.instanceof(Uint8Array)
			.refine((bytes) => bytes.length > 0, "This file is empty.")
			.refine((bytes) => bytes.length <= MOST_FILE, `A file has at most ${MOST_FILE / 2 ** 20} MB.`),
	}),
	/** Twenty megabytes are written before anything is held up by it. */
	async prepare({ context, input: { place, bytes } }) {
		await reachPlace(connection().db, context, place);
		try {
			await keepContent(connection().db, bytes);
		} catch (error) {
			// A full disk or a folder that can’t be written; what the database says goes on as it is.
			const code = error instanceof Error && "syscall" in error && "code" in error ? String(error.code) : null;
			if (!code) throw error;
			log.error({ code }, "the folder of PORCH_LAMP_FILES can’t be written");
			throw new Fault(
				507,
				"Couldn’t store the file",
				`Nothing was added: the server can’t write to its folder for files (${code}). Tell the administrator of this server, then add the file again.`,
			);
		}
	},
	async run({ context, input: { place, name, bytes }, tx }) {
		const kept = await reachPlace(tx, context, place);
		const type = await mediaTypeOf(bytes);
		const sha256 = sumOf(bytes);
		const id = await insert(tx, context, { ...kept, name, type, size: bytes.length, sha256 });
		return {
			result: { id },
			touched: touchedBy(kept),
			audit: { action: "file added", subject: kept.dealId ?? kept.accountId, detail: { name, size: bytes.length } },
		};
	},
});

/** Keeps a link with a deal, an account or an activity. */
export const attachLink = command({
	name: "attachments.addLink",
	right: "writeNotes",
	input: z.object({
		place: placeSchema,
		name: z.string().trim().max(200, "A name has at most 200 letters.").default(""),
		url: z.url({ protocol: /^https?$/, error: "A link starts with https://." }).max(2000, "A link has at most 2 000 letters."),
	}),
	async run({ context, input: { place, name, url }, tx }) {
		const kept = await reachPlace(tx, context, place);
		const id = await insert(tx, context, { ...kept, name: name || url.replace(/^https?:\/\//, "").slice(0, 200), url });
		return {
			result: { id },
			touched: touchedBy(kept),
			audit: { action: "link added", subject: kept.dealId ?? kept.accountId, detail: { name: name || url, url } },
		};
	},
});

/** Keeps files whose bytes are stored already, each with an activity of a deal or an account that was reached. */
export async function keepFiles(
	tx: Tx,
	{ actor, now }: Context,
	files: readonly (Kept & Required<Pick<typeof attachments.$inferInsert, "name" | "type" | "size" | "sha256">>)[],
): Promise<void> {
	const rows = files.map((file) => ({ ...file, id: newId("attachment"), addedAt: new Date(now.instant), byId: actor.person.id }));
	for (let at = 0; at < rows.length; at += CHUNK) await tx.insert(attachments).values(rows.slice(at, at + CHUNK));
}

async function insert(tx: Tx, { actor, now }: Context, given: Omit<typeof attachments.$inferInsert, "id" | "addedAt" | "byId">): Promise<string> {
	const id = newId("attachment");
	await tx.insert(attachments).values({ ...given, id, addedAt: new Date(now.instant), byId: actor.person.id });
	return id;
}

/** Gives a file or link another name. */
export const renameAttachment = command({
	name: "attachments.rename",
	right: "writeNotes",
	input: z.object({ id: idSchema, name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters.").transform(fileName) }),
	async run({ context, input: { id, name }, tx }) {
		const one = await reached(tx, context, id);
		await tx.update(attachments).set({ name }).where(eq(attachments.id, id));
		return {
			result: { before: one.name },
			touched: touchedBy(one),
			audit: { action: "file renamed", subject: one.dealId ?? one.accountId, detail: { before: one.name, after: name } },
		};
	},
});

/** Takes a file or link away, or (`removed` false) puts it back. Days before still have it. */
export const removeAttachment = command({
	name: "attachments.remove",
	right: "writeNotes",
	input: z.object({ id: idSchema, removed: z.boolean().default(true) }),
	async run({ context, input: { id, removed }, tx }) {
		const one = await reached(tx, context, id);
		if (removed === (one.removedAt !== null))
			throw new Fault(409, "Already done", removed ? `${one.name} has been removed already.` : `${one.name} is there already.`);
		await tx
			.update(attachments)
			.set({ removedAt: removed ? new Date(context.now.instant) : null })
			.where(eq(attachments.id, id));
		return {
			result: {},
			touched: touchedBy(one),
			audit: { action: removed ? "file removed" : "file restored", subject: one.dealId ?? one.accountId, detail: { name: one.name } },
		};
	},
});

/** One that is changed, with its row held. @throws Fault 404 where it isn’t there, or out of reach */
async function reached(tx: Tx, context: Context, id: string) {
	const [one] = await tx.select().from(attachments).where(eq(attachments.id, id)).for("update");
	if (!one) throw notFound("file", id);
	reachKept(context, one);
	return one;
}
