import { randomBytes } from "node:crypto";
import { and, eq, isNull, ne } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import type { Sql } from "@/data/db";
import { dataFeeds } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { seal } from "@/platform/sealedText";
import type { Feed } from "./deliver";
import { whyNot } from "./fetchAddress";
import { folderName } from "./folderName";
import { isRule, nextTime } from "./rhythm";

const sender = z
	.string()
	.trim()
	.toLowerCase()
	.max(200)
	.regex(/^[^\s@]*@[^\s@]+\.[^\s@]+$/, "Name senders as ops@company.example, or @company.example for anybody there.");

const fields = {
	name: z
		.string()
		.trim()
		.min(1, "Enter a name.")
		.max(60, "A name has at most 60 letters.")
		.refine((name) => folderName(name) !== "", "A name needs a letter or a number."),
	kind: z.enum(["weekly", "bundle"]),
	covers: z.string().trim().max(100, "A part has at most 100 letters.").default(""),
	tell: z.array(idSchema).max(50).default([]),
	senders: z.array(sender).max(50, "Name at most 50 senders.").default([]),
	url: z.url("Enter an address such as https://system.example/report.csv.").max(2000).nullable().default(null),
	/** left out: the one that is kept stays; null: none */
	header: z
		.string()
		.trim()
		.max(4000)
		.regex(/^[\w-]+:\s*\S.*$/, "A header is written as Authorization: Bearer …")
		.nullish(),
	rule: z.string().trim().max(500).refine(isRule, "Write a rule of RFC 5545, hourly at most, such as FREQ=DAILY;BYHOUR=6;BYMINUTE=0.").nullable().default(null),
	due: z
		.object({
			days: z.array(z.number().int().min(1).max(7)).min(1, "Choose a day.").max(7),
			at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Write the time as 08:00."),
		})
		.nullable()
		.default(null),
};

/** Sets up a feed, or changes one; it imports with the rights of the person who saved it last. */
export const saveFeed = command({
	name: "feeds.save",
	right: "importBundle",
	input: z.object({ id: idSchema.nullable(), ...fields, on: z.boolean().default(true) }),
	async run({ context, input: { id, header, ...set }, tx }) {
		const { organisation, now, actor } = context;
		demandFetched(set);
		for (const one of set.tell) {
			const person = organisation.people[organisation.personIndex.get(one) ?? -1];
			if (!person || !worksOn(person, now.day)) throw notFound("person", one);
		}
		const before = id === null ? null : await feedOf(tx, id);
		const others = await tx
			.select()
			.from(dataFeeds)
			.where(and(isNull(dataFeeds.endedAt), ne(dataFeeds.id, id ?? "")));
		const twin = others.find(({ name }) => folderName(name) === folderName(set.name));
		if (twin) throw new Fault(422, "Name taken", `There is a feed ${twin.name} already; choose another name.`);
		const same = set.kind === "weekly" ? others.find(({ kind, covers }) => kind === "weekly" && covers === set.covers) : undefined;
		if (same)
			throw new Fault(
				422,
				"Part taken",
				`${same.name} brings weekly files of ${set.covers ? `the part ${set.covers}` : "the whole pipeline"} already; files of two feeds would replace each other. Name another part.`,
			);
		// Another address or rhythm is fetched afresh, by the server’s own clock.
		const anew = set.url !== before?.url ? { etag: null, lastModified: null } : {};
		const nextAt = set.url && set.rule ? nextTime(set.rule, now.instant, Date.now(), organisation.company.rules.zone) : null;
		const row = {
			...{ ...set, ...anew, byId: actor.person.id },
			...(header === undefined ? {} : { header: header === null ? null : seal(header) }),
			...(set.url !== before?.url || set.rule !== before?.rule ? { nextAt: nextAt === null ? null : new Date(nextAt) } : {}),
		};
		const key = id ?? newId("feed");
		if (before) await tx.update(dataFeeds).set(row).where(eq(dataFeeds.id, key));
		else await tx.insert(dataFeeds).values({ ...row, id: key, salt: newSalt(), madeAt: new Date(now.instant) });
		return {
			result: { id: key },
			touched: "nothing",
			audit: { action: before ? "feed changed" : "feed set up", subject: key, detail: { name: set.name, kind: set.kind, part: set.covers || "all" } },
		};
	},
});

/** @throws Fault 422 for an address that isn’t fetched, or without a rhythm */
function demandFetched({ url, rule }: { readonly url: string | null; readonly rule: string | null }): void {
	if (url === null) return;
	const no = whyNot(new URL(url));
	if (no) throw new Fault(422, "Can’t be fetched", `${no} To allow addresses inside, start the program with PORCH_LAMP_HOOKS_INSIDE=on.`);
	if (rule === null) throw new Fault(422, "Choose when", "Choose when the address is fetched.");
}

const newSalt = () => randomBytes(12).toString("base64url");

/** Gives a feed another mail address; the old one no longer works. */
export const replaceFeedAddress = command({
	name: "feeds.replaceAddress",
	right: "importBundle",
	input: z.object({ id: idSchema }),
	async run({ input: { id }, tx }) {
		const { name } = await feedOf(tx, id);
		await tx.update(dataFeeds).set({ salt: newSalt() }).where(eq(dataFeeds.id, id));
		return { result: {}, touched: "nothing", audit: { action: "feed address replaced", subject: id, detail: { name } } };
	},
});

/** Deletes a feed, or (`ended` false) puts it back; what it brought stays. */
export const endFeed = command({
	name: "feeds.end",
	right: "importBundle",
	input: z.object({ id: idSchema, ended: z.boolean().default(true) }),
	async run({ context, input: { id, ended }, tx }) {
		const [feed] = await tx.select().from(dataFeeds).where(eq(dataFeeds.id, id));
		if (!feed) throw notFound("feed", id);
		await tx
			.update(dataFeeds)
			.set({ endedAt: ended ? new Date(context.now.instant) : null })
			.where(eq(dataFeeds.id, id));
		return { result: {}, touched: "nothing", audit: { action: ended ? "feed deleted" : "feed restored", subject: id, detail: { name: feed.name } } };
	},
});

/** A feed that there is. @throws Fault 404 */
export async function feedOf(db: Sql, id: string): Promise<Feed> {
	const [feed] = await db
		.select()
		.from(dataFeeds)
		.where(and(eq(dataFeeds.id, id), isNull(dataFeeds.endedAt)));
	if (!feed) throw notFound("feed", id);
	return feed;
}

/** Hands a file to a feed that is on: gives the feed; the file itself is delivered beside it, by the feed’s own rights. */
export const sendToFeed = command({
	name: "feeds.send",
	right: "importBundle",
	server: true,
	input: z.object({ id: idSchema }),
	async run({ input: { id }, tx }) {
		const feed = await feedOf(tx, id);
		if (!feed.on) throw new Fault(409, "Switched off", `The feed ${feed.name} is switched off. Switch it on in Setup, Feeds.`);
		return { result: feed, touched: "nothing", audit: [] };
	},
});
