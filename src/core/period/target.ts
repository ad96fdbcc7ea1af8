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
	const parts = targetParts(targets, period, scope, rates, ratesOn);
	return parts.length ? parts.reduce((sum, { counts }) => sum + counts, 0) : null;
}

/** A target that counts in a period: how many of its days lie in it, and what that comes to in base minor units. */
export interface TargetPart {
	readonly target: Target;
	readonly days: number;
	readonly counts: number;
}

/** What `targetOf` adds up, in the order of the targets. */
export function targetParts(targets: readonly Target[], period: Period, scope: Scope, rates: Rates, ratesOn: Day): TargetPart[] {
	return targets.flatMap((target) => {
		const days = Math.min(target.end, period.end) - Math.max(target.start, period.start) + 1;
		if (days <= 0 || !ownerIn(scope, target.person)) return [];
		const whole = rates.toBase(target.amount, target.currency, ratesOn);
		return [{ target, days, counts: multiplyRounded(whole, days, target.end - target.start + 1) }];
	});
}
