import type { DealState } from "@/core/deal/state";
import type { DealSeen } from "@/core/dealSeen";
import type { Flag, FlagWords } from "@/core/flags/rule";
import type { AttachmentView } from "@/features/attachments";
import type { EditChoices } from "@/features/deals";
import type { SheetAccount } from "./account";
import type { peopleOf, trailOfSheet } from "./parts";
import type { SheetQuestion } from "./questions";
import type { Happening } from "./timeline";

export interface SheetTask {
	readonly id: string;
	readonly title: string;
	readonly assignee: string;
	readonly due: string | null;
	readonly state: string;
	readonly late: boolean;
	/** the story of each flag it is to clear, in words */
	readonly stories: readonly { readonly name: string; readonly words: string }[];
}

/** Everything the sheet of a deal shows, seen on a day against an earlier one. */
export interface SheetView {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	/** as it is stored, for a change of it */
	readonly identity: { readonly name: string; readonly accountId: string | null };
	readonly customer: string | null;
	readonly owner: string;
	readonly ownerId: string | null;
	readonly ownerActive: boolean;
	readonly source: string | null;
	readonly competitor: string | null;
	readonly outcomeReason: string | null;
	readonly status: string;
	readonly stage: string;
	readonly category: string | null;
	/** base minor units, and as written */
	readonly amount: number;
	readonly ownAmount: number | null;
	readonly ownCurrency: string;
	readonly baseCurrency: string;
	readonly close: string | null;
	readonly nextStep: string | null;
	readonly nextStepDay: string | null;
	readonly seen: string;
	readonly against: string;
	readonly past: boolean;
	/** till when and why it is left alone; null where it isn't */
	readonly rest: { readonly until: string; readonly reason: string; readonly by: string } | null;
	/** the day of its newest version where that lies after today: nothing can be changed before it is corrected */
	readonly ahead: string | null;
	/** the trouble in one sentence */
	readonly headline: string;
	/** each with the day it lit, and how many working days ago that was */
	readonly flags: readonly (FlagWords &
		Pick<Flag, "code" | "severity"> & { readonly since: string; readonly days: number; readonly settings: readonly string[] })[];
	readonly attention: DealSeen["attention"] & { readonly median: number };
	readonly qualification: {
		readonly strength: number;
		readonly coverage: number;
		readonly expected: number;
		readonly questions: readonly SheetQuestion[];
	};
	readonly trail: ReturnType<typeof trailOfSheet>;
	readonly visits: readonly {
		readonly stage: string;
		readonly from: string;
		readonly to: string;
		readonly finished: boolean;
		readonly length: number;
		readonly usual: number;
		readonly limit: number;
		readonly most: string;
		readonly measured: boolean;
		readonly sample: number;
	}[];
	readonly dealAge: number;
	readonly created: string;
	/** what differs since the earlier day, in words */
	readonly changes: readonly { readonly field: string; readonly before: string; readonly after: string }[];
	readonly changedAmounts: { readonly before: number | null; readonly after: number };
	readonly newSince: boolean;
	readonly lit: readonly string[];
	readonly wentOut: readonly string[];
	readonly lastTouch: string | null;
	readonly lastTouchDays: number | null;
	readonly waiting: { readonly side: string; readonly since: string; readonly days: number } | null;
	readonly people: ReturnType<typeof peopleOf>["people"];
	/** people of the account who aren’t on the deal */
	readonly others: readonly { readonly id: string; readonly name: string; readonly title: string | null }[];
	/** roles that nobody on the deal has */
	readonly missing: readonly string[];
	readonly quotes: readonly {
		readonly id: string;
		readonly number: string | null;
		readonly sent: string | null;
		readonly valid: string | null;
		readonly answer: string | null;
		readonly amount: number | null;
		readonly currency: string | null;
	}[];
	readonly plan: readonly {
		readonly id: string;
		readonly title: string;
		readonly due: string | null;
		readonly side: string;
		readonly done: string | null;
		readonly late: boolean;
	}[];
	readonly accountInfo: SheetAccount | null;
	readonly lines: readonly {
		readonly product: string | null;
		readonly quantity: string | null;
		readonly list: number | null;
		readonly sold: number | null;
		readonly currency: string | null;
	}[];
	readonly happenings: readonly Happening[];
	readonly files: readonly AttachmentView[];
	readonly tasks: readonly SheetTask[];
	readonly mayAssign: boolean;
	/** may change, answer, note and log here: on this day, and this deal */
	readonly mayEdit: boolean;
	readonly mayNote: boolean;
	readonly versionId: number;
	/** what an edit begins with: as written, in the base currency where no amount has given it one */
	readonly state: DealState;
	readonly choices: EditChoices;
	/** who may be called on in a note */
	readonly callable: readonly string[];
	readonly me: string;
}
