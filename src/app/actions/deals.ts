"use server";
import { z } from "zod";
import { editDeals, previewEdit } from "@/features/deals/server/editDeals";
import { changeSchema } from "@/features/deals/server/planEdit";
import { undoEdit } from "@/features/deals/server/undoEdit";
import { answerQuestion, answerSchema } from "@/features/evidence/server/answerQuestion";
import { dealsWithText, search } from "@/features/search/server/search";
import { addStep, changeStep, removeStep, stepChangeSchema, stepSchema } from "@/features/sheet/server/closePlan";
import { activitySchema, logActivity, settleActivity } from "@/features/sheet/server/logActivity";
import { noteSchema, takeBackNote, writeNote } from "@/features/sheet/server/writeNote";
import { comeBack, comeBackSchema } from "@/features/tasks/server/comeBack";
import type { ActivityInput, AnswerInput, DealTarget, EditInput, StepInput } from "@/ui/actions";
import { act, idSchema } from "./act";

const targetsSchema = z
	.array(z.object({ id: idSchema, versionId: z.number().int() }))
	.min(1, "Choose a deal first.")
	.max(500, "At most 500 deals at once.");

export async function previewEditAction(targets: DealTarget[], change: EditInput) {
	return act(async (context) => ({ deals: await previewEdit(context, targetsSchema.parse(targets), changeSchema.parse(change)) }));
}

export async function editAction(targets: DealTarget[], change: EditInput) {
	return act(async (context) => ({ deals: await editDeals(context, targetsSchema.parse(targets), changeSchema.parse(change)) }));
}

export async function undoEditAction(targets: DealTarget[]) {
	return act(async (context) => ({ deals: await undoEdit(context, targetsSchema.parse(targets)) }));
}

export async function answerAction(dealId: string, input: AnswerInput) {
	return act(async (context) => answerQuestion(context, idSchema.parse(dealId), answerSchema.parse(input)));
}

export async function noteAction(dealId: string, body: string) {
	return act(async (context) => writeNote(context, idSchema.parse(dealId), noteSchema.parse({ body })));
}

export async function takeBackNoteAction(id: string) {
	return act(async (context) => {
		await takeBackNote(context, idSchema.parse(id));
		return {};
	});
}

export async function logAction(dealId: string, input: ActivityInput) {
	return act(async (context) => logActivity(context, idSchema.parse(dealId), activitySchema.parse(input)));
}

export async function settleActivityAction(id: string, what: "back" | "done") {
	return act(async (context) => {
		await settleActivity(context, idSchema.parse(id), z.enum(["back", "done"]).parse(what));
		return {};
	});
}

export async function addStepAction(dealId: string, input: StepInput) {
	return act(async (context) => addStep(context, idSchema.parse(dealId), stepSchema.parse(input)));
}

export async function changeStepAction(id: string, input: Partial<StepInput> & { done?: boolean }) {
	return act(async (context) => {
		await changeStep(context, idSchema.parse(id), stepChangeSchema.parse(input));
		return {};
	});
}

export async function removeStepAction(id: string) {
	return act(async (context) => {
		await removeStep(context, idSchema.parse(id));
		return {};
	});
}

export async function comeBackAction(dealId: string, day: string, title: string) {
	return act(async (context) => comeBack(context, idSchema.parse(dealId), comeBackSchema.parse({ day, title })));
}

export async function searchAction(text: string) {
	return act(async (context) => ({ hits: await search(context, z.string().max(200).parse(text)) }));
}

export async function dealsWithTextAction(text: string) {
	return act(async (context) => ({ ids: await dealsWithText(context, z.string().max(200).parse(text)) }));
}
