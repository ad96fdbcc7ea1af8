import { randomUUID } from "node:crypto";
import { and, eq, inArray, ne, or, sql } from "drizzle-orm";
import { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { teamsUnder } from "@/data/organisation/state";
import { viewPlaces, views } from "@/data/schema";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { demand } from "@/platform/rights";

export interface SavedView {
	readonly id: string;
	readonly name: string;
	/** the query of the address that it opens */
	readonly query: string;
	readonly own: boolean;
	/** whose it is, when somebody else's */
	readonly by: string;
	/** the team it is shared with, or null while private */
	readonly sharedWith: string | null;
	/** Deals opens with it */
	readonly opening: boolean;
}

export const viewSchema = z.object({
	name: z.string().trim().min(1, "Give the view a name.").max(80, "A view's name has at most 80 letters."),
	query: z.string().max(4000, "This view has more filters than can be kept."),
	shared: z.boolean(),
});

/** Teams whose shared views a person sees: their own and those above it. */
function teamsAbove({ organisation, actor }: Context): string[] {
	const own = actor.person.team;
	return own ? [...organisation.teams.keys()].filter((team) => teamsUnder(organisation, team).has(own)) : [];
}

/** One's own views and those shared with one's team, in the order the person has put them in. */
export async function readViews(context: Context): Promise<SavedView[]> {
	demand(context.actor, "keepViews");
	const { organisation, actor } = context;
	const me = actor.person.id;
	const teams = teamsAbove(context);
	const rows = await connection()
		.db.select({ view: views, place: viewPlaces })
		.from(views)
		.leftJoin(viewPlaces, and(eq(viewPlaces.viewId, views.id), eq(viewPlaces.personId, me)))
		.where(or(eq(views.ownerId, me), teams.length ? inArray(views.sharedWith, teams) : undefined))
		.orderBy(sql`${viewPlaces.position} nulls last`, views.createdAt, views.id);
	return rows.map(({ view, place }) => ({
		id: view.id,
		name: view.name,
		query: view.query,
		own: view.ownerId === me,
		by: organisation.people[organisation.personIndex.get(view.ownerId) ?? -1]?.name ?? "Somebody",
		sharedWith: view.sharedWith,
		opening: place?.opening ?? false,
	}));
}

/** Keeps a view under a name, private or shared with one's team and the teams below. */
export async function saveView(context: Context, input: unknown): Promise<{ id: string }> {
	demand(context.actor, "keepViews");
	const wish = viewSchema.parse(input);
	const { person } = context.actor;
	if (wish.shared && !person.team) throw new Fault(422, "No team", "You belong to no team, so there is nobody to share it with.");
	const id = randomUUID();
	await connection().db.transaction(async (tx) => {
		await tx.insert(views).values({ id, ownerId: person.id, name: wish.name, query: wish.query, sharedWith: wish.shared ? person.team : null });
		await record(tx, context, "view saved", null, { view: id, name: wish.name, shared: wish.shared });
	});
	return { id };
}

/** Changes a view of one's own: its name, what it shows, whom it is shared with. */
export async function changeView(context: Context, id: string, input: unknown): Promise<void> {
	demand(context.actor, "keepViews");
	const wish = viewSchema.partial().parse(input);
	await ownView(context, id, async (tx) => {
		await tx
			.update(views)
			.set({
				...(wish.name === undefined ? {} : { name: wish.name }),
				...(wish.query === undefined ? {} : { query: wish.query }),
				...(wish.shared === undefined ? {} : { sharedWith: wish.shared ? context.actor.person.team : null }),
			})
			.where(eq(views.id, id));
	});
}

export async function removeView(context: Context, id: string): Promise<void> {
	demand(context.actor, "keepViews");
	await ownView(context, id, async (tx) => {
		await tx.delete(views).where(eq(views.id, id));
	});
}

async function ownView(context: Context, id: string, work: (tx: Tx) => Promise<void>): Promise<void> {
	await connection().db.transaction(async (tx) => {
		const [view] = await tx
			.select()
			.from(views)
			.where(and(eq(views.id, id), eq(views.ownerId, context.actor.person.id)))
			.for("update");
		if (!view) throw notFound("view of yours", id);
		await work(tx);
		await record(tx, context, "view changed", null, { view: id, name: view.name });
	});
}

/** Puts the views one sees into an order of one's own. */
export async function orderViews(context: Context, ids: readonly string[]): Promise<void> {
	const seen = new Set((await readViews(context)).map((view) => view.id));
	const rows = ids.filter((id) => seen.has(id)).map((viewId, position) => ({ personId: context.actor.person.id, viewId, position }));
	if (!rows.length) return;
	await connection()
		.db.insert(viewPlaces)
		.values(rows)
		.onConflictDoUpdate({ target: [viewPlaces.personId, viewPlaces.viewId], set: { position: sql`excluded.position` } });
}

/** Makes a view the one that Deals opens with; null: none. */
export async function openWith(context: Context, id: string | null): Promise<void> {
	const seen = await readViews(context);
	if (id !== null && !seen.some((view) => view.id === id)) throw notFound("view", id);
	const personId = context.actor.person.id;
	await connection().db.transaction(async (tx) => {
		await tx
			.update(viewPlaces)
			.set({ opening: false })
			.where(and(eq(viewPlaces.personId, personId), ne(viewPlaces.viewId, id ?? "")));
		if (id === null) return;
		await tx
			.insert(viewPlaces)
			.values({ personId, viewId: id, opening: true, position: seen.findIndex((view) => view.id === id) })
			.onConflictDoUpdate({ target: [viewPlaces.personId, viewPlaces.viewId], set: { opening: true } });
	});
}
