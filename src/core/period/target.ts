import { ownerIn, type Scope } from "../bridge/scope";
import { multiplyRounded } from "../money/decimal";
import type { Rates } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";

/** What a person is to win in a time, in minor units of its currency. */
export interface Target extends Period {
	/** index of the person */
	readonly person: number;
	readonly amount: number;
	readonly currency: string;
}

/** What a person is to win of a product family. */
export interface FocusTarget extends Target {
	readonly family: string;
}

/**
 * The target of a period and scope in base minor units: of each target the share of its days that lie in the
 * period, rounded half away from zero, at the rates of a day. Null where nobody in the scope has one for it.
 */
export function targetOf(targets: readonly Target[], period: Period, scope: Scope, rates: Rates, ratesOn: Day): number | null {
	let sum: number | null = null;
	for (const target of targets) {
		const days = Math.min(target.end, period.end) - Math.max(target.start, period.start) + 1;
		if (days <= 0 || !ownerIn(scope, target.person)) continue;
		const whole = rates.toBase(target.amount, target.currency, ratesOn);
		sum = (sum ?? 0) + multiplyRounded(whole, days, target.end - target.start + 1);
	}
	return sum;
}
