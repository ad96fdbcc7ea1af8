"use server";
import { z } from "zod";
import { keepMark, newMarkSchema, removeMark } from "@/features/changes/server/marks";
import { changeView, openWith, orderViews, removeView, saveView } from "@/features/deals/server/views";
import { decideMissing, decisionSchema } from "@/features/import/server/weekly/missing";
import { act, idSchema } from "./act";

export async function saveViewAction(view: unknown) {
	return act(async (context) => saveView(context, view));
}

export async function changeViewAction(id: string, change: unknown) {
	return act(async (context) => {
		await changeView(context, idSchema.parse(id), change);
		return {};
	});
}

export async function removeViewAction(id: string) {
	return act(async (context) => {
		await removeView(context, idSchema.parse(id));
		return {};
	});
}

export async function orderViewsAction(ids: string[]) {
	return act(async (context) => {
		await orderViews(context, z.array(idSchema).max(500).parse(ids));
		return {};
	});
}

export async function openWithAction(id: string | null) {
	return act(async (context) => {
		await openWith(context, idSchema.nullable().parse(id));
		return {};
	});
}

export async function keepMarkAction(name: string) {
	return act(async (context) => ({ id: (await keepMark(context, newMarkSchema.parse({ name }))).id }));
}

export async function removeMarkAction(id: string) {
	return act(async (context) => {
		await removeMark(context, idSchema.parse(id));
		return {};
	});
}

export async function decideMissingAction(deals: { id: string; fileId: string }[], decision: "won" | "lost" | "removed" | "open" | null) {
	return act(async (context) => decideMissing(context, decisionSchema.parse({ deals, decision })));
}
