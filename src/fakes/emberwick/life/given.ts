import type { Day } from "../../../core/time/day";
import type { DemoAccount } from "../accounts";
import type { Going } from "../plan";

export interface DealGiven {
	readonly id: string;
	readonly account: DemoAccount;
	readonly created: Day;
	/** last day the owner worked here, when they left */
	readonly ownerLeft: Day | null;
	/** how whole quarters go, where they don't go alike */
	readonly going?: Going;
}
