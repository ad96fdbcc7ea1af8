"use client";
import { createContext, type ReactNode, useContext } from "react";
import type { FlagSettings } from "@/core/flags/settings";
import type { Level } from "@/core/qualification/score";
import type { Edited, Preview } from "@/features/deals/server/editDeals";
import type { Hit } from "@/features/search/server/search";
import type { SettingsEffect } from "@/features/setup/server/flagSettings";
import type { Habits } from "@/features/setup/server/habitSettings";
import type { QuestionInput } from "@/features/setup/server/questionSettings";
import type { StageInput } from "@/features/setup/server/stageSettings";

export interface Refusal {
	readonly ok: false;
	readonly title: string;
	readonly detail: string;
	/** HTTP's status of a fault, and what it says beside its words */
	readonly status?: number;
	readonly more?: Readonly<Record<string, unknown>>;
}
export type Outcome<T> = ({ readonly ok: true } & T) | Refusal;

export interface AssignInput {
	dealIds: string[];
	title: string;
	dueOn?: string | undefined;
	flags?: string[] | undefined;
}
export interface TaskInput {
	state?: "open" | "done" | "dropped" | undefined;
	note?: string | null | undefined;
	dueOn?: string | undefined;
}

/** A deal and the version of it that was seen. */
export interface DealTarget {
	id: string;
	versionId: number;
}
export interface EditInput {
	stage?: string;
	amount?: number | null;
	closeDate?: string | null;
	ownerId?: string | null;
	category?: "commit" | "best_case" | "pipeline" | "omitted" | null;
	nextStep?: string | null;
	nextStepDate?: string | null;
	reason?: string;
	outcomeReason?: string;
	competitor?: string | null;
	closedOn?: string;
}
export interface AnswerInput {
	questionId: string;
	level: Level;
	note?: string | null;
	shownBy?: string | null;
	seenAt: string | null;
	anyway?: boolean;
}
export interface ActivityInput {
	kind: string;
	direction: "in" | "out" | "both" | "none";
	subject: string;
	contactIds?: string[];
	day?: string;
}
export interface StepInput {
	title: string;
	dueOn: string | null;
	side: "ours" | "theirs";
}

/** What the screens can have done. The application gives them; each is a server action over one use case. */
export interface Actions {
	assign(input: AssignInput): Promise<Outcome<{ ids: string[]; kept: string[]; afterClose: string[] }>>;
	takeBack(ids: string[]): Promise<Outcome<{ count: number }>>;
	changeTask(id: string, input: TaskInput): Promise<Outcome<object>>;
	createKey(name: string): Promise<Outcome<{ token: string }>>;
	revokeKey(id: string): Promise<Outcome<object>>;
	holdDay(day: string | null): Promise<Outcome<object>>;
	previewEdit(targets: DealTarget[], change: EditInput): Promise<Outcome<{ deals: Preview[] }>>;
	edit(targets: DealTarget[], change: EditInput): Promise<Outcome<{ deals: Edited[] }>>;
	undoEdit(targets: DealTarget[]): Promise<Outcome<{ deals: Edited[] }>>;
	answer(dealId: string, input: AnswerInput): Promise<Outcome<{ at: string }>>;
	note(dealId: string, body: string): Promise<Outcome<{ id: string; mentions: string[] }>>;
	takeBackNote(id: string): Promise<Outcome<object>>;
	log(dealId: string, input: ActivityInput): Promise<Outcome<{ id: string; planned: boolean }>>;
	settleActivity(id: string, what: "back" | "done"): Promise<Outcome<object>>;
	addStep(dealId: string, input: StepInput): Promise<Outcome<{ id: string }>>;
	changeStep(id: string, input: Partial<StepInput> & { done?: boolean }): Promise<Outcome<object>>;
	removeStep(id: string): Promise<Outcome<object>>;
	addPerson(dealId: string, who: { contactId: string } | { name: string; title: string | null; role: string }): Promise<Outcome<{ id: string }>>;
	removePerson(dealId: string, contactId: string): Promise<Outcome<object>>;
	setRole(dealId: string, contactId: string, role: string): Promise<Outcome<object>>;
	sendQuote(dealId: string, number: string | null, validUntil: string): Promise<Outcome<{ id: string }>>;
	answerQuote(id: string, answer: string | null): Promise<Outcome<object>>;
	keepMark(name: string): Promise<Outcome<{ id: string }>>;
	removeMark(id: string): Promise<Outcome<object>>;
	decideMissing(deals: { id: string; fileId: string }[], decision: "won" | "lost" | "removed" | "open" | null): Promise<Outcome<{ count: number }>>;
	comeBack(dealId: string, day: string, title: string): Promise<Outcome<{ id: string; assignee: string }>>;
	search(text: string): Promise<Outcome<{ hits: Hit[] }>>;
	dealsWithText(text: string): Promise<Outcome<{ ids: string[] }>>;
	previewFlags(flags: FlagSettings): Promise<Outcome<SettingsEffect>>;
	saveFlags(flags: FlagSettings): Promise<Outcome<{ change: number }>>;
	undoFlags(change: number): Promise<Outcome<{ change: number }>>;
	saveQuestions(questions: QuestionInput[]): Promise<Outcome<{ change: number }>>;
	undoQuestions(change: number): Promise<Outcome<{ change: number }>>;
	saveStages(stages: StageInput[]): Promise<Outcome<object>>;
	saveHabits(habits: Habits): Promise<Outcome<object>>;
	saveView(view: { name: string; query: string; shared: boolean }): Promise<Outcome<{ id: string }>>;
	changeView(id: string, change: { name?: string; query?: string; shared?: boolean }): Promise<Outcome<object>>;
	removeView(id: string): Promise<Outcome<object>>;
	orderViews(ids: string[]): Promise<Outcome<object>>;
	openWith(id: string | null): Promise<Outcome<object>>;
	setTheme(theme: "light" | "dark"): Promise<void>;
	signOut(): Promise<void>;
}

const Context = createContext<Actions | null>(null);

export function ActionsProvider({ actions, children }: { actions: Actions; children: ReactNode }) {
	return <Context.Provider value={actions}>{children}</Context.Provider>;
}

export function useActions(): Actions {
	const actions = useContext(Context);
	if (!actions) throw new Error("useActions outside its provider");
	return actions;
}
