"use client";
import { createContext, type ReactNode, useContext } from "react";

export type Outcome<T> = ({ readonly ok: true } & T) | { readonly ok: false; readonly title: string; readonly detail: string };

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

/** What the screens can have done. The application gives them; each is a server action over one use case. */
export interface Actions {
	assign(input: AssignInput): Promise<Outcome<{ ids: string[]; kept: string[]; afterClose: string[] }>>;
	takeBack(ids: string[]): Promise<Outcome<{ count: number }>>;
	changeTask(id: string, input: TaskInput): Promise<Outcome<object>>;
	createKey(name: string): Promise<Outcome<{ token: string }>>;
	revokeKey(id: string): Promise<Outcome<object>>;
	holdDay(day: string | null): Promise<Outcome<object>>;
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
