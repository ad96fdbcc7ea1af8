import { capability } from "@/platform/capability";
import { intakeRoutes } from "./server/apiRoutes";
import { cardsOf } from "./server/cards";
import { forgetIntakes } from "./server/forget";
import { previewIntake } from "./server/preview";
import { cancelIntake, registerIntake, takeIntake, undoIntake } from "./server/take";

/** Messages, meetings and people out of files of open formats, logged with a deal or an account. */
export const intake = capability({
	key: "intake",
	commands: [registerIntake, cancelIntake, takeIntake, undoIntake],
	lookups: [previewIntake],
	queries: [cardsOf],
	api: intakeRoutes,
	nightly: [forgetIntakes],
});
