import { type ScimPatchOperation, type ScimResource, scimPatch } from "scim-patch";
import { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { address } from "@/platform/address";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { type Resource, ScimFault } from "./answer";
import { groupSchema, groupsIn, takeOutGroup, writeGroup } from "./groups";
import { takeOutUser, userSchema, usersIn, writeUser } from "./users";

export const KINDS = ["Users", "Groups"] as const;
export type Kind = (typeof KINDS)[number];
export const base = () => address("/scim/v2");

/** What the directory is told of its users or groups: all of them, or one. */
export const readDirectory = query(
	"people.directory",
	"managePeople",
	async (context: Context, kind: Kind, only?: string): Promise<Resource[]> =>
		kind === "Users" ? usersIn(connection().db, base(), context.now.day, only) : groupsIn(connection().db, base(), only),
);

const patchSchema = z.object({
	Operations: z
		.array(
			z.object({
				op: z
					.string()
					.toLowerCase()
					.pipe(z.enum(["add", "remove", "replace"])),
				path: z.string().optional(),
				value: z.unknown().optional(),
			}),
		)
		.min(1, "A patch needs operations."),
});

/** Makes, replaces, changes or takes out a user or a group, as the company’s directory asks; of one that was seen otherwise nothing is changed. */
export const writeDirectory = command({
	name: "people.writeDirectory",
	right: "managePeople",
	server: true,
	input: z.object({
		kind: z.enum(KINDS),
		/** null makes one */
		id: z.string().max(300).nullable(),
		how: z.enum(["whole", "patch", "gone"]),
		sent: z.unknown(),
		/** the version that was seen, where one is named */
		version: z.string().nullable(),
	}),
	async run({ context, input: { kind, id, how, sent, version }, tx }) {
		const today = context.now.day;
		const read = async (one: string): Promise<Resource | undefined> =>
			(kind === "Users" ? await usersIn(tx, base(), today, one) : await groupsIn(tx, base(), one))[0];
		const before = id === null ? undefined : await read(id);
		if (id !== null && !before) throw new ScimFault(404, null, `There is no ${kind === "Users" ? "user" : "group"} ${id}.`);
		if (before && version !== null && version !== before.meta.version)
			throw new ScimFault(412, null, `It was changed since: its version is ${before.meta.version} now. Read it again.`);
		if (how === "gone" && id !== null) {
			const audit = kind === "Users" ? await takeOutUser(tx, id, today) : await takeOutGroup(tx, id, today);
			return { result: null, touched: audit.length ? "settings" : "nothing", audit };
		}
		const wish = how === "patch" && before ? patched(before, sent) : sent;
		const { id: key, audit } = await written(tx, kind, wish, id, today);
		return { result: (await read(key)) ?? null, touched: audit.length ? "settings" : "nothing", audit };
	},
});

const written = (tx: Tx, kind: Kind, wish: unknown, id: string | null, today: number) =>
	kind === "Users" ? writeUser(tx, userSchema.parse(wish), id, today) : writeGroup(tx, groupSchema.parse(wish), id, today);

/** A resource with the changes of a patch (RFC 7644, 3.5.2). */
function patched(before: Resource, sent: unknown): unknown {
	const { Operations } = patchSchema.parse(sent);
	const named = before as Resource & { displayName: string; name?: { formatted?: string } };
	try {
		const after = scimPatch(structuredClone(named) as unknown as ScimResource, Operations as ScimPatchOperation[]) as unknown as typeof named;
		const { name, displayName } = named;
		if (!name || after.displayName !== displayName) return after;
		// What somebody is called stands in three places, of which a directory changes one.
		const { formatted, ...parts } = (after.name ?? {}) as { formatted?: string; givenName?: string; familyName?: string };
		const { formatted: _, ...partsBefore } = name;
		const whole = formatted !== name.formatted ? formatted : JSON.stringify(parts) !== JSON.stringify(partsBefore) ? joinedName(parts) : displayName;
		return { ...after, displayName: whole || displayName };
	} catch (error) {
		const { scimCode, message } = error as Error & { scimCode?: string };
		throw new ScimFault(400, scimCode ?? "invalidSyntax", message);
	}
}
const joinedName = ({ givenName, familyName }: { givenName?: string; familyName?: string }) => [givenName, familyName].filter(Boolean).join(" ");
