import "bootstrap/dist/css/bootstrap.min.css";
import "@fontsource-variable/fraunces";
import "@fontsource-variable/source-sans-3";
import "@/ui/theme.css";
import "@/ui/shell.css";
import type { Metadata } from "next";
import { cookies } from "next/headers";
import { NuqsAdapter } from "nuqs/adapters/next/app";
import type { ReactNode } from "react";
import { ActionsProvider } from "@/ui/actions";
import { Notices } from "@/ui/parts/Notices";
import * as own from "./actions";
import * as deals from "./actions/deals";
import * as records from "./actions/records";
import * as rules from "./actions/rules";
import * as views from "./actions/views";

export const metadata: Metadata = {
	title: { default: "Porch Lamp", template: "%s · Porch Lamp" },
	description: "Which open deals need a light left on, and why.",
};
export const dynamic = "force-dynamic";

export default async function Layout({ children }: { children: ReactNode }) {
	const theme = (await cookies()).get("porch_lamp_theme")?.value === "dark" ? "dark" : "light";
	return (
		<html lang="en" data-bs-theme={theme}>
			<body>
				<NuqsAdapter>
					<ActionsProvider
						actions={{
							assign: own.assignAction,
							takeBack: own.takeBackAction,
							changeTask: own.changeTaskAction,
							createKey: own.createKeyAction,
							revokeKey: own.revokeKeyAction,
							holdDay: own.holdDayAction,
							setTheme: own.setThemeAction,
							signOut: own.signOutAction,
							previewEdit: deals.previewEditAction,
							edit: deals.editAction,
							undoEdit: deals.undoEditAction,
							answer: deals.answerAction,
							note: deals.noteAction,
							takeBackNote: deals.takeBackNoteAction,
							log: deals.logAction,
							settleActivity: deals.settleActivityAction,
							addStep: deals.addStepAction,
							changeStep: deals.changeStepAction,
							removeStep: deals.removeStepAction,
							comeBack: deals.comeBackAction,
							search: deals.searchAction,
							dealsWithText: deals.dealsWithTextAction,
							addPerson: records.addPersonAction,
							removePerson: records.removePersonAction,
							setRole: records.setRoleAction,
							sendQuote: records.sendQuoteAction,
							answerQuote: records.answerQuoteAction,
							previewFlags: rules.previewFlagsAction,
							saveFlags: rules.saveFlagsAction,
							undoFlags: rules.undoFlagsAction,
							saveQuestions: rules.saveQuestionsAction,
							undoQuestions: rules.undoQuestionsAction,
							saveStages: rules.saveStagesAction,
							saveHabits: rules.saveHabitsAction,
							keepMark: views.keepMarkAction,
							removeMark: views.removeMarkAction,
							decideMissing: views.decideMissingAction,
							saveView: views.saveViewAction,
							changeView: views.changeViewAction,
							removeView: views.removeViewAction,
							orderViews: views.orderViewsAction,
							openWith: views.openWithAction,
						}}
					>
						<Notices>{children}</Notices>
					</ActionsProvider>
				</NuqsAdapter>
			</body>
		</html>
	);
}
