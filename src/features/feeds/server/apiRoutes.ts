import { z } from "zod";
import { fileName } from "@/core/words/fileWords";
import { page } from "@/platform/http/api";
import { type ApiRoute, apiRoute, list, paging } from "@/platform/http/apiRoute";
import { readBody } from "@/platform/http/body";
import { deliver } from "./deliver";
import { sendToFeed } from "./feeds";
import { readFeedRuns, readFeeds } from "./readFeeds";

const runSchema = z
	.object({
		id: z.string(),
		at: z.iso.datetime(),
		way: z.string().meta({ description: "mail, folder or api; empty where none came" }),
		name: z.string(),
		sender: z.string().nullable(),
		state: z.enum(["reading", "imported", "known", "waits", "refused", "failed", "missing"]),
		words: z.string().meta({ description: "what it did, what is asked, or why it was refused" }),
		day: z.string().nullable(),
		before: z.string().nullable(),
	})
	.meta({ id: "FeedFile" });

const feedSchema = z
	.object({ id: z.string(), name: z.string(), kind: z.enum(["weekly", "bundle"]), covers: z.string(), on: z.boolean(), waiting: z.number().int() })
	.meta({ id: "Feed" });

const binary = { "application/octet-stream": { schema: { type: "string", format: "binary" } } };

/** Feeds over the API. */
export const feedRoutes: readonly ApiRoute[] = [
	apiRoute({
		by: readFeeds,
		id: "listFeeds",
		method: "get",
		path: "/feeds",
		summary: "Ways by which data comes by itself, with how many files of each wait for an answer",
		status: 200,
		answer: list(feedSchema),
		query: z.object(paging),
		run: async (context, { query: { cursor, limit } }) => {
			const { feeds } = await readFeeds(context);
			return page(
				feeds.map(({ id, name, kind, covers, on, waiting }) => ({ id, name, kind, covers, on, waiting })),
				cursor,
				limit,
			);
		},
	}),
	apiRoute({
		by: readFeedRuns,
		id: "listFeedFiles",
		method: "get",
		path: "/feeds/{id}/files",
		summary: "What came through a feed, the newest first",
		status: 200,
		answer: list(runSchema),
		query: z.object(paging),
		run: async (context, { params, query: { cursor, limit } }) => page(await readFeedRuns(context, params.id ?? ""), cursor, limit),
	}),
	apiRoute({
		by: sendToFeed,
		id: "sendToFeed",
		method: "post",
		path: "/feeds/{id}/files",
		summary: "Send a file through a feed: its bytes are the body. The same file a second time does nothing",
		status: 200,
		query: z.object({ name: z.string().min(1).max(1000) }),
		file: {
			describe: (schemaOf) => ({
				requestBody: { required: true, content: binary },
				responses: { "200": { description: "What came of it", content: { "application/json": { schema: schemaOf(runSchema) } } } },
			}),
		},
		run: async (context, { params, query: { name }, request }) => {
			const feed = await sendToFeed(context, { id: params.id ?? "" });
			const bytes = await readBody(request, "Put it into the feed’s folder, or split it.");
			const sent = {
				way: "api",
				name: fileName(name),
				bytes: new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length),
				sender: context.actor.person.id,
			} as const;
			const { id, at, way, sender, state, words, day, before, name: called } = await deliver(feed, sent);
			return { id, at: at.toISOString(), way, name: called, sender, state, words, day, before };
		},
	}),
];
