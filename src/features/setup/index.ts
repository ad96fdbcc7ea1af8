import { capability } from "@/platform/capability";
import { readCompany, saveCompany } from "./server/company";
import { auditFile } from "./server/files";
import { previewFlags, readFlagSettings, saveFlags, undoFlags } from "./server/flagSettings";
import { readHabits, saveHabits } from "./server/habitSettings";
import { holdDay } from "./server/holdDay";
import { howItRuns } from "./server/howItRuns";
import { readQuestions, saveQuestions, undoQuestions } from "./server/questionSettings";
import { readAudit } from "./server/readAudit";
import { readStages, saveStages } from "./server/stageSettings";

export { type Company, type CompanyView, companySchema } from "./server/company";
export type { StageInput } from "./server/stageSettings";

/** The rules: flags, questions, stages, habits, the clock, and who changed what. */
export const setup = capability({
	key: "setup",
	files: [auditFile],
	commands: [saveFlags, undoFlags, saveQuestions, undoQuestions, saveStages, saveHabits, holdDay, saveCompany],
	lookups: [previewFlags],
	queries: [readFlagSettings, readQuestions, readStages, readHabits, readAudit, readCompany, howItRuns],
	rail: {
		path: "/setup",
		label: "Setup",
		key: "s",
		places: [
			{ path: "/setup?place=company", label: "Setup: company, currency, time and holidays" },
			{ path: "/setup?place=running", label: "Setup: health of the program", right: "readRunning" },
			{ path: "/setup?place=people", label: "Setup: people and teams" },
			{ path: "/setup?place=provider", label: "Setup: company sign-in", right: "manageSignIn" },
			{ path: "/setup?place=tables", label: "Setup: tables for other programs" },
			{ path: "/setup?place=flags", label: "Setup: flags" },
			{ path: "/setup?place=questions", label: "Setup: questions" },
			{ path: "/setup?place=stages", label: "Setup: stages and habits" },
			{ path: "/setup?place=audit", label: "Setup: audit", right: "readAudit" },
		],
	},
});
