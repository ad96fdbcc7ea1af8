import { z } from "zod";
import { FIELDS, type VersionedField } from "@/core/deal/fields";
import type { DealState, FieldKey } from "@/core/deal/state";
import { CATEGORIES } from "@/core/history/columns";
import { MOST_AMOUNT } from "@/core/money/amount";
import { dayInput } from "@/platform/input";

type Kind = VersionedField["kind"];

/** How a field is sent to be changed, by its kind; what isn’t nullable can’t be blanked. */
const INPUTS: Readonly<Record<Kind, (field: VersionedField) => z.ZodType>> = {
	stage: () => z.string().max(200),
	money: ({ label }) =>
		z
			.number(`${label} must be a number.`)
			.int(`${label} must be in whole minor units.`)
			.min(0, `${label} can’t be negative.`)
			.max(MOST_AMOUNT, `${label} is too large.`)
			.nullable()
			.meta({ description: "minor units of the currency" }),
	currency: () => z.string().length(3),
	day: () => dayInput.nullable(),
	person: () => z.string().max(200).nullable(),
	category: () => z.enum(CATEGORIES).nullable(),
	text: ({ label }) => z.string().trim().max(500, `${label} has at most 500 letters.`).nullable(),
};

/** How the API answers a field of a version, by its kind; all are null of a deal that is off the books. */
const ANSWERS: Readonly<Record<Kind, z.ZodType>> = {
	stage: z.string().nullable().meta({ description: "null: taken off the books" }),
	money: z.number().int().nullable(),
	currency: z.string().nullable(),
	day: z.iso.date().nullable(),
	person: z.string().nullable(),
	category: z.enum(CATEGORIES).nullable(),
	text: z.string().nullable(),
};

type Schemas = { readonly [K in FieldKey]: z.ZodType<DealState[K], DealState[K]> };
const byField = (schemaOf: (field: VersionedField) => z.ZodType) =>
	Object.fromEntries(FIELDS.map((field) => [field.key, schemaOf(field)])) as unknown as Schemas;

/** Every versioned field as it is sent to be changed. */
export const FIELD_INPUTS: Schemas = byField((field) => INPUTS[field.kind](field));
/** Every versioned field as the API answers it. */
export const FIELD_ANSWERS: Schemas = byField(({ kind }) => ANSWERS[kind]);
