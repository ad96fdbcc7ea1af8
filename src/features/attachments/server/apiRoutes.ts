import contentDisposition from "content-disposition";
import { z } from "zod";
import { parseDay } from "@/core/time/day";
import { MOST_FILE } from "@/core/words/fileWords";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { page } from "@/platform/http/api";
import { apiRoute, isoDay, list, paging } from "@/platform/http/apiRoute";
import { readBody } from "@/platform/http/body";
import { idSchema } from "@/platform/input";
import { attachFile, removeAttachment } from "./attach";
import { placeSchema } from "./place";
import { attachmentSchema, listOfAccount, listOfDeal, readFile } from "./readAttachments";

const placed = { deal: idSchema.optional(), account: idSchema.optional() };
const dayOf = (context: Context, asOf: string | undefined) => (asOf ? (parseDay(asOf) ?? context.now.day) : context.now.day);

/** What a browser may take a file for. Anything else is bytes: it is saved, never shown. */
const HARMLESS = /^(application\/(pdf|zip|msword|vnd\.[\w.+-]+)|image\/(png|jpeg|gif|webp|tiff|bmp|heic)|text\/plain)$/;

const binary = { "application/octet-stream": { schema: { type: "string", format: "binary" } } };

export const attachmentRoutes = [
	apiRoute({
		by: listOfAccount,
		id: "listFiles",
		method: "get",
		path: "/files",
		summary: "Files and links of a deal, or of an account and its deals, the newest first",
		status: 200,
		answer: list(attachmentSchema),
		query: z.object({ ...placed, as_of: isoDay.optional(), ...paging }),
		run: async (context, { query: { deal, account, as_of, cursor, limit } }) => {
			const day = dayOf(context, as_of);
			if ((deal === undefined) === (account === undefined)) throw new Fault(400, "Bad request", "Name a deal or an account.");
			const found = deal ? await listOfDeal(context, deal, day) : await listOfAccount(context, account ?? "", day);
			return page(
				found.map(({ by: _, on: __, ...one }) => one),
				cursor,
				limit,
			);
		},
	}),
	apiRoute({
		by: attachFile,
		id: "addFile",
		method: "post",
		path: "/files",
		summary: "Keep a file with a deal, an account or an activity: its bytes are the body, of at most 20 MB",
		status: 201,
		query: z.object({ ...placed, activity: idSchema.optional(), name: z.string().min(1).max(1000) }),
		file: {
			describe: () => ({
				requestBody: { required: true, content: binary },
				responses: { "201": { description: "Kept", content: { "application/json": { schema: { type: "object", properties: { id: { type: "string" } } } } } } },
			}),
		},
		run: async (context, { query: { deal, account, activity, name }, request }) => {
			const place = placeSchema.parse({ ...(deal && { dealId: deal }), ...(account && { accountId: account }), ...(activity && { activityId: activity }) });
			const bytes = await readBody(request, "Put it where everybody reads it, and add a link to it here.", MOST_FILE);
			// A plain array: a buffer would be spelled out where its sum is meant.
			return attachFile(context, { place, name, bytes: new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length) });
		},
	}),
	apiRoute({
		by: readFile,
		id: "readFile",
		method: "get",
		path: "/files/{id}",
		summary: "A file’s bytes",
		status: 200,
		query: z.object({ as_of: isoDay.optional() }),
		file: { describe: () => ({ responses: { "200": { description: "The bytes, to be saved", content: binary } } }) },
		run: async (context, { params, query }) => {
			const { name, type, bytes, sha256 } = await readFile(context, params.id ?? "", dayOf(context, query.as_of));
			const known = type && HARMLESS.test(type) ? type : "application/octet-stream";
			return new Response(bytes as BodyInit, {
				headers: {
					"content-type": known,
					"content-disposition": contentDisposition(name),
					"content-length": String(bytes.length),
					"x-content-type-options": "nosniff",
					"content-security-policy": "sandbox; default-src 'none'",
					etag: `"${sha256}"`,
				},
			});
		},
	}),
	apiRoute({
		by: removeAttachment,
		id: "removeFile",
		method: "delete",
		path: "/files/{id}",
		summary: "Take a file or link away; days before still have it",
		status: 204,
		run: (context, { params }) => removeAttachment(context, { id: params.id ?? "" }),
	}),
];
