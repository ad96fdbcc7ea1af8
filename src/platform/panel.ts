import type { ReactNode } from "react";
import type { Context } from "./context";
import type { Right } from "./rights";

/** What of a long list a panel shows. */
export interface PanelLook {
	readonly limit: number;
	/** what else stands in the address, by name */
	readonly ask: (name: string) => string | undefined;
}

/** The groups of Setup, in their order. */
export const PANEL_GROUPS = [
	{ key: "company", label: "Company" },
	{ key: "rules", label: "Rules" },
	{ key: "people", label: "People" },
	{ key: "data", label: "Data" },
	{ key: "mine", label: "Mine" },
] as const;
export type PanelGroup = (typeof PANEL_GROUPS)[number]["key"];

/** A panel of Setup: a place with words of its own, shown to those who have its right; only the one that is looked at is read. */
export interface Panel {
	/** names it in the address */
	readonly key: string;
	readonly label: string;
	readonly group: PanelGroup;
	/** one sentence: what is set here; the search of Setup reads it too */
	readonly about: string;
	readonly right: Right;
	readonly show: (context: Context, look: PanelLook) => Promise<ReactNode> | ReactNode;
}

/**
 * Makes a panel of Setup.
 *
 * @example export const peoplePanel = panel({ key: "people", label: "People and teams", group: "people", about: "Who is with the company.", right: "readPeople", show: (context) => <PeoplePanel view={readPeople(context)} /> });
 */
export const panel = (given: Panel): Panel => given;
