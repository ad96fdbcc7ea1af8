import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { dayInput, idSchema } from "@/platform/input";
import { IMPORTANCE } from "../table/importance";
import { REPEAT_RULE, repeatOf } from "../table/repeat";

export const codes = RULES.map((rule) => rule.code) as [string, ...string[]];

export const titleSchema = z.string().trim().min(1, "Enter the task.").max(300, "A task’s title has at most 300 letters.");

/** What a task may have beside its text, its day and whose it is. */
export const taskOptions = {
	flags: z.array(z.enum(codes)).max(20).default([]),
	importance: z.enum(IMPORTANCE).default("usual"),
	/** the kind of activity by whose logging it is done */
	asks: z.string().min(1).max(60).nullable().default(null),
	checklist: z
		.array(z.string().trim().min(1).max(200, "A line of a checklist has at most 200 letters."))
		.max(30, "A checklist has at most 30 lines.")
		.default([]),
	repeat: z
		.string()
		.regex(REPEAT_RULE, "This repeat rule isn’t supported; choose how often the task repeats.")
		.refine((rule) => repeatOf(rule) !== null, "The last day of the repeat rule isn’t a valid day.")
		.nullable()
		.default(null),
	remindOn: dayInput.nullable().default(null),
	remindUnlessAnswered: z.boolean().default(false),
};

/** Whose a task is: a person's, or anyone's of a team; with neither the owner's of its deal. */
export const whoseFields = { assigneeId: idSchema.optional(), team: z.string().min(1).max(200).optional() };

/** One task to be given. */
export const lineSchema = z
	.object({ dealId: idSchema.nullable(), accountId: idSchema.nullable().default(null), title: titleSchema, dueOn: dayInput, ...whoseFields, ...taskOptions })
	.meta({ id: "NewTask" });
export type NewTask = z.output<typeof lineSchema>;
