import type { Day } from "../../../core/time/day";
import type { DemoAccount } from "../accounts";

export interface DealGiven {
	readonly id: string;
	readonly account: DemoAccount;
	readonly created: Day;
	/** last day the owner worked here, when they left */
	readonly ownerLeft: Day | null;
}
