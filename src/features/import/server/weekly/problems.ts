import { formatDay, parseDay } from "@/core/time/day";
import type { Problem } from "@/formats/bundle/model";
import type { WeeklyRow } from "@/formats/weekly/rowReader";
import type { Context } from "@/platform/context";

/** What is wrong with the day of a file: it isn’t one, or is in the future. */
export function dayProblems(context: Context, file: string, day: string | null): Problem[] {
	if (day === null) return [];
	const parsed = parseDay(day);
	const reason = parsed === null ? "this isn’t a day" : parsed > context.now.day ? `this day is in the future; today is ${formatDay(context.now.day)}` : null;
	return reason ? [{ file, line: null, column: null, value: day, reason }] : [];
}

/** Amounts in a currency that can't be put into the base. */
export function withoutRate({ organisation, now }: Context, file: string, rows: readonly WeeklyRow[]): Problem[] {
	const { rates } = organisation.company.rules;
	return rows.flatMap(({ currency, line }) => {
		if (currency === null || currency === rates.base || rates.on(currency, now.day)) return [];
		return [{ file, line, column: null, value: currency, reason: `there is no rate from ${currency} to ${rates.base}; import rates.csv with one first` }];
	});
}
