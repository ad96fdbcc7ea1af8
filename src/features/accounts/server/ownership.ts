import { and, desc, eq, sql } from "drizzle-orm";
import type { Tx } from "@/data/db";
import type { Account } from "@/data/organisation/state";
import { audit } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { personName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";

/** Whether an account is somebody’s to give away: of one of theirs, or of nobody. Having a deal there isn’t enough. */
export function mayGiveAway({ organisation, actor }: Context, { ownerId }: Pick<Account, "ownerId">): boolean {
	return ownerId === null || reaches(reachOf(organisation, actor), organisation.personIndex.get(ownerId) ?? -1);
}

/** @throws Fault 403 where an account belongs to somebody who isn’t one of theirs */
export function demandOwnerReached(context: Context, account: Account, to: string): void {
	if (mayGiveAway(context, account)) return;
	const owner = personName(context.organisation, account.ownerId) ?? "someone else";
	throw new Fault(
		403,
		"Not allowed",
		`${account.name || "This account"} belongs to ${owner}, who isn’t one of your people; only who leads them, or operations, can ${to}.`,
	);
}

/**
 * Whether an owner may be named for an account: one within reach, nobody where everything is reached; and the owner it had before
 * the person took it, so that what they did can be undone.
 *
 * @throws Fault 403, or 404 for nobody who is known
 */
export async function demandOwner(tx: Tx, context: Context, account: Account | null, ownerId: string | null): Promise<void> {
	const { organisation, actor } = context;
	const reach = reachOf(organisation, actor);
	const index = ownerId === null ? -1 : organisation.personIndex.get(ownerId);
	if (index === undefined) throw notFound("person", ownerId ?? "");
	if (ownerId === null ? reach === null : reaches(reach, index)) return;
	if (account && (await isGivenBack(tx, context, account, ownerId))) return;
	throw ownerId === null
		? new Fault(403, "Not allowed", "Only people who see all accounts can leave one without an owner.")
		: new Fault(403, "Not allowed", `${personName(organisation, ownerId) ?? "This person"} isn’t one of your people; choose one who is.`);
}

/** Whether the last change of owner was the person’s own, and is undone by this one. */
async function isGivenBack(tx: Tx, { actor }: Context, { id, ownerId: now }: Account, ownerId: string | null): Promise<boolean> {
	const [last] = await tx
		.select({ by: audit.personId, detail: audit.detail })
		.from(audit)
		.where(and(eq(audit.subject, id), eq(audit.action, "account changed"), sql`${audit.detail}->'after' ? 'ownerId'`))
		.orderBy(desc(audit.id))
		.limit(1);
	const { before, after } = (last?.detail ?? {}) as { before?: { ownerId?: string | null }; after?: { ownerId?: string | null } };
	return last?.by === actor.person.id && after?.ownerId === now && (before?.ownerId ?? null) === ownerId;
}
