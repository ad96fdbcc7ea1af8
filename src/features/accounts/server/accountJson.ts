import { z } from "zod";
import { formatDay } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import type { AccountLine } from "./accountLines";

const whole = z.number().int();
const band = z
	.object({ from: whole, to: whole.nullable() })
	.nullable()
	.meta({ description: "calendar days since the last contact, `to` null in the last band; null where there was none in 365 days" });

/** An account as the API tells of it; amounts in base minor units. */
export const accountSchema = z
	.object({
		id: z.string(),
		versionId: whole.meta({ description: "goes back in If-Match" }),
		name: z.string(),
		kind: z.string().nullable(),
		industry: z.string().nullable(),
		territory: z.string().nullable(),
		ownerId: z.string().nullable(),
		lastContact: z.iso.date().nullable(),
		band,
		bought: z.object({ last365: whole, before365: whole, trend: z.number().nullable().meta({ description: "last365 / before365" }) }),
		atRisk: z.boolean(),
		open: z.object({ count: whole, amount: whole }),
		currency: z.string(),
	})
	.meta({ id: "Account" });
export type AccountJson = z.infer<typeof accountSchema>;

/** An account of a list. */
export const accountJson = ({ contactBands, company }: Pick<OrganisationState, "contactBands" | "company">, line: AccountLine): AccountJson => {
	const { account, touch, open, openAmount, bought, atRisk } = line;
	const { id, version: versionId, name, kind, industry, territory, ownerId } = account;
	return {
		id,
		versionId,
		name,
		kind,
		industry,
		territory,
		ownerId,
		lastContact: touch ? formatDay(touch.day) : null,
		band: touch ? bandJson(line.band, contactBands) : null,
		bought: { ...bought },
		atRisk,
		open: { count: open.length, amount: openAmount },
		currency: company.rules.rates.base,
	};
};

/** The days of a band, by its index. */
const bandJson = (band: number, ends: readonly number[]) => ({ from: band === 0 ? 0 : (ends[band - 1] ?? 0) + 1, to: ends[band] ?? null });

/**
 * How a band is named in an address: `up_to_14`, `15_to_42`, `43_to_91`, `over_91`, `never`.
 *
 * @example bandKeys([14, 42, 91]) // ["up_to_14", "15_to_42", "43_to_91", "over_91", "never"]
 */
export const bandKeys = (ends: readonly number[]): string[] => [
	...ends.map((end, i) => (i === 0 ? `up_to_${end}` : `${(ends[i - 1] ?? 0) + 1}_to_${end}`)),
	`over_${ends.at(-1)}`,
	"never",
];
