import { z } from "zod";

/** One thing that is wrong with what was sent, however many rows have it. */
export const causeSchema = z.object({
	file: z.string(),
	column: z.string().nullable(),
	reason: z.string(),
	count: z.number().int().meta({ description: "rows that have it" }),
	lines: z.array(z.number().int()).readonly().meta({ description: "the first of them" }),
	values: z.array(z.string()).readonly(),
	rests: z.number().int().meta({ description: "rows elsewhere that refer to them" }),
});
