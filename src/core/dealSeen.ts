import type { Attention, Light } from "./attention/attention";
import type { Rest } from "./attention/rest";
import type { Contact } from "./contact/contact";
import type { Flag } from "./flags/rule";
import type { Path } from "./history/path";
import type { StageKind } from "./history/stage";
import type { Qualification } from "./qualification/score";
import type { Day } from "./time/day";
import type { Trail } from "./trail/trail";

/** Everything the program says of one deal seen on one day. */
export interface DealSeen {
	readonly deal: number;
	/** which of the deal's own versions it is, from 0: that stays, where its row in the history moves with others' versions */
	readonly versionOrdinal: number;
	readonly status: StageKind;
	readonly stageIndex: number;
	/** base minor units, 0 where blank */
	readonly amountBase: number;
	readonly close: Day;
	/** the day since which it is won, or lost; NO_DAY while it is open */
	readonly closedDay: Day;
	readonly owner: number;
	readonly path: Path;
	readonly stageAge: number;
	readonly dealAge: number;
	readonly trail: Trail;
	readonly contact: Contact;
	readonly qualification: Qualification;
	readonly flags: readonly Flag[];
	readonly attention: Attention;
	/** the level by the score alone, rests aside: what learning and outlook go by, since a rest says nothing of a deal's chance */
	readonly ownLevel: Light;
	/** left alone on this day, and so at the level of a calm one */
	readonly rest: Rest | null;
}
