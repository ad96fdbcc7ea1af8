import { panel } from "@/platform/panel";
import { may } from "@/platform/rights";
import { readQuestions } from "../server/questionSettings";
import { QuestionsPanel } from "../ui/QuestionsPanel";

export const questionsPanel = panel({
	key: "questions",
	label: "Questions",
	group: "rules",
	about: "The qualification questions, their weight, and the stage they are due at.",
	right: "readRules",
	show: (context) => <QuestionsPanel view={readQuestions(context)} mayChange={may(context.actor, "changeRules")} />,
});
