import { accountsGiven } from "./accountsGiven";
import { amountCut } from "./amountCut";
import { feedCame } from "./feedCame";
import { feedWaits } from "./feedWaits";
import type { Happening } from "./happening";
import { named } from "./named";
import { pastMark } from "./pastMark";
import { periodClosed } from "./periodClosed";
import { periodTurned } from "./periodTurned";
import { pushedOut } from "./pushedOut";
import { quoteLapsed } from "./quoteLapsed";
import { reachesAct } from "./reachesAct";
import { reminder } from "./reminder";
import { replyOwed } from "./replyOwed";
import { restAnswered } from "./restAnswered";
import { restAsked } from "./restAsked";
import { roundEnded } from "./roundEnded";
import { roundTomorrow } from "./roundTomorrow";
import { taskBack } from "./taskBack";
import { taskGiven } from "./taskGiven";
import { taskOverdue } from "./taskOverdue";
import { viewGains } from "./viewGains";

/** Kinds of happenings somebody may be told of, as they are listed. A new one is one file and one line here. */
export const HAPPENINGS: readonly Happening[] = [
	taskGiven,
	taskBack,
	taskOverdue,
	reminder,
	named,
	roundTomorrow,
	roundEnded,
	restAsked,
	restAnswered,
	reachesAct,
	pushedOut,
	amountCut,
	replyOwed,
	quoteLapsed,
	pastMark,
	periodTurned,
	periodClosed,
	viewGains,
	accountsGiven,
	feedCame,
	feedWaits,
];
