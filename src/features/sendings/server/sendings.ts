import { and, asc, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { type SendingRhythm, sendings } from "@/data/schema";
import { readPlans } from "@/features/rounds";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { chosenName, personName } from "@/platform/names";
import { may } from "@/platform/rights";
import { resolveViewpoint, viewpointChoices } from "@/platform/viewpoint";
import { LETTERS } from "./letters";

const weekdayNumber = z.number().int().min(1).max(7);
const rhythmSchema = z.discriminatedUnion("kind", [
	z.object({ kind: z.literal("weekdays"), days: z.array(weekdayNumber).min(1, "Choose a day.").max(7).readonly() }),
	z.object({ kind: z.literal("month") }),
	z.object({ kind: z.literal("round"), plan: idSchema }),
]);

const sendingSchema = z.object({
	kind: z.enum(LETTERS.map(({ key }) => key) as [string, ...string[]]),
	of: z.string().max(200).default(""),
	whose: z.string().max(300).default(""),
	rhythm: rhythmSchema,
	at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Write the time as 07:30."),
	to: z.array(idSchema).min(1, "Choose somebody to send it to.").max(200),
	attach: z.boolean().default(false),
	skipSame: z.boolean().default(false),
});

const named = ({ id, name }: Named): Named => ({ id, name });

/** Throws a 404 for a plan that isn’t theirs to see. */
async function planChosen(context: Context, id: string): Promise<void> {
	if (!(await readPlans(context)).some((plan) => plan.id === id)) throw notFound("plan", id);
}

/** Has something sent by itself, again and again. Everybody is sent what they may see themselves. */
export const saveSending = command({
	name: "sendings.save",
	right: "sendRegularly",
	input: sendingSchema,
	async run({ context, input, tx }) {
		const { organisation, now, actor } = context;
		const letter = LETTERS.find(({ key }) => key === input.kind);
		if (letter?.of && !(await letter.of.choices(context)).some(({ id }) => id === input.of)) throw notFound(letter.key, input.of);
		if (input.rhythm.kind === "round") await planChosen(context, input.rhythm.plan);
		if (input.whose) resolveViewpoint(context, { whose: input.whose });
		for (const id of input.to) {
			const index = organisation.personIndex.get(id);
			const person = index === undefined ? undefined : organisation.people[index];
			if (!person || !worksOn(person, now.day)) throw notFound("person", id);
			if (!person.email) throw new Fault(422, "No mail address", `${person.name} has no mail address; ops can add one.`);
		}
		const id = newId("sending");
		await tx
			.insert(sendings)
			.values({ ...input, of: letter?.of ? input.of : "", whose: letter?.own ? "" : input.whose, id, byId: actor.person.id, madeOn: formatDay(now.day) });
		const to = input.to.map((one) => personName(organisation, one) ?? one);
		return {
			result: { id },
			touched: "nothing",
			audit: { action: "sending set up", subject: id, detail: { what: letter?.label ?? input.kind, to, at: input.at } },
		};
	},
});

/** Ends what is sent by itself: one’s own, what one is sent oneself (to oneself alone), or, for ops, anything. */
export const endSending = command({
	name: "sendings.end",
	right: "readDeals",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const { person } = context.actor;
		const [row] = await tx
			.select()
			.from(sendings)
			.where(and(eq(sendings.id, id), isNull(sendings.endedAt)));
		const whole = row && (row.byId === person.id || may(context.actor, "readMail"));
		if (!row || (!whole && !row.to.includes(person.id))) throw notFound("sending", id);
		const to = whole ? [] : row.to.filter((one) => one !== person.id);
		await tx
			.update(sendings)
			.set(to.length ? { to } : { endedAt: new Date(context.now.instant), endedById: person.id })
			.where(eq(sendings.id, id));
		return { result: {}, touched: "nothing", audit: { action: "sending ended", subject: id, detail: { for: to.length ? person.name : "everybody" } } };
	},
});

/** What is sent by itself, as a list tells of it. */
export interface SendingView {
	readonly id: string;
	readonly what: string;
	readonly whose: string;
	readonly by: string;
	readonly rhythm: SendingRhythm;
	/** the name of the round it is sent before; null for none, and for one that isn’t planned any more */
	readonly round: string | null;
	readonly at: string;
	readonly attach: boolean;
	readonly skipSame: boolean;
	readonly to: readonly { readonly name: string; readonly on: string | null; readonly skipped: boolean }[];
	readonly own: boolean;
}

interface Named {
	readonly id: string;
	readonly name: string;
}

export interface SendingsView {
	readonly sendings: readonly SendingView[];
	/** what may be chosen; null where nothing may be set up */
	readonly choices: {
		readonly kinds: readonly {
			readonly key: string;
			readonly label: string;
			/** what has to be chosen for it */
			readonly of: { readonly label: string; readonly hint: string; readonly choices: readonly Named[] } | null;
			/** nobody chooses whose deals */
			readonly own: boolean;
		}[];
		readonly plans: readonly Named[];
		readonly whose: readonly { readonly key: string; readonly label: string }[];
		readonly people: readonly { readonly id: string; readonly name: string }[];
	} | null;
	/** those of all are shown */
	readonly all: boolean;
}

/** What somebody has sent by itself, and what they are sent; ops see all of it. */
export const readSendings = query("sendings.read", "readDeals", async (context: Context): Promise<SendingsView> => {
	const { organisation, actor, now } = context;
	const all = may(actor, "readMail");
	const rows = await connection().db.select().from(sendings).where(isNull(sendings.endedAt)).orderBy(asc(sendings.madeOn), asc(sendings.id));
	const seen = rows.filter(({ byId, to }) => all || byId === actor.person.id || to.includes(actor.person.id));
	const plans = (await readPlans(context)).map(named);
	const chosen = new Map<string, readonly Named[]>();
	for (const { key, of } of LETTERS) if (of) chosen.set(key, (await of.choices(context)).map(named));
	const { teams } = viewpointChoices(context, now.day);
	return {
		sendings: seen.map(({ id, kind, of, whose, byId, rhythm, at, attach, skipSame, to, sent }): SendingView => {
			const label = LETTERS.find(({ key }) => key === kind)?.label ?? kind;
			return {
				id,
				what: of ? `${label}: ${chosen.get(kind)?.find((one) => one.id === of)?.name ?? "one of somebody’s own"}` : label,
				whose: whose === "all" ? "everyone’s" : whose ? whose.replace(/^team:(.*)$/, "$1 team’s") : "each recipient’s own",
				by: personName(organisation, byId) ?? byId,
				rhythm,
				round: rhythm.kind === "round" ? (plans.find((plan) => plan.id === rhythm.plan)?.name ?? null) : null,
				at,
				attach,
				skipSame,
				to: to.map((one) => ({ name: personName(organisation, one) ?? one, on: sent[one]?.on ?? null, skipped: sent[one]?.skipped ?? false })),
				own: byId === actor.person.id || all,
			};
		}),
		choices: may(actor, "sendRegularly")
			? {
					kinds: LETTERS.map(({ key, label, of, own = false }) => ({
						key,
						label,
						of: of ? { label: of.label, hint: of.hint, choices: chosen.get(key) ?? [] } : null,
						own,
					})),
					plans,
					whose: teams.map(({ key, label }) => ({ key, label })),
					people: organisation.people.flatMap((person, i) =>
						person.email && worksOn(person, now.day) ? [{ id: person.id, name: chosenName(organisation, i) }] : [],
					),
				}
			: null,
		all,
	};
});
