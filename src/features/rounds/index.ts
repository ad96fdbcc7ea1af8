import { CALL_KINDS } from "@/core/rounds/calls";
import { capability } from "@/platform/capability";
import { roundRoutes } from "./server/apiRoutes";
import { goTo, noteRound, placeDeal, promise, takeDeal } from "./server/conduct";
import { lastEndedOf } from "./server/ended";
import { dropRound, endRound, reopenRound } from "./server/endRound";
import { minutesFile } from "./server/files";
import { decide, makeCall, takeCallBack } from "./server/makeCall";
import { roundsOfDeal } from "./server/ofDeal";
import { countDueRounds, makePlanned, readPlans, removePlan, savePlan } from "./server/plans";
import { readPreparation, readPrepared, sayReady } from "./server/preparation";
import { readBrief } from "./server/readBrief";
import { readHeld } from "./server/readHeld";
import { readMinutes } from "./server/readMinutes";
import { readRests } from "./server/readRests";
import { readRound } from "./server/readRound";
import { readRounds } from "./server/readRounds";
import { answerRest, askRest, endRest, endRests, giveRest } from "./server/rests";
import { startRound } from "./server/startRound";
import { readWalk, startWalk } from "./server/startWalk";

export { lastEndedOf, plansOf, roundsEndedSince } from "./server/ended";
export { minutesFile } from "./server/files";
export type { MinutesView } from "./server/minutesView";
export { nextOf, readPlans } from "./server/plans";
export { readPrepared } from "./server/preparation";
export { type PromiseView, promisesGiven } from "./server/promises";
export { type CallTold, callsTold } from "./server/readHeld";
export { readMinutes, saidOf, totalsHeading } from "./server/readMinutes";
export { readRests } from "./server/readRests";
export { totalsToKeep } from "./server/totals";

const IN_A_ROUND = { on: "/rounds/", where: "In a round" };

/** The review: rounds with their calls, promises and minutes; a manager's own walk; deals at rest; a brief of a deal. */
export const rounds = capability({
	key: "rounds",
	files: [minutesFile],
	commands: [
		startRound,
		startWalk,
		goTo,
		makeCall,
		takeCallBack,
		decide,
		noteRound,
		placeDeal,
		takeDeal,
		promise,
		endRound,
		reopenRound,
		dropRound,
		savePlan,
		removePlan,
		makePlanned,
		sayReady,
		giveRest,
		askRest,
		answerRest,
		endRest,
	],
	lookups: [roundsOfDeal],
	queries: [
		readRounds,
		readRound,
		readMinutes,
		readPlans,
		countDueRounds,
		readPreparation,
		readPrepared,
		readBrief,
		readHeld,
		readWalk,
		readRests,
		lastEndedOf,
	],
	api: roundRoutes,
	often: [{ name: "end-rests", afterWrites: true, run: endRests }],
	rail: { path: "/rounds", label: "Rounds", key: "r", count: { label: "due", value: countDueRounds } },
	keys: [
		{ key: `1 to ${CALL_KINDS.length}`, label: CALL_KINDS.map(({ label }) => label.toLowerCase()).join(", "), ...IN_A_ROUND },
		{ key: "J and K", label: "next and previous deal", ...IN_A_ROUND },
		{ key: "T", label: "promise a task", ...IN_A_ROUND },
		{ key: "N", label: "note something of the deal", ...IN_A_ROUND },
		{ key: "E", label: "change the deal", ...IN_A_ROUND },
		{ key: "S", label: "open the deal’s whole sheet", ...IN_A_ROUND },
	],
});
