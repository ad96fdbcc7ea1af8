import { z } from "zod";

const whom = z.object({ field: z.enum(["deal", "category", "stage", "owner", "level", "flag"]), value: z.string().min(1).max(200) });

export const move = z
	.object({
		whom,
		what: z.enum(["win", "drop", "push", "price"]),
		percent: z.number("A share is a number.").min(0, "A share can’t be negative.").max(1000),
	})
	.refine(({ what, percent }) => what === "price" || (percent > 0 && percent <= 100), "A share lies between 1 and 100 per cent.")
	.meta({ id: "Move" });

export const trySchema = z
	.object({
		id: z.string(),
		name: z.string(),
		whose: z.string(),
		due: z.string(),
		madeOn: z.iso.date(),
		moves: z.array(move),
		own: z.boolean(),
		by: z.string(),
		sharedWith: z.string().nullable(),
	})
	.meta({ id: "Try" });

export type SavedTry = z.infer<typeof trySchema>;
