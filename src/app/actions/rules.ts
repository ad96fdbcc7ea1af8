"use server";
import { z } from "zod";
import { previewFlags, saveFlags, undoFlags } from "@/features/setup/server/flagSettings";
import { saveHabits } from "@/features/setup/server/habitSettings";
import { saveQuestions, undoQuestions } from "@/features/setup/server/questionSettings";
import { saveStages } from "@/features/setup/server/stageSettings";
import { act } from "./act";

export async function previewFlagsAction(flags: unknown) {
	return act(async (context) => previewFlags(context, flags));
}

export async function saveFlagsAction(flags: unknown) {
	return act(async (context) => saveFlags(context, flags));
}

export async function undoFlagsAction(change: number) {
	return act(async (context) => undoFlags(context, z.number().int().parse(change)));
}

export async function saveQuestionsAction(questions: unknown) {
	return act(async (context) => saveQuestions(context, questions));
}

export async function undoQuestionsAction(change: number) {
	return act(async (context) => undoQuestions(context, z.number().int().parse(change)));
}

export async function saveStagesAction(stages: unknown) {
	return act(async (context) => {
		await saveStages(context, stages);
		return {};
	});
}

export async function saveHabitsAction(habits: unknown) {
	return act(async (context) => {
		await saveHabits(context, habits);
		return {};
	});
}
