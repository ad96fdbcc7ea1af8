import { z } from "zod";
import { organisationSettings } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";

const careDays = z
	.number("The days must be a number.")
	.int("The days are whole.")
	.min(1, "One day or more.")
	.max(365, "365 days at most: contacts before that aren’t looked at.");

export const habitsSchema = z.object({
	/** kinds of activity, with the position of the open stage each belongs to; 0: to none */
	kinds: z
		.array(
			z.object({
				kind: z.string().trim().toLowerCase().min(1, "A kind needs a name.").max(60, "A kind’s name has at most 60 letters."),
				position: z.number().int().min(0),
			}),
		)
		.max(60),
	reasons: z.array(z.string().trim().min(1, "A reason can’t be empty.").max(200, "A reason has at most 200 letters.")).max(100),
	/** of reasons that end one day: with the next fiscal year, or so many months after the loss */
	returns: z.record(z.string(), z.union([z.literal("year"), z.number().int().min(1).max(120)])),
	/** the share of what is in commit that is to be won, in per cent */
	goal: z.number("The goal must be a number.").int("The goal is in whole per cent.").min(1, "The goal is 1% or more.").max(100, "The goal is 100% at most."),
	/** an account that buys less than this share of the year before is at risk, in per cent */
	risk: z
		.number("The share must be a number.")
		.int("The share is in whole per cent.")
		.min(1, "The share is 1% or more.")
		.max(100, "The share is 100% at most."),
	/** within so many calendar days somebody of an account without a deal is to be spoken to, by its kind */
	care: z.object({ customer: careDays, prospect: careDays }),
	/** upper ends of the bands of last contact, in calendar days */
	bands: z
		.array(
			z
				.number("A band must be a number of days.")
				.int("A band is in whole days.")
				.min(1, "A band has at least one day.")
				.max(10_000, "A band has at most 10 000 days."),
		)
		.length(3)
		.refine((days) => days.every((d, i) => i === 0 || d > (days[i - 1] as number)), "Each band must end later than the one before."),
});
export type Habits = z.infer<typeof habitsSchema>;

export const readHabits = query("setup.habits", "readRules", (context: Context): Habits => {
	const { organisation } = context;
	return {
		kinds: organisation.activityKinds.map((kind) => ({ kind, position: organisation.company.rules.kindPositions[kind] ?? 0 })),
		reasons: [...organisation.outcomeReasons],
		returns: { ...organisation.reasonReturns },
		goal: organisation.commitGoal,
		risk: organisation.riskShare,
		care: organisation.careDays,
		bands: [...organisation.contactBands],
	};
});

/** Sets which kinds of activity belong to which stage, the reasons for a loss, the bands of last contact, and when an account is at risk. */
export const saveHabits = command({
	name: "setup.saveHabits",
	right: "changeRules",
	input: habitsSchema,
	async run({ context, input: { kinds, reasons, returns, goal, risk, care, bands }, tx }) {
		const last = context.organisation.company.rules.stages.filter((stage) => stage.kind === "open").length;
		const wrong = kinds.find((kind) => kind.position > last);
		if (wrong) throw new Fault(422, "No such stage", `${wrong.kind} would belong to stage ${wrong.position}; there are ${last} open stages.`);
		if (new Set(kinds.map((k) => k.kind)).size < kinds.length) throw new Fault(422, "Named twice", "A kind of activity is in the list twice.");
		const before = readHabits(context);
		await tx.update(organisationSettings).set({
			activityKinds: Object.fromEntries(kinds.map(({ kind, position }) => [kind, position ? { stagePosition: position } : {}])),
			outcomeReasons: [...new Set(reasons)],
			contactBands: bands,
			commitGoal: goal,
			riskShare: risk,
			careDays: care,
			reasonReturns: Object.fromEntries(Object.entries(returns).filter(([reason]) => reasons.includes(reason))),
		});
		return {
			result: {},
			touched: "settings",
			audit: { action: "habits changed", detail: { before, after: { kinds, reasons, returns, goal, risk, care, bands } } },
		};
	},
});
