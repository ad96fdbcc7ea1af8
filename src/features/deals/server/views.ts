import { and, eq, inArray, isNotNull, ne, or, sql } from "drizzle-orm";
import { z } from "zod";
import { formatRange, parsePeriod } from "@/core/time/period";
import { connection, type Tx } from "@/data/db";
import { viewPlaces, views } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { keptName, MOST_SHOWN, oneLine, shareIn, sharingTeams } from "@/platform/sharing";
import { VIEW_SCREENS, type ViewScreen } from "../table/viewScreens";

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
	/** one may take it away: it is one's own, or one is of ops */
	readonly removable: boolean;
	/** its screen opens with it */
	readonly opening: boolean;
}

/** Whether a text can stand behind the ? of an address, and everybody's browser and ours read the same of it. */
function isQuery(text: string): boolean {
	if (!oneLine(text) || /[#\s\\]/.test(text)) return false;
	try {
		return oneLine(decodeURIComponent(text.replaceAll("+", " ")));
	} catch {
		return false;
	}
}

/** so many views of their own somebody keeps */
const MOST_OWN = 100;

async function demandRoom(tx: Tx, ownerId: string): Promise<void> {
	if ((await tx.$count(views, eq(views.ownerId, ownerId))) >= MOST_OWN) throw new Fault(422, "Too many views", `You have ${MOST_OWN} views; delete one first.`);
}

const viewSchema = z.object({
	screen: z.enum(VIEW_SCREENS).optional(),
	name: keptName("view"),
	query: z.string().max(4000, "This view has more filters than can be kept.").refine(isQuery, "This isn’t the query of an address."),
	shared: z.boolean(),
});

/** A query whose period is named by its days: a quarter's number means other days under another fiscal calendar. */
function byDays({ organisation }: Context, asked: string): string {
	const fields = new URLSearchParams(asked);
	const period = /^\d{4}-Q[1-4]$/.test(fields.get("due") ?? "") ? parsePeriod(fields.get("due") ?? "", organisation.company.rules.fiscal) : null;
	return period ? asked.replace(/(^|&)due=[^&]*/, `$1due=${formatRange(period)}`) : asked;
}

/** One's own views and those shared with one's team, in the order the person has put them in. */
export const readViews = query("deals.views", "keepViews", async (context: Context, screen: ViewScreen = "deals"): Promise<SavedView[]> => {
	const { organisation, actor } = context;
	const me = actor.person.id;
	const teams = sharingTeams(context);
	const rows = await connection()
		.db.select({ view: views, place: viewPlaces })
		.from(views)
		.leftJoin(viewPlaces, and(eq(viewPlaces.viewId, views.id), eq(viewPlaces.personId, me)))
		.where(and(eq(views.screen, screen), or(eq(views.ownerId, me), teams.length ? inArray(views.sharedWith, teams) : undefined)))
		// Where others share too many, one's own are all there.
		.orderBy(sql`${views.ownerId} <> ${me}`, sql`${viewPlaces.position} nulls last`, views.createdAt, views.id)
		.limit(MOST_SHOWN);
	const placeOf = ({ place }: (typeof rows)[number]) => place?.position ?? Number.MAX_SAFE_INTEGER;
	rows.sort((a, b) => placeOf(a) - placeOf(b) || a.view.createdAt.getTime() - b.view.createdAt.getTime() || (a.view.id < b.view.id ? -1 : 1));
	return rows.map(({ view, place }) => ({
		id: view.id,
		name: view.name,
		query: view.query,
		own: view.ownerId === me,
		removable: view.ownerId === me || (actor.person.role === "ops" && view.sharedWith !== null),
		by: personName(organisation, view.ownerId) ?? "Somebody",
		sharedWith: view.sharedWith,
		opening: place?.opening ?? false,
	}));
});

/** Keeps a view under a name, private or shared with one's team and the teams below. */
export const saveView = command({
	name: "deals.saveView",
	right: "keepViews",
	input: viewSchema,
	async run({ context, input: { name, query: asked, shared, screen = "deals" }, tx }) {
		const { person } = context.actor;
		const team = await shareIn(tx, context, views, shared, "views");
		await demandRoom(tx, person.id);
		const id = newId();
		await tx.insert(views).values({ id, ownerId: person.id, screen, name, query: byDays(context, asked), sharedWith: team });
		return { result: { id }, touched: "nothing", audit: { action: "view saved", detail: { view: id, name, shared } } };
	},
});

/** Changes a view of one's own: its name, what it shows, whom it is shared with. */
export const changeView = command({
	name: "deals.changeView",
	right: "keepViews",
	input: viewSchema.omit({ screen: true }).partial().extend({ id: idSchema }),
	async run({ context, input: { id, shared, ...change }, tx }) {
		const view = await ownView(tx, context, id);
		const set = {
			...change,
			...(change.query === undefined ? {} : { query: byDays(context, change.query) }),
			...(shared === undefined ? {} : { sharedWith: await shareIn(tx, context, views, shared, "views") }),
		};
		if (Object.keys(set).length) await tx.update(views).set(set).where(eq(views.id, id));
		return { result: {}, touched: "nothing", audit: { action: "view changed", detail: { view: id, name: view.name, before: view, after: set } } };
	},
});

/** Takes a view of one's own away; one that is shared ops may take away too. */
export const removeView = command({
	name: "deals.removeView",
	right: "keepViews",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const view = await ownView(tx, context, id, context.actor.person.role === "ops");
		await tx.delete(views).where(eq(views.id, id));
		return { result: {}, touched: "nothing", audit: { action: "view deleted", detail: { view: id, name: view.name } } };
	},
});

/** A view of one's own, held until the commit; throws a 404 for any other. */
async function ownView(tx: Tx, context: Context, id: string, orShared = false): Promise<typeof views.$inferSelect> {
	const [view] = await tx
		.select()
		.from(views)
		.where(
			and(
				eq(views.id, id),
				orShared ? or(eq(views.ownerId, context.actor.person.id), isNotNull(views.sharedWith)) : eq(views.ownerId, context.actor.person.id),
			),
		)
		.for("update");
	if (!view) throw notFound("view of yours", id);
	return view;
}

/** Puts the views one sees into an order of one's own. */
export const orderViews = command({
	name: "deals.orderViews",
	right: "keepViews",
	input: z.object({ ids: z.array(idSchema).max(500), screen: z.enum(VIEW_SCREENS).default("deals") }),
	async run({ context, input: { ids, screen }, tx }) {
		const seen = new Set((await readViews(context, screen)).map((view) => view.id));
		const rows = ids.filter((id) => seen.has(id)).map((viewId, position) => ({ personId: context.actor.person.id, viewId, position }));
		if (rows.length)
			await tx
				.insert(viewPlaces)
				.values(rows)
				.onConflictDoUpdate({ target: [viewPlaces.personId, viewPlaces.viewId], set: { position: sql`excluded.position` } });
		return { result: {}, touched: "nothing", audit: [] };
	},
});

const ofScreen = (tx: Tx, screen: ViewScreen) => tx.select({ id: views.id }).from(views).where(eq(views.screen, screen));

/** Makes a view the one that its screen opens with; null: none. */
export const openWith = command({
	name: "deals.openWith",
	right: "keepViews",
	input: z.object({ id: idSchema.nullable(), screen: z.enum(VIEW_SCREENS).default("deals") }),
	async run({ context, input: { id, screen }, tx }) {
		const seen = await readViews(context, screen);
		const position = seen.findIndex((view) => view.id === id);
		if (id !== null && position < 0) throw notFound("view", id);
		const personId = context.actor.person.id;
		await tx
			.update(viewPlaces)
			.set({ opening: false })
			.where(and(eq(viewPlaces.personId, personId), ne(viewPlaces.viewId, id ?? ""), inArray(viewPlaces.viewId, ofScreen(tx, screen))));
		if (id !== null)
			await tx
				.insert(viewPlaces)
				.values({ personId, viewId: id, opening: true, position })
				.onConflictDoUpdate({ target: [viewPlaces.personId, viewPlaces.viewId], set: { opening: true } });
		return { result: {}, touched: "nothing", audit: [] };
	},
});
