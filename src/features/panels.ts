import type { Panel } from "@/platform/panel";
import { calendarPanel } from "./calendars/panels/calendar";
import { feedsPanel } from "./feeds/panels/feeds";
import { bundlePanel } from "./import/panels/bundle";
import { weeklyPanel } from "./import/panels/weekly";
import { keysPanel } from "./people/panels/keys";
import { peoplePanel } from "./people/panels/people";
import { providerPanel } from "./people/panels/provider";
import { signInPanel } from "./people/panels/signIn";
import { marksPanel } from "./period/panels/marks";
import { targetsPanel } from "./period/panels/targets";
import { mailPanel } from "./reaching/panels/mail";
import { reachingPanel } from "./reaching/panels/reaching";
import { sendingsPanel } from "./sendings/panels/sendings";
import { auditPanel } from "./setup/panels/audit";
import { clockPanel } from "./setup/panels/clock";
import { companyPanel } from "./setup/panels/company";
import { flagsPanel } from "./setup/panels/flags";
import { questionsPanel } from "./setup/panels/questions";
import { runningPanel } from "./setup/panels/running";
import { stagesPanel } from "./setup/panels/stages";
import { tablesPanel } from "./tables/panels/tables";
import { kitsPanel } from "./tasks/panels/kits";
import { webhooksPanel } from "./webhooks/panels/webhooks";

/** The panels of Setup, in their order within their group. A new one is one line here. */
export const PANELS: readonly Panel[] = [
	companyPanel,
	clockPanel,
	auditPanel,
	runningPanel,
	flagsPanel,
	questionsPanel,
	stagesPanel,
	kitsPanel,
	marksPanel,
	peoplePanel,
	providerPanel,
	targetsPanel,
	weeklyPanel,
	feedsPanel,
	bundlePanel,
	tablesPanel,
	mailPanel,
	webhooksPanel,
	reachingPanel,
	sendingsPanel,
	calendarPanel,
	keysPanel,
	signInPanel,
];
